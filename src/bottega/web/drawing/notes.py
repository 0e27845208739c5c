"""Margin notes beside a section drawing, the first of them with its detail: leader lines that
neither cross nor touch another note."""

from dataclasses import dataclass
from itertools import permutations
from math import hypot

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import percent, strongest
from bottega.web.drawing.detail import Detail, detail_of
from bottega.web.drawing.text import lines

CENTRE = 396.0
LEFT_TEXT, LEFT_EDGE = 14.0, 196.0
RIGHT_EDGE, RIGHT_TEXT = 634.0, 646.0
NOTE_HEIGHT = 76.0
DETAIL_RADIUS = 70.0
DETAIL_HEIGHT = 2 * DETAIL_RADIUS + 8
NOTES_TOP, BOTTOM = 16.0, 408.0
"""All in drawing units, chosen: the middle of the sheet, where notes begin and end on either side,
the height of one and of a detail below it, and the band they stand in."""
ANCHOR = 20.0
"""Where the leader line of a note without a detail begins, below its top."""
KNEE = 14.0
"""How far a leader line runs level before it bends."""
NAME_WIDTH, REASON_WIDTH = 27, 29
"""Letters in a line of a note; measured at 13 px."""
NOTE_LINE = 14.0
"""Height of a line of a note, in drawing units."""
HOT, HOT_FIRST = 0.5, 0.2
"""From here on a note is drawn as suspected; the first one sooner. Chosen, as hatching turns narrow
and crossed."""
TOGETHER = 0.03
"""A part is this much likelier than its likeliest fault when that fault's own share is worth
saying; chosen."""


@dataclass(frozen=True)
class NoteLine:
    """One line of a margin note below its name."""

    text: str
    y: float
    soft: bool


@dataclass(frozen=True)
class Note:
    """One margin note: its text, where it stands, and the bent line to the part. Coordinates in
    drawing units."""

    component: str
    name: str
    fault: str
    chance: float
    reason: str
    hot: bool
    lines: tuple[NoteLine, ...]
    side: str
    x: float
    y: float
    path: str
    at: tuple[float, float]
    detail: Detail | None
    detail_at: tuple[float, float]


@dataclass(frozen=True)
class MarginNote:
    """What wants a place in a margin: the point in the drawing it speaks of, and whether a detail
    stands below it."""

    y: float
    x: float
    component: str
    detailed: bool = False

    @property
    def height(self) -> float:
        """Return how high it is, with its detail."""
        return NOTE_HEIGHT + DETAIL_HEIGHT if self.detailed else NOTE_HEIGHT

    @property
    def anchor(self) -> float:
        """Return where its leader line begins, below its top: at the detail when it has one."""
        return NOTE_HEIGHT + DETAIL_RADIUS if self.detailed else ANCHOR


def notes_of(answer: Answer, wanted: list[tuple[str, float]]) -> tuple[Note, ...]:
    """Return the notes of the components wanted, the likeliest first; that one gets its detail."""
    machine, faults = answer.machine, answer.belief.fault_now()
    leading = {
        component: max(
            (f for f in faults if machine.faults[f].component == component),
            key=lambda f: faults[f],
        )
        for component, _ in wanted
    }
    chances, first = dict(wanted), wanted[0][0] if wanted else ""
    detail = detail_of(answer, leading[first]) if wanted else None
    notes = []
    for side, items in _sides(answer, [c for c, _ in wanted], detail is not None).items():
        for top, item in stacked(side, items):
            component = item.component
            fault = leading[component]
            reason = strongest(machine, answer.weights(fault))
            name, chance = machine.faults[fault].name, chances[component]
            notes.append(
                Note(
                    component=component,
                    name=machine.components[component].name,
                    fault=name,
                    chance=faults[fault],
                    reason=reason,
                    hot=chance >= (HOT_FIRST if component == first else HOT),
                    lines=_note_lines(name, chance, faults[fault], reason),
                    side=side,
                    x=LEFT_TEXT if side == "left" else RIGHT_TEXT,
                    y=top,
                    path=_leader(side, top, item),
                    at=(item.x, item.y),
                    detail=detail if component == first else None,
                    detail_at=(_detail_x(side), top + item.anchor),
                )
            )
    return tuple(notes)


