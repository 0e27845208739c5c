"""The sheet of the station *Make safe*: how the machine stands, and what can be changed about
it."""

from dataclasses import dataclass
from datetime import datetime
from typing import ClassVar

from bottega.app.job.record import why_not
from bottega.app.job.variants import VariantChoice, variants_of
from bottega.app.strip.plan import decided_repair, plan_of, reach_by
from bottega.core.job.events import StateChanged
from bottega.core.job.safety import waited_min
from bottega.core.library.vocabulary import STATES, StateField
from bottega.core.machine.cautions import Caution, cautions
from bottega.core.machine.reach import ReachStep
from bottega.web.safe.ways import LiveReach, Ways, live_of, ways_of
from bottega.web.station.sheet import Desk, Sheet

NOW = {
    "none": "gone",
    "held": "held",
    "in": "in the tub",
    "out": "out",
    "unknown": "not known",
}
"""States that are said otherwise than they are noted."""


@dataclass(frozen=True)
class StateOffer:
    """A state the machine can be brought into: what to, and what to do."""

    to: str
    name: str
    why_not: str
    """Why it may not be done as the machine stands; empty where it may."""


@dataclass(frozen=True)
class StateRow:
    """One thing about how the machine stands, and into what it can be changed."""

    what: StateField
    now_is: str
    changes: list[StateOffer]
    held: bool
    """Whether it is a stored charge that has to go by measuring or waiting."""


@dataclass(frozen=True)
class SafeSheet(Sheet):
    """What the station *Make safe* shows."""

    template: ClassVar[str] = "safe/_sheet.html"
    rows: list[StateRow]
    cautions: tuple[Caution, ...]
    off: list[str]
    """What is off, by name."""
    variants: list[VariantChoice]
    """The variants its model comes in."""
    ways: Ways
    live: LiveReach | None
    """How far a test on it goes while it is plugged in; None while it is not."""
    isolation: list[ReachStep]
    """What the plan of the repair decided on wants before anything comes off."""
    people: int
    """How many that plan takes at its heaviest."""


def _change(desk: Desk, what: StateField, to: str, name: str, *, at: datetime) -> StateOffer:
    body = StateChanged.model_validate({"what": what, "to": to})
    return StateOffer(to, name, why_not(desk.workshop, desk.answer, body, at))


def safe_sheet(desk: Desk) -> SafeSheet:
    """Return the sheet of the station *Make safe*."""
    state, machine = desk.answer.job.state, desk.answer.machine
    tables, now = desk.workshop.shelf.tables, desk.workshop.now()
    rows = []
    for what in STATES:
        now_is = getattr(state, what)
        changes = [
            _change(desk, what, to, c.said(state.power), at=now)
            for to, c in tables.changes[what].items()
            if to != now_is
        ]
        charge = what == "charge"
        held = charge and now_is != "none" and state.power == "off"
        rows.append(StateRow(what, NOW.get(now_is, now_is), [] if charge else changes, held))
    names = [machine.operations[op].name if op in machine.operations else op for op in state.off]
    held = cautions(state, machine.charge, tables.invariants, waited_min(desk.answer.job, now))
    repair = decided_repair(desk.answer)
    way = plan_of(desk.workshop, desk.answer, repair).best if repair else None
    steps = reach_by(desk.workshop, desk.answer, repair, way).steps if repair and way else ()
    lays = any(step.lays for step in steps)
    return SafeSheet(
        rows,
        held,
        names,
        variants_of(desk.workshop, machine, desk.answer.job.serial),
        ways_of(desk, lays),
        live_of(desk),
        [step for step in steps if step.kind == "change" and step.what != "posture"],
        way.people if way else 1,
    )
