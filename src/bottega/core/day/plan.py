"""The plan of a day by person: what was done, and what waits for a hand, one thing after the
other."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

FIRST_HOUR, LAST_HOUR = 8, 18
"""Hours of the working day shown; chosen, since visits on an island keep to daylight and
ferries."""
SHORTEST_MIN = 20
"""Minutes an entry stands for at the least; chosen, so that one entry can be seen on the plan."""
SHORTEST_VISIT_MIN = 75
"""Minutes a visit takes at the least with the way there and back; chosen."""


@dataclass(frozen=True)
class DayWork:
    """One job as the day knows it: what was noted on it today, by whom, and whether it waits for a
    hand."""

    number: str
    place: str
    stamps: tuple[tuple[datetime, str], ...]
    """When something was noted today, and who noted it, in order."""
    waits: bool
    minutes: float
    """Minutes of the next step."""


@dataclass(frozen=True)
class DayTask:
    """One piece of work between two hours of the day; ``past`` when it is done."""

    start_h: float
    end_h: float
    number: str
    place: str
    past: bool


@dataclass(frozen=True)
class PersonDay:
    """One person's day."""

    name: str
    tasks: tuple[DayTask, ...]


@dataclass(frozen=True)
class Day:
    """The plan of a day, and the hour it is now; None outside the working day."""

    rows: tuple[PersonDay, ...]
    now_h: float | None


def plan_of_day(members: Sequence[str], works: Sequence[DayWork], now: datetime) -> Day | None:
    """Return the plan of the day of ``now`` in its own zone, or None for a shop without members.

    Nobody does two things at once: what was done begins where the last thing ended, and what waits
    goes to whoever worked on it last, or to whoever is free first.
    """
    if not members:
        return None
    rows: dict[str, list[DayTask]] = {name: [] for name in members}
    start = max(float(FIRST_HOUR), min(_hour(now, now), LAST_HOUR))
    free = dict.fromkeys(members, start)
    for work in works:
        stamps = [(_hour(at, now), author) for at, author in work.stamps if author in rows]
        for author in dict.fromkeys(author for _, author in stamps):
            own = [hour for hour, name in stamps if name == author]
            began = max(
                min(own), max((task.end_h for task in rows[author] if task.past), default=0.0)
            )
            ended = min(max(max(own), min(own) + SHORTEST_MIN / 60), _hour(now, now))
            _add(rows[author], began, ended, work, past=True)
        if work.waits:
            author = stamps[-1][1] if stamps else min(free, key=lambda name: free[name])
            length = max(work.minutes, SHORTEST_VISIT_MIN) / 60
            _add(rows[author], free[author], free[author] + length, work, past=False)
            free[author] += length
    hour = _hour(now, now)
    inside = FIRST_HOUR <= hour < LAST_HOUR
    return Day(
        tuple(PersonDay(name, tuple(tasks)) for name, tasks in rows.items()),
        hour if inside else None,
    )


def next_day_of(today: int, days: Sequence[int]) -> int | None:
    """Return in how many days (1 to 7) the next of some weekdays comes, Monday being 0; None when
    there are none."""
    ahead = [(day - today - 1) % 7 + 1 for day in days]
    return min(ahead, default=None)


def next_arrival(today: date, days: Sequence[int]) -> date:
    """Return the next day on which parts arrive; tomorrow where no days are set."""
    return today + timedelta(next_day_of(today.weekday(), days) or 1)


def _add(tasks: list[DayTask], start_h: float, end_h: float, work: DayWork, *, past: bool) -> None:
    start_h, end_h = max(start_h, FIRST_HOUR), min(end_h, LAST_HOUR)
    if end_h > start_h:
        tasks.append(DayTask(start_h, end_h, work.number, work.place, past))


def _hour(moment: datetime, now: datetime) -> float:
    local = moment.astimezone(now.tzinfo)
    return local.hour + local.minute / 60
