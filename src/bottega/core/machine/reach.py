"""The way from one state of a machine to another: what to change and what to take off, in order,
with its minutes."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import STATES, StateField
from bottega.core.machine.invariants import uncovered
from bottega.core.machine.state import MachineState
from bottega.core.machine.words import put_back_words

LAST: tuple[tuple[StateField, str], ...] = (("taps", "open"), ("power", "on"), ("water", "in"))
"""What is done last of all, in this order: whatever is shut or put back comes before it. Water is
run in by a machine that is plugged in, its taps open."""
STATES_KEPT = 64
"""From how many states the ways are remembered before they are found anew; chosen, because a job
passes about forty."""


@dataclass(frozen=True)
class ReachStep:
    """One step of reaching: a change of state (what, to), or an operation (what "off", its id),
    done or oiled to soak, or put back (what "back")."""

    kind: Literal["change", "operation", "soak", "back"]
    what: StateField | Literal["off", "back"]
    to: str
    name: str
    minutes: float
    caution: str | None

    @property
    def lays(self) -> bool:
        """Return whether it lays the machine down."""
        return self.what == "posture" and self.to == "tipped"


@dataclass(frozen=True)
class Reach:
    """The way from the present state to what a step needs, in order, with its minutes."""

    steps: tuple[ReachStep, ...]
    minutes: float

    @cached_property
    def items(self) -> tuple[tuple[str, str], ...]:
        """Return what is reached, as pairs shared between steps with the same needs."""
        return tuple(dict.fromkeys((step.what, step.to) for step in self.steps))


@dataclass(frozen=True)
class ReachWay:
    """A way found: what it was for (kept, so that its identity stays its own), its steps, where it
    ends."""

    needs: Needs
    reach: Reach
    there: MachineState


class Reaching:
    """Finds the way to what a step needs on one machine type."""

    def __init__(self, machine: MachineType, tables: Tables) -> None:
        self._machine = machine
        self._changes = tables.changes
        self._known: dict[MachineState, dict[Needs, ReachWay]] = {}

    def reach(self, state: MachineState, needs: Needs) -> Reach:
        """Return the way from ``state`` to ``needs``: what must not stay open goes back, then
        operations in order, then the state."""
        return self.ways(state, [needs])[0].reach

    def arrived(self, state: MachineState, needs: Needs) -> MachineState:
        """Return the state of the machine at the end of the way from ``state`` to ``needs``."""
        return self.ways(state, [needs])[0].there

    def ways(self, state: MachineState, wanted: Iterable[Needs]) -> list["ReachWay"]:
        """Return the ways from one state to many needs; each is found once for as long as this
        object lives."""
        if len(self._known) > STATES_KEPT:
            self._known.clear()
        known = self._known.setdefault(state, {})
        found = []
        for needs in wanted:
            way = known.get(needs)
            if way is None:
                way = known[needs] = self._find(state, needs)
            found.append(way)
        return found

    def _find(self, state: MachineState, needs: Needs) -> "ReachWay":
        steps: list[ReachStep] = []
        here = self._filled(self._closed(state, needs, steps), needs, steps)
        opened = self.closure(needs.off, here.off)
        for operation in opened:
            record = self._machine.operations[operation]
            here = self._change(here, record.needs, steps)
            steps.append(
                ReachStep(
                    "operation", "off", operation, record.name, record.minutes, record.caution
                )
            )
        if opened:
            here = replace(here, off=(*here.off, *opened))
        here = self._change(here, needs, steps)
        return ReachWay(needs, Reach(tuple(steps), sum(step.minutes for step in steps)), here)

    def _closed(self, state: MachineState, needs: Needs, steps: list[ReachStep]) -> MachineState:
        """Put back what may not be open once water is in or the plug is: all but what these needs
        want off."""
        if needs.power != "on" and needs.water != "in":
            return state
        here = state
        for name in uncovered(self._machine, state, needs):
            record = self._machine.operations[name]
            asked = record.needs
            wanted = Needs(power=asked.power, charge=asked.charge, posture=asked.posture)
            here = self._change(here, wanted, steps)
            minutes = record.back_minutes or record.minutes
            words = put_back_words(record.name)
            steps.append(ReachStep("back", "back", name, words, minutes, record.back))
            here = replace(here, off=tuple(other for other in here.off if other != name))
        return here

    def _filled(self, here: MachineState, needs: Needs, steps: list[ReachStep]) -> MachineState:
        """Run water in before the plug is pulled, where both are wanted: without it, it is poured
        in by hand."""
        unplugs = needs.water == "in" and needs.power == "off" and here.power == "on"
        if not unplugs or here.water == "in" or here.posture == "tipped" or here.off:
            return here
        return self._change(here, Needs(taps="open", water="in"), steps)

    def closure(self, wanted: tuple[str, ...], off: tuple[str, ...] = ()) -> list[str]:
        """Return the operations to be done for ``wanted``, each after what must be off before
        it."""
        ordered: list[str] = []
        done = self._machine.done_by(off)

        def visit(operation: str) -> None:
            if operation in done or operation in ordered:
                return
            for before in self._machine.operations[operation].after:
                visit(before)
            ordered.append(operation)

        for operation in wanted:
            visit(operation)
        return ordered

    def blocking(self, operation: str, off: tuple[str, ...]) -> list[str]:
        """Return what is off and has to go back before this operation can be undone."""
        names, operations = self._machine.done_by((operation,)), self._machine.operations
        return [other for other in off if names & {*operations[other].after}]

    def _change(self, here: MachineState, needs: Needs, steps: list[ReachStep]) -> MachineState:
        tipped, front = here.posture == "tipped", self._machine.loads == "front"
        moved = needs.drum is not None and needs.drum != here.drum
        moved = moved or (needs.door == "open" and here.door != "open")
        fills = needs.water == "in" and here.water != "in"
        for field, wanted in _in_order(needs, tipped, front and moved, fills):
            if getattr(here, field) == wanted:
                continue
            change = self._changes[field][wanted]
            minutes = change.minutes
            if field == "charge" and self._machine.charge:
                minutes = self._machine.charge.wait_minutes
            name = change.said(here.power)
            steps.append(ReachStep("change", field, wanted, name, minutes, change.caution))
            here = here.changed(field, wanted, self._machine.charge is not None)
        return here


@lru_cache(maxsize=1024)
def _in_order(
    needs: Needs, tipped: bool, opens_door: bool, fills: bool
) -> tuple[tuple[StateField, str], ...]:
    """Return the changes that needs ask for of a machine that is ``tipped`` or not, safely in
    order: plug out, taps shut and water out before it is tipped, water out before a door at the
    front is opened (``opens_door``), upright before its taps are opened, water is let in
    (``fills``) or it is plugged in, plugged in last."""
    wanted: dict[StateField, str] = {
        field: value for field in STATES if (value := getattr(needs, field)) is not None
    }
    if wanted.get("posture") == "tipped":
        wanted |= {"power": "off", "taps": "shut", "water": "out"}
    if fills and wanted.get("power") == "on":
        wanted.setdefault("taps", "open")
    if tipped and any(wanted.get(field) == to for field, to in LAST):
        wanted.setdefault("posture", "upright")
    order = ["posture", *STATES] if wanted.get("posture") == "upright" else list(STATES)
    last = [field for field, to in LAST if wanted.get(field) == to]
    order = [field for field in dict.fromkeys(order) if field not in last] + last
    found = [(field, wanted[field]) for field in order if field in wanted]
    if opens_door and wanted.get("water") != "out":
        place = next(n for n, (field, _) in enumerate(found) if field in ("drum", "door"))
        found.insert(place, ("water", "out"))
    return tuple(found)
