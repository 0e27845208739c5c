"""The event log: create jobs, append events once, read them back."""

from collections.abc import Sequence
from datetime import UTC, datetime

from pydantic import ValidationError
from sqlalchemy import Integer, bindparam, cast, func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from bottega.core.job.events import Event
from bottega.core.job.file import StoredEvent, replaced, restored, withdrawn_ids
from bottega.core.job.kinds import kind_of
from bottega.store.database import Database
from bottega.store.summary import Summary, keep_summary
from bottega.store.tables import EventRow, JobRow

FIRST_NUMBER = 401
"""The first number of an empty shop; chosen, so that numbers have four figures on labels."""
ALL_FIGURES = "*[^0-9]*"
"""Matches (as a GLOB) a number with anything but figures in it."""

JOB_ID = select(JobRow.id).where(JobRow.number == bindparam("number"))
LAST_SEQ = select(func.max(EventRow.seq)).where(EventRow.job_id == bindparam("job_id"))
EVENTS = select(EventRow).where(EventRow.job_id == bindparam("job_id")).order_by(EventRow.seq)
KNOWN = select(EventRow).where(EventRow.event_id == bindparam("event_id"))
"""What every entry asks, built once: to build a statement costs more than to run it."""
OF_JOB = "FROM events JOIN jobs ON jobs.id = events.job_id WHERE jobs.number = ?"
SEQ = f"SELECT max(events.seq) {OF_JOB}"
SIZE = f"SELECT count(*), sum(length(events.body)) {OF_JOB}"
"""What every page asks, in plain SQL."""


class UnknownJob(LookupError):
    """No job with this number."""


class LogMoved(RuntimeError):
    """Somebody else appended in between; ``seq`` is where the log stands."""

    def __init__(self, seq: int) -> None:
        super().__init__(f"the log stands at {seq}")
        self.seq = seq


class TakenId(RuntimeError):
    """An event id, or a job number, that is taken by something else."""


class UnreadableEvent(ValueError):
    """An event that is kept but cannot be read; ``seq`` says which."""

    def __init__(self, seq: int, reason: str) -> None:
        super().__init__(f"event {seq}: {reason}")
        self.seq = seq


