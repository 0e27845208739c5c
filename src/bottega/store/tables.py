"""The tables: jobs, their append-only events, droppable summaries for lists, members, settings."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, String, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all tables."""


class JobRow(Base):
    """A job's number. All else about it is in its events."""

    __tablename__ = "jobs"

    id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[str] = mapped_column(String(12), unique=True)


class EventRow(Base):
    """One event. ``seq`` counts from 1 within its job; the event id is made by the client and
    unique."""

    __tablename__ = "events"
    __table_args__ = (UniqueConstraint("job_id", "seq"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"), index=True)
    seq: Mapped[int]
    event_id: Mapped[str] = mapped_column(String(64), unique=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    author: Mapped[str] = mapped_column(String(60))
    kind: Mapped[str] = mapped_column(String(30))
    version: Mapped[int] = mapped_column(default=1, server_default="1")
    """The version of the body; older ones are read by upcasters and never rewritten."""
    body: Mapped[dict[str, Any]] = mapped_column(JSON)


class SummaryRow(Base):
    """What a list shows of a job, computed from its log up to ``seq``; may be dropped at any
    time."""

    __tablename__ = "summaries"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"), primary_key=True)
    seq: Mapped[int]
    version: Mapped[int]
    lane: Mapped[str] = mapped_column(String(20), index=True)
    archetype: Mapped[str] = mapped_column(String(20))
    closed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    words: Mapped[str] = mapped_column(Text)
    """What a search looks through, in small letters."""
    body: Mapped[dict[str, Any]] = mapped_column(JSON)


class SheetRow(Base):
    """One revision of a model sheet written in this shop; ``seq`` counts from 1 within its
    sheet."""

    __tablename__ = "sheet_revisions"
    __table_args__ = (UniqueConstraint("sheet", "seq"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    sheet: Mapped[str] = mapped_column(String(60), index=True)
    seq: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    author: Mapped[str] = mapped_column(String(60))
    text: Mapped[str] = mapped_column(Text)
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class MemberRow(Base):
    """A member of the shop, chosen as the author of events."""

    __tablename__ = "members"

    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    role: Mapped[str] = mapped_column(String(40))


class SettingsRow(Base):
    """The shop's settings; one row."""

    __tablename__ = "settings"

    id: Mapped[int] = mapped_column(primary_key=True)
    body: Mapped[dict[str, Any]] = mapped_column(JSON)


class RigRow(Base):
    """A machine of physics: its type, the seed it is drawn by, its faults by severity, the job
    it is bound to; how it stood after the last act, and how many acts there were."""

    __tablename__ = "rigs"

    name: Mapped[str] = mapped_column(String(20), primary_key=True)
    archetype: Mapped[str] = mapped_column(String(20))
    sheet: Mapped[str | None] = mapped_column(String(60))
    seed: Mapped[str] = mapped_column(String(60))
    faults: Mapped[dict[str, float]] = mapped_column(JSON)
    job: Mapped[str | None] = mapped_column(String(20), index=True)
    acts: Mapped[int] = mapped_column(default=0, server_default="0")
    left: Mapped[dict[str, Any] | None] = mapped_column(JSON)
