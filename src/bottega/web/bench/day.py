"""Today's plan as a strip of time: the hours of core.day in units of the drawing, 1240 wide."""

from dataclasses import dataclass

from bottega.core.day.plan import FIRST_HOUR, LAST_HOUR, Day, DayTask

DAY_LEFT, DAY_WIDTH = 128.0, 1112.0
"""Where the hours begin and how wide they are, in drawing units; chosen, names stand to the
left."""
DAY_ROW, HEAD, DAY_BAR = 32.0, 26.0, 25.0
"""Height of a row, of the line of hours, of a bar, in drawing units; chosen for 13 px type."""
LETTER = 6.2
"""Mean width of a letter of the 13 px type, in drawing units; measured."""
ROOM_FOR_NUMBER = 40.0
"""A narrower bar stays without words; chosen, four figures want as much."""


@dataclass(frozen=True)
class HourLine:
    """One hour line."""

    x: float
    name: str


@dataclass(frozen=True)
class WorkBar:
    """One piece of work as a bar."""

    x: float
    y: float
    width: float
    text_x: float
    text_y: float
    number: str
    place: str
    text: str
    """Number and place, as far as there is room for them."""
    past: bool


@dataclass(frozen=True)
class PersonRow:
    """One person's row: the name, and the bars."""

    name: str
    y: float
    bars: tuple[WorkBar, ...]


@dataclass(frozen=True)
class DayStrip:
    """The whole strip: ``height`` in drawing units, ``now_x`` the line of this moment."""

    hours: tuple[HourLine, ...]
    rows: tuple[PersonRow, ...]
    height: float
    now_x: float | None


def strip_of(day: Day) -> DayStrip:
    """Return the strip that shows a day."""
    hours = tuple(HourLine(_x(h), f"{h:02d}") for h in range(FIRST_HOUR, LAST_HOUR))
    rows = []
    for n, row in enumerate(day.rows):
        top = HEAD - 2 + n * DAY_ROW
        bars = tuple(_bar(task, top) for task in row.tasks)
        rows.append(PersonRow(row.name, top + 18, bars))
    now_x = None if day.now_h is None else _x(day.now_h)
    return DayStrip(hours, tuple(rows), HEAD + DAY_ROW * len(rows), now_x)


def _bar(task: DayTask, top: float) -> WorkBar:
    x, width = _x(task.start_h), round(_x(task.end_h) - _x(task.start_h), 1)
    text = _cut(f"{task.number} {task.place}", int(width / LETTER) - 1)
    text = text if width >= ROOM_FOR_NUMBER else ""
    return WorkBar(x, top, width, x + 6, top + 17, task.number, task.place, text, task.past)


def _cut(text: str, room: int) -> str:
    """Return as many whole words as there is room for, the first in any case."""
    first, *words = text.split()
    for word in words:
        if len(first) + 1 + len(word) > room:
            break
        first += f" {word}"
    return first


def _x(hour: float) -> float:
    return round(DAY_LEFT + (hour - FIRST_HOUR) * DAY_WIDTH / (LAST_HOUR - FIRST_HOUR), 1)
