"""The event log: create jobs, append events once, read them back; and the droppable summaries beside it."""

from dataclasses import dataclass
from datetime import UTC
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from bottega.core.job.events import Event
from bottega.store.database import Database
from bottega.store.tables import EventRow, JobRow, SummaryRow

FIRST_NUMBER = 401


class UnknownJob(LookupError):
    """No job with this number."""


class LogMoved(RuntimeError):
    """Somebody else appended in between; ``seq`` is where the log stands."""

    def __init__(self, seq: int) -> None:
        super().__init__(f"the log stands at {seq}")
        self.seq = seq


@dataclass(frozen=True)
class Summary:
    """What a list shows of a job, and up to which event it was computed."""

    number: str
    seq: int
    body: dict[str, Any]


class EventLog:
    """All jobs' events in the database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def next_number(self) -> str:
        """Return the number the next job would get."""
        with self._database.sessions() as session:
            numbers = session.scalars(select(JobRow.number)).all()
        return f"{max((int(n) for n in numbers if n.isdigit()), default=FIRST_NUMBER - 1) + 1:04d}"

    def create(self, number: str, events: list[Event]) -> None:
        """Store a new job with its first events in one transaction. Raises LogMoved if number or an event id is taken."""
        try:
            with self._writing() as session, session.begin():
                job = JobRow(number=number)
                session.add(job)
                session.flush()
                session.add_all(_row(job.id, seq, event) for seq, event in enumerate(events, start=1))
        except IntegrityError as error:
            raise LogMoved(0) from error

    def append(self, number: str, event: Event, after_seq: int) -> int:
        """Store one event after ``after_seq`` and return its sequence number; acknowledged means on disk.

        An event id that is stored already on this job is not stored again. Raises UnknownJob, LogMoved.
        """
        try:
            with self._writing() as session, session.begin():
                job_id = _job_id(session, number)
                known = session.scalar(select(EventRow).where(EventRow.event_id == event.id))
                if known is not None:
                    if known.job_id != job_id:
                        raise LogMoved(known.seq)
                    return known.seq
                last = session.scalar(select(func.max(EventRow.seq)).where(EventRow.job_id == job_id)) or 0
                if last != after_seq:
                    raise LogMoved(last)
                session.add(_row(job_id, last + 1, event))
                return last + 1
        except IntegrityError as error:
            raise LogMoved(after_seq) from error

    def read(self, number: str) -> list[Event]:
        """Return a job's events in order. Raises UnknownJob."""
        with self._database.sessions() as session:
            job_id = _job_id(session, number)
            rows = session.scalars(select(EventRow).where(EventRow.job_id == job_id).order_by(EventRow.seq)).all()
        return [_event(row) for row in rows]

    def seq(self, number: str) -> int:
        """Return how many events a job has. Raises UnknownJob."""
        with self._database.sessions() as session:
            job_id = _job_id(session, number)
            return session.scalar(select(func.max(EventRow.seq)).where(EventRow.job_id == job_id)) or 0

    def has_event(self, number: str, event_id: str) -> bool:
        """Return whether this job stored an event of this id. Raises UnknownJob."""
        with self._database.sessions() as session:
            job_id = _job_id(session, number)
            found = session.scalar(select(EventRow.job_id).where(EventRow.event_id == event_id))
        return found == job_id

    def numbers(self) -> list[str]:
        """Return all job numbers, newest first."""
        with self._database.sessions() as session:
            return list(session.scalars(select(JobRow.number).order_by(JobRow.id.desc())))

    def summaries(self) -> dict[str, Summary]:
        """Return the summaries kept, by job number; some may be missing or old."""
        with self._database.sessions() as session:
            rows = session.execute(select(JobRow.number, SummaryRow).join(SummaryRow, SummaryRow.job_id == JobRow.id))
            return {number: Summary(number, row.seq, row.body) for number, row in rows}

    def positions(self) -> dict[str, int]:
        """Return how many events each job has, by number."""
        with self._database.sessions() as session:
            rows = session.execute(
                select(JobRow.number, func.count(EventRow.id))
                .join(EventRow, EventRow.job_id == JobRow.id)
                .group_by(JobRow.id)
            )
            return {number: count for number, count in rows}  # noqa: C416 (a Result is not a mapping)

    def keep_summary(self, summary: Summary) -> None:
        """Store or replace a summary."""
        with self._writing() as session, session.begin():
            job_id = _job_id(session, summary.number)
            session.merge(SummaryRow(job_id=job_id, seq=summary.seq, body=summary.body))

    def _writing(self) -> Session:
        engine = self._database.engine.execution_options(writes=True)
        return Session(engine, expire_on_commit=False)


def _job_id(session: Session, number: str) -> int:
    job_id = session.scalar(select(JobRow.id).where(JobRow.number == number))
    if job_id is None:
        raise UnknownJob(f"found no job '{number}', expected the number of a job of this shop")
    return job_id


def _row(job_id: int, seq: int, event: Event) -> EventRow:
    body = event.body.model_dump(mode="json")
    return EventRow(
        job_id=job_id,
        seq=seq,
        event_id=event.id,
        at=event.at.astimezone(UTC),
        author=event.author,
        kind=event.body.kind,
        body=body,
    )


def _event(row: EventRow) -> Event:
    at = row.at if row.at.tzinfo else row.at.replace(tzinfo=UTC)
    return Event.model_validate({"id": row.event_id, "at": at, "author": row.author, "body": row.body})
