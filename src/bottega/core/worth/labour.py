"""The labour of repairs, as the strip-down planner has it: there, fitting, back, and the proofs
owed after them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from bottega.core.kept import Same
from bottega.core.library.checks import both
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.records import Needs
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import ProofName
from bottega.core.machine.state import MachineState
from bottega.core.strip.pace import paced
from bottega.core.strip.plan import StripWay, plan

Pace = tuple[tuple[str, float], ...]
"""By operation, by which factor the shop takes longer than the library says; sorted."""


@dataclass(frozen=True)
class Labour:
    """Minutes of repairs: ``there`` with what makes it safe, ``fitting``, ``back``, ``proofs``."""

    there: float
    fitting: float
    back: float
    proofs: float

    @property
    def minutes(self) -> int:
        """Return all of it in whole minutes, so that anybody can reckon a quote again."""
        return round(self.there + self.fitting + self.back + self.proofs)


def labour_of(
    machine: MachineType,
    tables: Tables,
    repairs: Sequence[RepairOption],
    stood: MachineState,
    *,
    pace: Pace = (),
) -> Labour:
    """Return the labour of repairs made together, from how the machine ``stood`` when it was taken
    on: a cover that was taken off to look makes no repair cheaper, and what is open for one is not
    opened again for the next. ``pace`` is the shop's own."""
    return _labour(machine, Same(tables), tuple(repairs), stood, pace=pace)


@lru_cache(maxsize=4096)
def _labour(
    machine: MachineType,
    held: Same[Tables],
    repairs: tuple[RepairOption, ...],
    stood: MachineState,
    *,
    pace: Pace,
) -> Labour:
    tables, here = held.of, paced(machine, dict(pace))
    ways = [plan(here, tables, stood, needs).best for needs in _together(repairs)]
    parts = {repair.component for repair in repairs}
    proofs = sum(tables.strip.proofs[proof] for proof in proofs_of(machine, parts, ways))
    return Labour(
        sum(way.first_minutes + way.opening.minutes for way in ways),
        sum(repair.minutes for repair in repairs),
        sum(way.closing.minutes for way in ways),
        proofs,
    )


def _together(repairs: Iterable[RepairOption]) -> list[Needs]:
    """Return what has to be reached for repairs made together: one way for all that agree on how
    the machine has to stand, and one more for each that wants it another way."""
    ways: list[Needs] = []
    for repair in repairs:
        for place, way in enumerate(ways):
            if not way.differs(repair.way):
                ways[place] = both(way, repair.way)
                break
        else:
            ways.append(repair.way)
    return ways


def proofs_of(
    machine: MachineType, parts: Iterable[str], ways: Iterable[StripWay]
) -> set[ProofName]:
    """Return the proofs owed after work on parts: by each part, and by all that was open on the
    ways."""
    owed = {p for way in ways for name in way.operations for p in machine.operations[name].owes}
    return owed | {proof for part in parts for proof in machine.components[part].owes}
