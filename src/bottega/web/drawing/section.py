"""Lay margin notes beside a section drawing: leader lines that neither cross nor touch another
note."""

from dataclasses import dataclass
from itertools import permutations
from math import hypot

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import percent, strongest, suspicion
from bottega.core.library.machine_type import MachineType
from bottega.web.drawing.overlay import Glyph, Way
from bottega.web.drawing.text import lines

WIDTH, HEIGHT = 800.0, 420.0
CENTRE = 396.0
LEFT_TEXT, LEFT_EDGE = 14.0, 196.0
RIGHT_EDGE, RIGHT_TEXT = 634.0, 646.0
NOTE_HEIGHT = 76.0
TOP, BOTTOM = 16.0, 408.0
LEGEND_TOP = 330.0
"""All in drawing units, chosen: the sheet, its middle, where notes begin and end on either side,
the height of one, and the band they stand in."""
SHOWN_FROM = 0.03
"""Chance from which a part gets a note; chosen, below it nobody looks first."""
MOST = 5
"""Notes on one drawing; chosen, more do not stand beside each other."""


NAME_WIDTH, REASON_WIDTH = 27, 29
"""Letters in a line of a note; measured at 13 px."""
LINE = 14.0
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


@dataclass(frozen=True)
class Drawing:
    """What a section drawing needs: the archetype's template, the mark of every component, the
    margin notes."""

    template: str
    marks: dict[str, str]
    names: dict[str, str]
    notes: tuple[Note, ...]
    sound: frozenset[str]
    looked: frozenset[str]
    water: bool
    legend: bool
    way: Way | None = None
    glyphs: tuple[Glyph, ...] = ()


def draw(answer: Answer) -> Drawing:
    """Return the drawing of a job: suspicion by component, up to five notes, what was found
    sound."""
    machine = answer.machine
    chances = answer.belief.component_now()
    looked, sound = _looked(answer)
    wanted = sorted((c for c in chances if chances[c] >= SHOWN_FROM), key=lambda c: -chances[c])[
        :MOST
    ]
    notes = (
        _notes(answer, [(c, chances[c]) for c in wanted]) if answer.job.handed_over is None else ()
    )
    return Drawing(
        template=f"drawing/{machine.drawing}.svg",
        marks={c: suspicion(p) for c, p in chances.items()},
        names={c: record.name for c, record in machine.components.items()},
        notes=notes,
        sound=frozenset(c for c in sound if suspicion(chances[c]) in ("none", "faint")),
        looked=frozenset(looked),
        water=answer.job.state.water == "in",
        legend=all(note.side == "left" or note.y + NOTE_HEIGHT < LEGEND_TOP for note in notes),
    )


def plain(machine: MachineType, marks: dict[str, str] | None = None) -> Drawing:
    """Return a drawing without notes: for the bench and the library."""
    names = {c: record.name for c, record in machine.components.items()}
    return Drawing(
        f"drawing/{machine.drawing}.svg",
        marks or {},
        names,
        (),
        frozenset(),
        frozenset(names),
        False,
        False,
    )


def _looked(answer: Answer) -> tuple[set[str], set[str]]:
    """Return the components some check in this epoch looked at, and those whose every such check
    read normal."""
    looked: set[str] = set()
    bad: set[str] = set()
    for entry, body in answer.job.checked():
        check = answer.machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        if check and outcome and entry.epoch == answer.job.epoch:
            looked.add(check.component)
            if outcome.chances[0] < max(outcome.chances):
                bad.add(check.component)
    return looked, looked - bad


def _notes(answer: Answer, wanted: list[tuple[str, float]]) -> tuple[Note, ...]:
    machine, faults = answer.machine, answer.belief.fault_now()
    sides: dict[str, list[tuple[float, float, str, float]]] = {"left": [], "right": []}
    for component, chance in wanted:
        place = machine.places[component]
        side = "left" if place.x < CENTRE else "right"
        if len(sides[side]) >= 4:
            side = "right" if side == "left" else "left"
        sides[side].append((place.y, place.x, component, chance))
    notes = []
    for side, items in sides.items():
        items.sort()
        tops = spread([item[0] - 20 for item in items])
        for top, (y, x, component, chance) in zip(tops, uncrossed(side, tops, items), strict=True):
            own = [f for f in faults if machine.faults[f].component == component]
            fault = max(own, key=lambda f: faults[f])
            reason = strongest(machine, answer.weights(fault))
            notes.append(
                Note(
                    component=component,
                    name=machine.components[component].name,
                    fault=machine.faults[fault].name,
                    chance=faults[fault],
                    reason=reason,
                    hot=chance >= (HOT_FIRST if component == wanted[0][0] else HOT),
                    lines=_note_lines(machine.faults[fault].name, chance, faults[fault], reason),
                    side=side,
                    x=LEFT_TEXT if side == "left" else RIGHT_TEXT,
                    y=top,
                    path=_leader(side, top + 20, x, y),
                    at=(x, y),
                )
            )
    return tuple(notes)


def _note_lines(
    fault: str, chance: float, fault_chance: float, reason: str
) -> tuple[NoteLine, ...]:
    """Return what stands below a note's name: the fault, with the share of all faults of the part
    where that is more, and the reason."""
    whole = f", all in all {percent(chance)}" if chance - fault_chance > TOGETHER else ""
    told = [(line, False) for line in lines(fault + whole, NAME_WIDTH)]
    told += [(line, True) for line in lines(reason, REASON_WIDTH)]
    return tuple(NoteLine(text, 30 + n * LINE, soft) for n, (text, soft) in enumerate(told))


def uncrossed(
    side: str, tops: list[float], items: list[tuple[float, float, str, float]]
) -> list[tuple[float, float, str, float]]:
    """Return the items in the order of the tops that makes the leader lines shortest in all; such
    lines cannot cross."""
    knee = LEFT_EDGE + 14 if side == "left" else RIGHT_EDGE - 14
    return list(
        min(
            permutations(items),
            key=lambda order: sum(
                hypot(item[1] - knee, item[0] - top - 20)
                for top, item in zip(tops, order, strict=True)
            ),
        )
    )


def spread(
    wanted: list[float], height: float = NOTE_HEIGHT, low: float = TOP, high: float = BOTTOM
) -> list[float]:
    """Return tops for notes of one margin, in the order given, at least ``height`` apart and within
    the drawing.

    ``wanted`` is ascending; each note stays as near to what it wanted as the others allow.
    """
    placed: list[float] = []
    for top in wanted:
        placed.append(max(top, placed[-1] + height if placed else low))
    over = (placed[-1] + height - high) if placed else 0.0
    if over > 0:
        placed[-1] -= over
        for i in range(len(placed) - 2, -1, -1):
            placed[i] = min(placed[i], placed[i + 1] - height)
    return [max(low, top) for top in placed]


def _leader(side: str, note_y: float, x: float, y: float) -> str:
    edge = LEFT_EDGE if side == "left" else RIGHT_EDGE
    knee = edge + 14 if side == "left" else edge - 14
    return f"M{edge:.0f} {note_y:.0f}H{knee:.0f}L{x:.0f} {y:.0f}"
