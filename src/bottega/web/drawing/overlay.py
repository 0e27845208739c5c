"""What is laid over a section drawing: the way to a part, and marks where something was seen or
heard."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.core.job.events import Checked, Complained, Marked
from bottega.core.job.job import Entry
from bottega.core.job.kinds import told
from bottega.core.library.machine_type import MachineType
from bottega.core.machine.places import STATE_PLACES
from bottega.core.machine.reach import Reach

APART = 17.0
"""How far a second mark stands from the first at the same part, in drawing units."""
NEXT_STOPS = 3
"""Stops shown on the drawing; chosen, more hide what they lead to."""


@dataclass(frozen=True)
class WayPoint:
    """One numbered stop on the way to a part."""

    number: int
    x: float
    y: float
    name: str


@dataclass(frozen=True)
class DrawnWay:
    """The way to a part over the drawing: the next stops, and where it ends. The whole of it is the
    list beside the drawing, and the layers."""

    stops: tuple[WayPoint, ...]
    end: tuple[float, float]


@dataclass(frozen=True)
class Glyph:
    """A mark on the drawing: what was seen or heard, whether it is an old trail, where, and the
    words for it."""

    kind: str
    old: bool
    x: float
    y: float
    words: str


def way_to(machine: MachineType, reach: Reach, component: str) -> DrawnWay | None:
    """Return the next places on the way to a component, or None when it is at hand or has no
    place."""
    end = machine.places.get(component)
    if end is None or not reach.steps:
        return None
    stops: list[WayPoint] = []
    for number, step in enumerate(reach.steps, start=1):
        if step.what == "off" or step.what == "back":
            named: tuple[str, ...] = (step.to,)
            places = machine.openings
        else:
            named, places = STATE_PLACES[step.what], machine.places
        place = next((places[name] for name in named if name in places), None)
        if place is not None:
            crowd = sum((stop.x, stop.y) == (place.x, place.y) for stop in stops)
            stops.append(WayPoint(number, place.x - APART * crowd, place.y, step.name))
    return DrawnWay(tuple(stops[:NEXT_STOPS]), (end.x, end.y))


def glyphs_of(answer: Answer) -> tuple[Glyph, ...]:
    """Return what was seen wet, oily or rubbed, and heard, where it was; of checks only those that
    found it so now."""
    found: dict[tuple[str, float, float, bool], list[str]] = {}
    for entry in answer.job.live:
        for glyph in _of_entry(answer, entry):
            found.setdefault((glyph.kind, glyph.x, glyph.y, glyph.old), []).append(glyph.words)
    placed: list[Glyph] = []
    for (kind, x, y, old), words in found.items():
        crowd = sum(abs(g.x - x) < APART and abs(g.y - y) < APART for g in placed)
        placed.append(Glyph(kind, old, x + APART * crowd, y, "; ".join(words)))
    return tuple(placed)


def _of_entry(answer: Answer, entry: Entry) -> list[Glyph]:
    machine, body = answer.machine, entry.body
    if isinstance(body, Marked):
        place = machine.places.get(body.at)
        if place is None:
            return []
        x, y = (
            (body.x, body.y)
            if body.x is not None and body.y is not None
            else (place.x + 11, place.y + 9)
        )
        return [Glyph(body.what, body.age == "old", x, y, ", ".join(told(machine, body)))]
    if isinstance(body, Checked) and entry.epoch == answer.job.epoch:
        check = machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        if check is None or outcome is None or outcome.chances[0] == max(outcome.chances):
            return []
        return _shown(
            machine,
            check.effect,
            check.component,
            outcome.chances,
            words=f"{check.name}: {outcome.label}",
        )
    if isinstance(body, Complained) and answer.job.epoch == 0:
        said = [machine.complaints[name] for name in body.said if name in machine.complaints]
        heard = [
            g
            for c in said
            for g in _shown(machine, c.effect, None, c.said, words=f"Customer: {c.record.says}")
        ]
        return [glyph for glyph in heard if glyph.kind == "noise"]
    return []


def _shown(
    machine: MachineType,
    effect: str,
    component: str | None,
    chances: tuple[float, ...],
    *,
    words: str,
) -> list[Glyph]:
    """Return the mark by which a state of an effect shows itself on the drawing, if it has one."""
    state = max(range(len(chances)), key=lambda k: chances[k])
    own = [mark for mark in machine.marks.values() if mark.effect == effect and mark.shows == state]
    if not own:
        return []
    at = component if component in [mark.record.at for mark in own] else own[0].record.at
    place = machine.places.get(at)
    return [Glyph(own[0].record.kind, False, place.x + 11, place.y + 9, words)] if place else []
