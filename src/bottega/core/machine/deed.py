"""What is done to a machine, held against the table of what may never be together: a change of how
it stands, something taken off or put back, a check made on it."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.vocabulary import Act
from bottega.core.machine.invariants import (
    Broken,
    Rows,
    Standing,
    broken,
    covered,
    newly_broken,
    opened,
    standing,
)
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Deed:
    """How the machine stands while something is done, whether a declared live test covers it, and
    whether all of it has to be right (a run, a test), or only what is new."""

    there: Standing
    lifted: bool = False
    whole: bool = False


def forbidden(rows: Rows, before: Standing, deeds: Iterable[Deed]) -> Broken | None:
    """Return the first row that one of these deeds breaks, None where all of them may be done."""
    for deed in deeds:
        found = (
            next(broken(rows, deed.there, deed.lifted), None)
            if deed.whole
            else newly_broken(rows, before, deed.there, deed.lifted)
        )
        if found is not None:
            return found
    return None


def to_change(machine: MachineType, after: MachineState, before: Standing, lifted: bool) -> Deed:
    """Return the deed of bringing a machine to stand as ``after``; ``lifted`` where that is a
    declared live test."""
    there = standing(machine, after, before.interlock == "defeated", before.danger == "unsettled")
    if after.door == "open" and before.door != "open":
        there = replace(there, doing="open_door")
    return Deed(there, lifted)


def to_work(
    machine: MachineType, state: MachineState, operation: str, takes_off: bool, *, before: Standing
) -> Deed:
    """Return the deed of taking one thing off a machine, or of putting it back."""
    record = machine.operations[operation]
    others = tuple(name for name in state.off if name != operation)
    off = (*others, operation) if takes_off else others
    doing: Act | str = "touch" if record.needs.charge else ""
    face = "" if record.face == "bench" else record.face
    return Deed(replace(before, open=opened(machine, off), doing=doing, face=face))


def to_check(
    machine: MachineType,
    check: Check,
    before: Standing,
    lifted: bool,
    *,
    acts: tuple[Act, ...] = (),
) -> Iterator[Deed]:
    """Yield the deeds of a check: each act of it, or of the service step it is made in
    (``acts``)."""
    live = check.needs.power == "on"
    fed = "yes" if machine.components[check.component].may_be_fed else "no"
    for act in acts or check.acts or (("look",) if live else ()):
        there = replace(before, doing=act, fed=fed)
        yield Deed(there, lifted, whole=live or act == "feed")


def to_run(before: Standing, lifted: bool) -> Deed:
    """Return the deed of letting a machine run as in a wash; a live test lifts nothing of it while
    anything is open."""
    return Deed(replace(before, doing="run"), lifted and not before.open, whole=True)


def covers(machine: MachineType, state: MachineState, check: Check) -> bool:
    """Return whether the live test that was declared is one of exactly what this check wants
    open."""
    return bool(state.live_test) and covered(machine, state, check.needs)


def may_declare(machine: MachineType, state: MachineState, check_id: str) -> bool:
    """Return whether plugging in can be declared as the live test of a check: one that wants the
    machine plugged in, and open just as it is."""
    check = machine.checks.get(check_id)
    return check is not None and check.needs.power == "on" and covered(machine, state, check.needs)
