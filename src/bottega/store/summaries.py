"""Summaries: what lists show of a job, computed from its log and kept beside it. They may be
dropped at any time."""

import json
from collections import Counter
from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy import Select, case, func, or_, select, true

from bottega.store.database import Database
from bottega.store.log import UnknownJob
from bottega.store.summary import SUMMARY_VERSION, Summary, keep_summary, washer_word
from bottega.store.tables import EventRow, JobRow, SummaryRow

NO_OBJECT = func.json_type(SummaryRow.body) != "object"
"""Of a summary that was spoilt by hand; it is made anew from the log."""


class Summaries:
    """The summaries of all jobs in the database."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def keep(self, summary: Summary) -> None:
        """Store or replace a summary; one of an earlier state of the log never replaces a later
        one.

        Raises UnknownJob.
        """
        with self._database.writing() as session:
            job_id = session.scalar(select(JobRow.id).where(JobRow.number == summary.number))
            if job_id is None:
                raise UnknownJob(f"found no job '{summary.number}', expected the number of a job")
            keep_summary(session, job_id, summary)

    def stale(self, most: int | None = None) -> list[str]:
        """Return the numbers of jobs whose summary is missing, of another version, or older than
        their log."""
        last = select(func.max(EventRow.seq)).where(EventRow.job_id == JobRow.id).scalar_subquery()
        wanted = (
            select(JobRow.number)
            .outerjoin(SummaryRow, SummaryRow.job_id == JobRow.id)
            .where(
                or_(
                    SummaryRow.seq.is_(None),
                    SummaryRow.version != SUMMARY_VERSION,
                    SummaryRow.seq != last,
                    func.json_valid(SummaryRow.body) == 0,
                    case((func.json_valid(SummaryRow.body) == 1, NO_OBJECT), else_=False),
                )
            )
            .order_by(JobRow.id.desc())
            .limit(most)
        )
        with self._database.reading() as session:
            return list(session.scalars(wanted))

    def lanes(self) -> dict[str, int]:
        """Return how many jobs stand in each lane."""
        counted = select(SummaryRow.lane, func.count()).group_by(SummaryRow.lane)
        with self._database.reading() as session:
            return dict(session.execute(counted).all())

    def in_lanes(self, lanes: Sequence[str], most: int, skip: int = 0) -> list[Summary]:
        """Return up to ``most`` summaries of each of some lanes, newest job first, after skipping
        some of each."""
        place = (
            func.row_number()
            .over(partition_by=SummaryRow.lane, order_by=SummaryRow.job_id.desc())
            .label("place")
        )
        placed = select(SummaryRow.job_id, place).where(SummaryRow.lane.in_(lanes)).subquery()
        wanted = (
            _with_number()
            .join(placed, placed.c.job_id == SummaryRow.job_id)
            .where(placed.c.place > skip, placed.c.place <= skip + most)
        )
        return self._read(wanted)

    def search(self, words: Sequence[str], most: int) -> list[Summary]:
        """Return up to ``most`` summaries that hold every word, newest job first."""
        wanted = _with_number()
        for word in words:
            wanted = wanted.where(
                or_(
                    SummaryRow.words.contains(word.lower(), autoescape=True),
                    JobRow.number.contains(word, autoescape=True),
                )
            )
        return self._read(wanted.limit(most))

    def of(self, numbers: Sequence[str]) -> list[Summary]:
        """Return the summaries of some jobs, newest first."""
        return self._read(_with_number().where(JobRow.number.in_(numbers)))

    def of_washer(self, keys: Sequence[str], most: int) -> list[Summary]:
        """Return the summaries of up to ``most`` jobs on a washer known by any of these keys, the
        newest first."""
        named = [SummaryRow.words.contains(washer_word(key), autoescape=True) for key in keys]
        return self._read(_with_number().where(or_(*named)).limit(most))

    def with_strange_codes(self, sheet: str) -> list[Summary]:
        """Return the summaries of jobs whose panel showed what is in no table of that sheet, newest
        first."""
        of_sheet = func.json_extract(SummaryRow.body, "$.sheet") == sheet
        some = func.json_array_length(SummaryRow.body, "$.unlisted") > 0
        return self._read(_with_number().where(of_sheet, some))

    def put_right_before(self, moment: datetime, archetype: str) -> tuple[int, Counter[str]]:
        """Return how many jobs on one kind of machine were handed over before a moment, and how
        often each fault was put right on them."""
        wanted = (
            SummaryRow.version == SUMMARY_VERSION,
            SummaryRow.archetype == archetype,
            SummaryRow.closed_at < moment.astimezone(UTC),
        )
        faults = func.json_each(SummaryRow.body, "$.put_right").table_valued("value")
        counted = (
            select(faults.c.value, func.count())
            .select_from(SummaryRow)
            .join(faults, true())
            .where(*wanted)
            .group_by(faults.c.value)
        )
        with self._database.reading() as session:
            closed = session.scalar(select(func.count()).select_from(SummaryRow).where(*wanted))
            return closed or 0, Counter(dict(session.execute(counted).all()))

    def closed(self, lanes: Sequence[str]) -> int:
        """Return how many jobs stand in some lanes; the index of lanes alone is read."""
        counted = select(func.count(SummaryRow.lane)).where(SummaryRow.lane.in_(lanes))
        with self._database.reading() as session:
            return session.scalar(counted) or 0

    def good_readings(self, archetype: str, sheet: str) -> dict[str, list[float]]:
        """Return what was measured on parts that proved good, by the check, on jobs handed over
        about one sheet, or one kind of machine without a sheet."""
        readings = func.json_each(SummaryRow.body, "$.good").table_valued("value")
        of_sheet = func.json_extract(SummaryRow.body, "$.sheet") == sheet
        wanted = (
            select(readings.c.value)
            .select_from(SummaryRow)
            .join(readings, true())
            .where(SummaryRow.version == SUMMARY_VERSION, SummaryRow.archetype == archetype)
            .where(of_sheet)
            .order_by(SummaryRow.job_id)
        )
        found: dict[str, list[float]] = {}
        with self._database.reading() as session:
            for pair in session.scalars(wanted):
                name, amount = json.loads(pair)
                found.setdefault(name, []).append(float(amount))
        return found

    def _read(self, wanted: Select[str, SummaryRow]) -> list[Summary]:
        with self._database.reading() as session:
            rows = session.execute(wanted.order_by(SummaryRow.job_id.desc())).all()
        return [_summary(number, row) for number, row in rows if isinstance(row.body, dict)]


def _with_number() -> Select[str, SummaryRow]:
    joined = select(JobRow.number, SummaryRow).join(SummaryRow, SummaryRow.job_id == JobRow.id)
    return joined.where(SummaryRow.version == SUMMARY_VERSION)


def _summary(number: str, row: SummaryRow) -> Summary:
    closed = row.closed_at.replace(tzinfo=UTC) if row.closed_at else None
    return Summary(number, row.seq, row.lane, row.archetype, closed, row.words, row.body)
