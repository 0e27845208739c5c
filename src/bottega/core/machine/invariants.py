"""What may never be together: how a machine stands, reduced to what the table of invariants speaks
of, held against the table's rows."""

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from bottega.core.library.invariant_record import Invariant
from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import Act, Face, Opens
from bottega.core.machine.state import MachineState

Rows = Mapping[str, Invariant]
PLUG = {"on": "in", "off": "out", "unknown": "unknown"}
LIVE_TEST = "live_test"


@dataclass(frozen=True)
class Standing:
    """How a machine stands, as the table names it, and what is being done to it (``doing``; empty
    where nothing is)."""

    plug: str
    taps: str
    water: str
    charge: str
    drum: str
    door: str
    posture: str
    open: frozenset[Opens]
    loads: str
    interlock: str = "whole"
    danger: str = "calm"
    doing: Act | str = ""
    fed: str = "yes"
    face: Face | str = ""


@dataclass(frozen=True)
class Broken:
    """A row that would be broken: its id, why, and what to do instead."""

    row: str
    why: str
    instead: str

    def __str__(self) -> str:
        return f"{self.why} {self.instead}"


def standing(
    machine: MachineType, state: MachineState, defeated: bool = False, danger: bool = False
) -> Standing:
    """Return how a machine stands, as the table names it. ``defeated`` says that an interlock is,
    ``danger`` that a fault that can hurt people is likely and not settled."""
    return Standing(
        plug=PLUG[state.power],
        taps=state.taps,
        water=state.water,
        charge=state.charge,
        drum=state.drum,
        door=state.door,
        posture=state.posture,
        open=opened(machine, state.off),
        loads=machine.loads,
        interlock="defeated" if defeated else "whole",
        danger="unsettled" if danger else "calm",
    )


def opened(machine: MachineType, off: Iterable[str]) -> frozenset[Opens]:
    """Return what is open where these operations are done."""
    known = machine.operations
    return frozenset(kind for name in off if name in known for kind in known[name].opens)


def broken(rows: Rows, here: Standing, lifted: bool = False) -> Iterator[Broken]:
    """Yield the rows that a standing breaks; without those a declared live test lifts where one
    was declared (``lifted``)."""
    for name, row in rows.items():
        if lifted and row.lifted_by == LIVE_TEST:
            continue
        if all(_holds(here, field, values) for field, values in row.when.items()):
            yield Broken(name, row.why, row.instead)


def newly_broken(
    rows: Rows, before: Standing, after: Standing, lifted: bool = False
) -> Broken | None:
    """Return the first row that a step from ``before`` to ``after`` breaks; None where it breaks
    none that was not broken already. So whoever makes a machine safe is never held back by what is
    wrong with how it stands."""
    was = {one.row for one in broken(rows, replace(before, doing="", face=""))}
    return next((one for one in broken(rows, after, lifted) if one.row not in was), None)


def covered(machine: MachineType, state: MachineState, needs: Needs) -> bool:
    """Return whether all that is open is what a test with these needs wants open: no more."""
    wanted = way_of(machine, needs.off)
    return all(
        name in wanted or not machine.operations[name].opens
        for name in state.off
        if name in machine.operations
    )


def uncovered(machine: MachineType, state: MachineState, needs: Needs) -> list[str]:
    """Return what is off, opens something and is not wanted off, the last taken off first."""
    wanted = way_of(machine, needs.off)
    known = machine.operations
    return [
        name
        for name in reversed(state.off)
        if name in known and known[name].opens and name not in wanted
    ]


def way_of(machine: MachineType, off: Collection[str]) -> frozenset[str]:
    """Return these operations and all that has to be done before them, however it is done."""
    return _way_of(machine, tuple(off))


@lru_cache(maxsize=4096)
def _way_of(machine: MachineType, off: tuple[str, ...]) -> frozenset[str]:
    found: set[str] = set()

    def visit(name: str) -> None:
        if name in found or name not in machine.operations:
            return
        found.add(name)
        for before in machine.operations[name].after:
            visit(before)

    for name in off:
        visit(name)
    same = {
        other
        for other, record in machine.operations.items()
        if record.instead in found and other not in found
    }
    for name in same:
        visit(name)
    return frozenset(found)


def _holds(here: Standing, field: str, values: Collection[str]) -> bool:
    value = getattr(here, field)
    return bool(value & set(values)) if field == "open" else value in values