def _sides(answer: Answer, wanted: list[str], detailed: bool) -> dict[str, list[MarginNote]]:
    """Return what stands in either margin: each on the side of its part while there is room."""
    sides: dict[str, list[MarginNote]] = {"left": [], "right": []}
    for component in wanted:
        place = answer.machine.places[component]
        side = "left" if place.x < CENTRE else "right"
        item = MarginNote(place.y, place.x, component, detailed and component == wanted[0])
        if sum(other.height for other in sides[side]) + item.height > BOTTOM - NOTES_TOP:
            side = "right" if side == "left" else "left"
        sides[side].append(item)
    return sides


def stacked(side: str, items: list[MarginNote]) -> list[tuple[float, MarginNote]]:
    """Return the items of a margin with their tops, in the order whose leader lines do not cross
    and are shortest in all."""

    def cost(placed: list[tuple[float, MarginNote]]) -> tuple[int, float]:
        ends = [(knee, top + item.anchor, item) for top, item in placed]
        crossings = sum(
            _cross((x, y), (a.x, a.y), (x, v), (b.x, b.y))
            for n, (x, y, a) in enumerate(ends)
            for (_, v, b) in ends[n + 1 :]
        )
        return crossings, sum(hypot(item.x - x, item.y - y) for x, y, item in ends)

    knee = LEFT_EDGE + KNEE if side == "left" else RIGHT_EDGE - KNEE
    orders = (list(zip(spread(list(order)), order, strict=True)) for order in permutations(items))
    return min(orders, key=cost)


def spread(items: list[MarginNote], low: float = NOTES_TOP, high: float = BOTTOM) -> list[float]:
    """Return the tops of the items of one margin in the order given: none on another, all within
    the drawing while there is room, each as near to its part as the others allow."""
    placed: list[float] = []
    for item in items:
        least = placed[-1] + items[len(placed) - 1].height if placed else low
        placed.append(max(item.y - item.anchor, least))
    over = (placed[-1] + items[-1].height - high) if placed else 0.0
    if over > 0:
        placed[-1] -= over
        for i in range(len(placed) - 2, -1, -1):
            placed[i] = min(placed[i], placed[i + 1] - items[i].height)
    return [max(low, top) for top in placed]


def _note_lines(
    fault: str, chance: float, fault_chance: float, reason: str
) -> tuple[NoteLine, ...]:
    """Return what stands below a note's name: the fault, with the share of all faults of the part
    where that is more, and the reason."""
    whole = f", all in all {percent(chance)}" if chance - fault_chance > TOGETHER else ""
    told = [(line, False) for line in lines(fault + whole, NAME_WIDTH)]
    told += [(line, True) for line in lines(reason, REASON_WIDTH)]
    return tuple(NoteLine(text, 30 + n * NOTE_LINE, soft) for n, (text, soft) in enumerate(told))


def _leader(side: str, top: float, item: MarginNote) -> str:
    """Return the bent line from a note, or from the rim of its detail, to the part."""
    y = top + item.anchor
    edge, knee = (LEFT_EDGE, KNEE) if side == "left" else (RIGHT_EDGE, -KNEE)
    start = edge
    if item.detailed:
        start = _detail_x(side) + (DETAIL_RADIUS if side == "left" else -DETAIL_RADIUS)
    return f"M{start:.0f} {y:.0f}H{edge + knee:.0f}L{item.x:.0f} {item.y:.0f}"


def _detail_x(side: str) -> float:
    return LEFT_TEXT + DETAIL_RADIUS + 4 if side == "left" else RIGHT_TEXT + DETAIL_RADIUS + 4


def _cross(
    a: tuple[float, float], b: tuple[float, float], c: tuple[float, float], d: tuple[float, float]
) -> bool:
    """Say whether the line from a to b crosses that from c to d."""

    def turn(p: tuple[float, float], q: tuple[float, float], r: tuple[float, float]) -> float:
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    return turn(a, b, c) * turn(a, b, d) < 0 and turn(c, d, a) * turn(c, d, b) < 0
