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
from bottega.core.machine.state import MachineState

STATES_KEPT = 64
"""From how many states the ways are remembered before they are found anew; chosen, because a job
passes about forty."""


@dataclass(frozen=True)
class ReachStep:
    """One step of reaching: a change of state (what, to), or an operation (what "off", its id),
    done or oiled to soak."""

    kind: Literal["change", "operation", "soak"]
    what: StateField | Literal["off"]
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
class Way:
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
        self._known: dict[MachineState, dict[int, Way]] = {}

    def reach(self, state: MachineState, needs: Needs) -> Reach:
        """Return the way from ``state`` to ``needs``: state first, then operations in order, then
        what they undid."""
        return self.ways(state, [needs])[0].reach

    def arrived(self, state: MachineState, needs: Needs) -> MachineState:
        """Return the state of the machine at the end of the way from ``state`` to ``needs``."""
        return self.ways(state, [needs])[0].there

    def ways(self, state: MachineState, wanted: Iterable[Needs]) -> list["Way"]:
        """Return the ways from one state to many needs; each is found once for as long as this
        object lives."""
        if len(self._known) > STATES_KEPT:
            self._known.clear()
        known = self._known.setdefault(state, {})
        found = []
        for needs in wanted:
            way = known.get(id(needs))
            if way is None:
                way = known[id(needs)] = self._find(state, needs)
            found.append(way)
        return found

    def _find(self, state: MachineState, needs: Needs) -> "Way":
        steps: list[ReachStep] = []
        here = state
        opened = self.closure(needs.off, state.off)
        for operation in opened:
            record = self._machine.operations[operation]
            here = self._change(here, record.needs, steps)
            steps.append(
                ReachStep(
                    "operation", "off", operation, record.name, record.minutes, record.caution
                )
            )
        if opened:
            here = replace(here, off=(*state.off, *opened))
        here = self._change(here, needs, steps)
        return Way(needs, Reach(tuple(steps), sum(step.minutes for step in steps)), here)

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
        for field, wanted in _in_order(needs, here.posture == "tipped"):
            if getattr(here, field) == wanted:
                continue
            change = self._changes[field][wanted]
            minutes = change.minutes
            if field == "charge" and self._machine.charge:
                minutes = self._machine.charge.wait_minutes
            steps.append(ReachStep("change", field, wanted, change.name, minutes, change.caution))
            here = here.changed(field, wanted, self._machine.charge is not None)
        return here


@lru_cache(maxsize=1024)
def _in_order(needs: Needs, tipped: bool) -> tuple[tuple[StateField, str], ...]:
    """Return the changes that needs ask for of a machine that is ``tipped`` or not, safely in
    order: water out before it is tipped, upright before it is plugged in."""
    wanted: dict[StateField, str] = {
        field: value for field in STATES if (value := getattr(needs, field)) is not None
    }
    if wanted.get("posture") == "tipped":
        wanted.setdefault("water", "out")
    if wanted.get("power") == "on" and tipped:
        wanted.setdefault("posture", "upright")
    order: tuple[StateField, ...]
    order = ("posture", *STATES) if wanted.get("posture") == "upright" else tuple(STATES)
    return tuple((field, wanted[field]) for field in dict.fromkeys(order) if field in wanted)