class EventLog:
    """All jobs' events in the database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def create(
        self, events: list[Event], number: str | None = None, summary: Summary | None = None
    ) -> str:
        """Store a new job with its first events in one transaction and return its number.

        Without ``number`` it gets the next one of the shop, whoever else opens jobs. Raises TakenId
        when the number or an event id is taken.
        """
        try:
            with self._database.writing() as session:
                chosen = number or _next_number(session)
                job = JobRow(number=chosen)
                session.add(job)
                session.flush()
                rows = [_row(job.id, seq, event) for seq, event in enumerate(events, start=1)]
                session.add_all(rows)
                if summary is not None:
                    keep_summary(session, job.id, summary)
        except IntegrityError as error:
            raise TakenId(
                f"found job {number or 'new'} or one of its events here already"
            ) from error
        return chosen

    def next_number(self) -> str:
        """Return the number the next job would get."""
        with self._database.reading() as session:
            return _next_number(session)

    def append(
        self, number: str, event: Event, after_seq: int, summary: Summary | None = None
    ) -> int:
        """Store one event after ``after_seq`` and return its sequence number; acknowledged means on
        disk.

        An event that is stored already on this job is not stored again. Raises UnknownJob,
        LogMoved, and TakenId when another event has its id.
        """
        with self._database.writing() as session:
            job_id = _job_id(session, number)
            known = session.scalar(KNOWN, {"event_id": event.id})
            if known is not None:
                if known.job_id != job_id or not _same(known, event):
                    raise TakenId(f"found the event id '{event.id}' on something else already")
                return known.seq
            last = session.scalar(LAST_SEQ, {"job_id": job_id}) or 0
            if last != after_seq:
                raise LogMoved(last)
            session.add(_row(job_id, last + 1, event))
            if summary is not None:
                keep_summary(session, job_id, summary)
        return last + 1

    def read(self, number: str) -> list[Event]:
        """Return a job's events in order, older bodies made into those of today.

        One that cannot be read but has been withdrawn is read as a note. Raises UnknownJob,
        UnreadableEvent.
        """
        kept = self.stored(number)
        withdrawn = withdrawn_ids(kept)
        events = []
        for seq, stored in enumerate(kept, start=1):
            try:
                events.append(restored(stored))
            except ValueError as error:
                if stored.id not in withdrawn:
                    raise UnreadableEvent(seq, _reason(error)) from error
                events.append(replaced(stored))
        return events

    def stored(self, number: str) -> list[StoredEvent]:
        """Return a job's events exactly as they are kept, in order; a body spoilt by hand is empty.
        Raises UnknownJob."""
        with self._database.reading() as session:
            job_id = _job_id(session, number)
            rows = session.scalars(EVENTS, {"job_id": job_id}).all()
        return [
            StoredEvent(
                id=row.event_id,
                at=_utc(row.at),
                author=row.author,
                version=row.version,
                body=row.body if isinstance(row.body, dict) else {},
            )
            for row in rows
        ]

    def size(self, number: str) -> tuple[int, int]:
        """Return how many events a job has, and how many letters their bodies have as they are
        stored."""
        count, letters = self._database.row(SIZE, number) or (0, 0)
        return count, letters or 0

    def seq(self, number: str) -> int:
        """Return how many events a job has. Raises UnknownJob."""
        (last,) = self._database.row(SEQ, number) or (None,)
        if last is None:
            raise UnknownJob(f"found no job '{number}', expected the number of a job of this shop")
        return int(last)

    def job_of(self, event_id: str) -> str | None:
        """Return the number of the job that stored an event of this id, or None."""
        with self._database.reading() as session:
            wanted = select(JobRow.number).join(EventRow).where(EventRow.event_id == event_id)
            return session.scalar(wanted)

    def names_photo(self, name: str) -> bool:
        """Return whether any event speaks of a photo."""
        spoken = EventRow.body["photo"].as_string() == name
        with self._database.reading() as session:
            return session.scalar(select(EventRow.id).where(spoken).limit(1)) is not None

    def numbers(self) -> list[str]:
        """Return all job numbers, newest first."""
        with self._database.reading() as session:
            return list(session.scalars(select(JobRow.number).order_by(JobRow.id.desc())))

    def has_jobs(self) -> bool:
        """Return whether the shop has any job."""
        with self._database.reading() as session:
            return session.scalar(select(JobRow.id).limit(1)) is not None

    def stamps(
        self, numbers: Sequence[str], since: datetime, until: datetime
    ) -> dict[str, list[tuple[datetime, str]]]:
        """Return when something was noted on some jobs between two moments and by whom, by job
        number, in order."""
        with self._database.reading() as session:
            rows = session.execute(
                select(JobRow.number, EventRow.at, EventRow.author)
                .join(EventRow, EventRow.job_id == JobRow.id)
                .where(JobRow.number.in_(numbers))
                .where(EventRow.at >= since.astimezone(UTC), EventRow.at < until.astimezone(UTC))
                .order_by(EventRow.id)
            ).all()
        found: dict[str, list[tuple[datetime, str]]] = {}
        for number, at, author in rows:
            found.setdefault(number, []).append((_utc(at), author))
        return found


def _reason(error: ValueError) -> str:
    if not isinstance(error, ValidationError):
        return str(error)
    first = error.errors()[0]
    where = ".".join(str(part) for part in first["loc"])
    return f"{where}: {first['msg'].lower()}"


def _next_number(session: Session) -> str:
    figures = JobRow.number.op("NOT GLOB")(ALL_FIGURES)
    last = session.scalar(select(func.max(cast(JobRow.number, Integer))).where(figures)) or 0
    return f"{max(int(last), FIRST_NUMBER - 1) + 1:04d}"


def _job_id(session: Session, number: str) -> int:
    job_id = session.scalar(JOB_ID, {"number": number})
    if job_id is None:
        raise UnknownJob(f"found no job '{number}', expected the number of a job of this shop")
    return job_id


def _row(job_id: int, seq: int, event: Event) -> EventRow:
    return EventRow(
        job_id=job_id,
        seq=seq,
        event_id=event.id,
        at=event.at.astimezone(UTC),
        author=event.author,
        kind=event.body.kind,
        version=kind_of(event.body).version,
        body=event.body.model_dump(mode="json"),
    )


def _same(row: EventRow, event: Event) -> bool:
    return row.kind == event.body.kind and row.body == event.body.model_dump(mode="json")


def _utc(moment: datetime) -> datetime:
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)
