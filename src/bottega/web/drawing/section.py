"""The section drawing of a job: suspicion by component, what was looked at and found sound, and the
margin notes."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import suspicion
from bottega.core.library.machine_type import MachineType
from bottega.web.drawing.notes import DETAIL_HEIGHT, NOTE_HEIGHT, Note, notes_of
from bottega.web.drawing.overlay import DrawnWay, Glyph

LEGEND_TOP = 330.0
"""Where the legend begins, in drawing units; chosen."""
SHOWN_FROM = 0.03
"""Chance from which a part gets a note; chosen, below it nobody looks first."""
MOST_NOTES = 5
"""Notes on one drawing; chosen, more do not stand beside each other."""


OFF = "_off"
"""How the operation that takes a component itself off ends its id."""


@dataclass(frozen=True)
class OpenedAt:
    """Where something was taken off, in drawing units, and its name."""

    x: float
    y: float
    name: str


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
    way: DrawnWay | None = None
    glyphs: tuple[Glyph, ...] = ()
    gone: frozenset[str] = frozenset()
    """Components that are off the machine."""
    opened: tuple[OpenedAt, ...] = ()


def draw(answer: Answer) -> Drawing:
    """Return the drawing of a job: suspicion by component, up to five notes, what was found
    sound."""
    machine = answer.machine
    chances = answer.belief.component_now()
    looked, sound = _looked(answer)
    notes: tuple[Note, ...] = ()
    if answer.job.handed_over is None:
        notes = answer.believed.once("notes", lambda: notes_of(answer, _wanted(chances)))
    return Drawing(
        template=f"drawing/{machine.drawing}.svg",
        marks={c: suspicion(p) for c, p in chances.items()},
        names={c: record.name for c, record in machine.components.items()},
        notes=notes,
        sound=frozenset(c for c in sound if suspicion(chances[c]) in ("none", "faint")),
        looked=frozenset(looked),
        water=answer.job.state.water == "in",
        legend=all(note.side == "left" or _foot(note) < LEGEND_TOP for note in notes),
    )


def _wanted(chances: Mapping[str, float]) -> list[tuple[str, float]]:
    """Return the components that get a note, with their chance, the likeliest first."""
    shown = [(part, chance) for part, chance in chances.items() if chance >= SHOWN_FROM]
    return sorted(shown, key=lambda item: -item[1])[:MOST_NOTES]


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


def as_opened(machine: MachineType, off: tuple[str, ...], water: bool) -> Drawing:
    """Return a drawing of a machine as it is opened: what is off is gone, what is behind something
    that is still on is drawn as not looked at."""
    bare = plain(machine)
    seen = {
        name
        for name, component in machine.components.items()
        if all(o in off for o in component.reach.off if o in machine.operations)
    }
    return replace(
        bare,
        water=water,
        looked=frozenset(seen),
        gone=frozenset(o.removesuffix(OFF) for o in off if o.endswith(OFF)),
        opened=tuple(
            OpenedAt(machine.openings[o].x, machine.openings[o].y, machine.operations[o].name)
            for o in off
            if o in machine.openings
        ),
    )


def _foot(note: Note) -> float:
    return note.y + NOTE_HEIGHT + (DETAIL_HEIGHT if note.detail else 0.0)


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
