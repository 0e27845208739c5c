"""The state of the machine: plug, taps, water, stored charge, drum, posture, what is off. And the way from one to another."""

from dataclasses import dataclass, replace
from typing import Literal

from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs
from bottega.core.library.tables import Tables

FIELDS = ("power", "taps", "water", "charge", "drum", "posture")


@dataclass(frozen=True)
class MachineState:
    """How the machine stands now. ``off`` holds the operations done and not yet undone, in order."""

    power: str = "on"
    taps: str = "open"
    water: str = "unknown"
    charge: str = "none"
    drum: str = "empty"
    posture: str = "upright"
    off: tuple[str, ...] = ()

    def changed(self, what: str, to: str, holds_charge: bool) -> "MachineState":
        """Return the state after one change. Pulling the plug leaves a charge where the machine stores one."""
        after = replace(self, **{what: to})  # type: ignore[arg-type]  # what is never "off" here
        if what == "power":
            after = replace(
                after, charge="held" if to == "off" and holds_charge and self.power == "on" else self.charge
            )
            if to == "on":
                after = replace(after, charge="none")
        return after

    def meets(self, needs: Needs) -> bool:
        """Return whether a step with these needs could start now."""
        return not self.lacks(needs)

    def lacks(self, needs: Needs) -> list[tuple[str, str]]:
        """Return what is missing as (field, wanted) pairs, operations as ("off", id)."""
        missing = [
            (field, wanted)
            for field in FIELDS
            if (wanted := getattr(needs, field)) is not None and getattr(self, field) != wanted
        ]
        return missing + [("off", operation) for operation in needs.off if operation not in self.off]


@dataclass(frozen=True)
class ReachStep:
    """One step of reaching: a change of state (what, to) or an operation (what "off", its id)."""

    kind: Literal["change", "operation"]
    what: str
    to: str
    name: str
    minutes: float
    caution: str | None


@dataclass(frozen=True)
class Reach:
    """The way from the present state to what a step needs, in order, with its minutes."""

    steps: tuple[ReachStep, ...]
    minutes: float

    @property
    def items(self) -> frozenset[tuple[str, str]]:
        """Return what is reached, as pairs shared between steps with the same needs."""
        return frozenset((step.what, step.to) for step in self.steps)


class Reaching:
    """Finds the way to what a step needs on one machine type."""

    def __init__(self, machine: MachineType, tables: Tables) -> None:
        self._machine = machine
        self._changes = tables.changes
        self._known: dict[tuple[MachineState, Needs], Reach] = {}

    def reach(self, state: MachineState, needs: Needs) -> Reach:
        """Return the way from ``state`` to ``needs``: state first, then operations in order, then what they undid."""
        key = (state, needs)
        if key not in self._known:
            steps: list[ReachStep] = []
            here = state
            for operation in self.closure(needs.off, state.off):
                record = self._machine.operations[operation]
                here = self._change(here, record.needs, steps)
                steps.append(ReachStep("operation", "off", operation, record.name, record.minutes, record.caution))
                here = replace(here, off=(*here.off, operation))
            self._change(here, needs, steps)
            self._known[key] = Reach(tuple(steps), sum(step.minutes for step in steps))
        return self._known[key]

    def closure(self, wanted: tuple[str, ...], off: tuple[str, ...] = ()) -> list[str]:
        """Return the operations to be done for ``wanted``, each after what must be off before it."""
        ordered: list[str] = []

        def visit(operation: str) -> None:
            if operation in off or operation in ordered:
                return
            for before in self._machine.operations[operation].after:
                visit(before)
            ordered.append(operation)

        for operation in wanted:
            visit(operation)
        return ordered

    def blocking(self, operation: str, off: tuple[str, ...]) -> list[str]:
        """Return what is off and has to go back before this operation can be undone."""
        return [other for other in off if operation in self._machine.operations[other].after]

    def _change(self, here: MachineState, needs: Needs, steps: list[ReachStep]) -> MachineState:
        for field in FIELDS:
            wanted = getattr(needs, field)
            if wanted is None or getattr(here, field) == wanted:
                continue
            change = self._changes[field][wanted]
            minutes = change.minutes
            if field == "charge" and self._machine.charge:
                minutes = self._machine.charge.wait_minutes
            steps.append(ReachStep("change", field, wanted, change.name, minutes, change.caution))
            here = here.changed(field, wanted, self._machine.charge is not None)
        return here
