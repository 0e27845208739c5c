"""A shop with thousands of jobs: copies of those that are there, drawn by a seed, with their
summaries."""

from pathlib import Path
from random import Random

from sqlalchemy import select

from bottega.store.database import Database, open_database
from bottega.store.log import FIRST_NUMBER
from bottega.store.tables import EventRow, JobRow, SummaryRow

FIRST_COPY = FIRST_NUMBER + 9600
"""The number of the first copy; chosen, beyond every job of a demo shop."""


def fill_many(folder: Path, jobs: int, seed: int) -> None:
    """Add so many jobs to the shop in a data folder, each with the log and the summary of one that
    is there."""
    database = open_database(folder)
    try:
        _copy(database, jobs, Random(seed))
    finally:
        database.close()


def _copy(database: Database, jobs: int, random: Random) -> None:
    with database.writing() as session:
        there = session.scalars(select(JobRow).order_by(JobRow.number)).all()
        logs = {
            job.id: session.scalars(
                select(EventRow).where(EventRow.job_id == job.id).order_by(EventRow.seq)
            ).all()
            for job in there
        }
        summaries = {job.id: session.get(SummaryRow, job.id) for job in there}
        for place in range(jobs):
            source = random.choice(there)
            job = JobRow(number=str(FIRST_COPY + place))
            session.add(job)
            session.flush()
            for event in logs[source.id]:
                session.add(
                    EventRow(
                        **_values(event, "id", "job_id", "event_id"),
                        job_id=job.id,
                        event_id=f"copy-{place:06d}-{event.seq:04d}",
                    )
                )
            summary = summaries[source.id]
            if summary is not None:
                session.add(SummaryRow(**_values(summary, "job_id"), job_id=job.id))


def _values(row: EventRow | SummaryRow, *without: str) -> dict[str, object]:
    """Return the columns of a row, but for those left out."""
    names = [column.key for column in row.__table__.columns if column.key not in without]
    return {name: getattr(row, name) for name in names}
