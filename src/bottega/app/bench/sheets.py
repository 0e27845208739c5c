"""The bench: every job by what it waits for, from summaries that are made whenever something is
noted."""

from datetime import datetime

from bottega.app.job.summary import LANES, BenchSheet, LaneName, made_now, sheet_of
from bottega.app.workshop import Workshop
from bottega.core.day.plan import DayWork

SHOWN_JOBS = 12
"""Jobs of one lane on the bench at once; chosen, about two screens of them. The rest is a page
further."""
FOUND = 60
"""Jobs a search shows at the most; chosen, whoever finds more searches again."""
MADE_NOW = 4
"""Missing summaries made while somebody looks; chosen, a tenth of a second's work. The others come
with the start."""


def bench(workshop: Workshop, lane: LaneName | None = None, skip: int = 0) -> list[BenchSheet]:
    """Return the jobs of all lanes, or of one after skipping some; newest first, at most ``SHOWN``
    a lane.

    The number of statements does not depend on the number of jobs, and nothing is written.
    """
    fresh = {number: made_now(workshop, number) for number in workshop.summaries.stale(MADE_NOW)}
    lanes = [lane] if lane else list(LANES)
    kept = [
        s for s in workshop.summaries.in_lanes(lanes, SHOWN_JOBS, skip) if s.number not in fresh
    ]
    made = [summary for summary in fresh.values() if summary.lane in lanes]
    return [sheet_of(summary) for summary in (*made, *kept)]


def search(workshop: Workshop, words: str) -> list[BenchSheet]:
    """Return the jobs that hold every word searched for, newest first."""
    return [sheet_of(summary) for summary in workshop.summaries.search(words.split(), FOUND)]


def works_of(workshop: Workshop, sheets: list[BenchSheet], now: datetime) -> list[DayWork]:
    """Return what the day needs of the jobs on the bench, oldest first: stamps of today by one
    statement."""
    midnight = now.replace(hour=0, minute=0, second=0, microsecond=0)
    stamps = workshop.log.stamps([sheet.number for sheet in sheets], midnight, now)
    return [
        DayWork(
            number=sheet.number,
            place=sheet.place,
            stamps=tuple(stamps.get(sheet.number, ())),
            waits=sheet.lane == "person",
            minutes=sheet.minutes or 0.0,
        )
        for sheet in reversed(sheets)
    ]
