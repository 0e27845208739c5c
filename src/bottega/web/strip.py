"""Today's plan as a strip of time per person: what was done, and what waits for a hand, in the order of the bench."""

from dataclasses import dataclass
from datetime import datetime

from bottega.app.bench import BenchSheet
from bottega.app.workshop import Workshop

LEFT, WIDTH = 128.0, 1112.0
FIRST_HOUR, LAST_HOUR = 8, 18
SHORTEST_MIN = 20
SHORTEST_VISIT_MIN = 75
ROOM_FOR_NUMBER = 40.0


@dataclass(frozen=True)
class Hour:
    """One hour line."""

    x: float
    name: str


@dataclass(frozen=True)
class Task:
    """One piece of work on the strip; ``past`` when it is done."""

    x: float
    width: float
    number: str
    text: str
    past: bool


@dataclass(frozen=True)
class Person:
    """One member's row."""

    name: str
    tasks: list[Task]


@dataclass(frozen=True)
class Strip:
    """The whole strip in units of its own drawing, 1240 wide."""

    hours: list[Hour]
    people: list[Person]
    now_x: float | None


def today_strip(sheets: list[BenchSheet], workshop: Workshop) -> Strip | None:
    """Return today's strip, or None for a shop without members."""
    members = [member.name for member in workshop.shop.members()]
    if not members:
        return None
    now = workshop.now().astimezone()
    hours = [Hour(_x(hour), f"{hour:02d}") for hour in range(FIRST_HOUR, LAST_HOUR)]
    people: dict[str, list[Task]] = {name: [] for name in members}
    free = {name: max(float(FIRST_HOUR), min(now.hour + now.minute / 60, LAST_HOUR)) for name in members}
    for sheet in reversed(sheets):
        stamps = [
            e for e in workshop.log.read(sheet.number) if e.at.astimezone().date() == now.date() and e.author in people
        ]
        for author in dict.fromkeys(event.author for event in stamps):
            own = [_hour(event.at) for event in stamps if event.author == author]
            began = max(min(own), _end(people[author]))
            ended = min(max(max(own), min(own) + SHORTEST_MIN / 60), _hour(now))
            _add(people[author], began, ended, sheet.number, sheet.place, True)
        if sheet.lane == "person":
            author = stamps[-1].author if stamps else min(free, key=lambda name: free[name])
            length = max(sheet.minutes or 0, SHORTEST_VISIT_MIN) / 60
            _add(people[author], free[author], free[author] + length, sheet.number, sheet.place, False)
            free[author] += length
    inside = FIRST_HOUR <= now.hour < LAST_HOUR
    return Strip(hours, [Person(name, tasks) for name, tasks in people.items()], _x(_hour(now)) if inside else None)


def _add(tasks: list[Task], start: float, end: float, number: str, place: str, past: bool) -> None:
    start, end = max(start, FIRST_HOUR), min(end, LAST_HOUR)
    if end <= start:
        return
    width = _x(end) - _x(start)
    text = f"{number} {place}"
    room = max(4, int(width / 6.2) - 1)
    if width < ROOM_FOR_NUMBER:
        text = ""
    tasks.append(Task(_x(start), width, number, text if len(text) <= room else text[: room - 1].rstrip() + "…", past))


def _end(tasks: list[Task]) -> float:
    """Return the hour at which the last thing done so far ends; nobody does two things at once."""
    ends = [FIRST_HOUR + (t.x + t.width - LEFT) * (LAST_HOUR - FIRST_HOUR) / WIDTH for t in tasks if t.past]
    return max(ends, default=0.0)


def _hour(moment: datetime) -> float:
    local = moment.astimezone()
    return local.hour + local.minute / 60


def _x(hour: float) -> float:
    return round(LEFT + (hour - FIRST_HOUR) * WIDTH / (LAST_HOUR - FIRST_HOUR), 1)
