"""The labour of a repair, as the strip-down planner has it: there, fitting, back, and the proofs
owed after it."""

from dataclasses import dataclass
from functools import lru_cache

from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import ProofName
from bottega.core.machine.state import MachineState
from bottega.core.strip.pace import paced
from bottega.core.strip.plan import Way, plan

Pace = tuple[tuple[str, float], ...]
"""By operation, by which factor the shop takes longer than the library says; sorted."""


@dataclass(frozen=True)
class Labour:
    """Minutes of a repair: ``there`` with what makes it safe, ``fitting``, ``back``, ``proofs``."""

    there: float
    fitting: float
    back: float
    proofs: float

    @property
    def minutes(self) -> int:
        """Return all of it in whole minutes, so that anybody can reckon a quote again."""
        return round(self.there + self.fitting + self.back + self.proofs)


def labour_of(
    machine: MachineType, tables: Tables, repair: RepairOption, stood: MachineState, pace: Pace = ()
) -> Labour:
    """Return the labour of a repair from how the machine ``stood`` when it was taken on: a cover
    that was taken off to look makes no repair cheaper. ``pace`` is the shop's own."""
    return _labour(machine, _Held(tables), repair, stood, pace)


class _Held:
    """Tables as one key of what is kept: they are compared by identity, for they hold dicts."""

    def __init__(self, tables: Tables) -> None:
        self.tables = tables

    def __hash__(self) -> int:
        return id(self.tables)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Held) and other.tables is self.tables


@lru_cache(maxsize=4096)
def _labour(
    machine: MachineType,
    held: _Held,
    repair: RepairOption,
    stood: MachineState,
    pace: Pace,
) -> Labour:
    tables, here = held.tables, paced(machine, dict(pace))
    way = plan(here, tables, stood, repair.way).best
    proofs = sum(tables.strip.proofs[proof] for proof in proofs_of(machine, repair, way))
    there = way.first_minutes + way.opening.minutes
    return Labour(there, repair.minutes, way.closing.minutes, proofs)


def proofs_of(machine: MachineType, repair: RepairOption, way: Way) -> set[ProofName]:
    """Return the proofs owed after a repair: by its part, and by all that was open on the way."""
    owed = {proof for name in way.operations for proof in machine.operations[name].owes}
    return owed | set(machine.components[repair.component].owes)
