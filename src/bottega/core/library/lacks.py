"""What a library lacks: problems, faults no check parts, measurements whose window is a guess."""

from dataclasses import dataclass

from bottega.core.library.consistency import AlikeFaults, check_library, inseparable, stats
from bottega.core.library.errors import Problem
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.shelf import Shelf


@dataclass(frozen=True)
class Lacks:
    """The problems of a library, the pairs of faults no check tells apart, the counts of what it
    holds, and by sheet the measurements that want a window of their own."""

    problems: list[Problem]
    pairs: list[tuple[MachineType, AlikeFaults]]
    counts: dict[str, dict[str, int]]
    lacking: list[tuple[MachineType, list[Check]]]


def lacks_of(shelf: Shelf) -> Lacks:
    """Return what a library lacks."""
    alone = [shelf.machine(name) for name in shelf.archetypes]
    sheets = [shelf.machine(record.archetype, name) for name, record in shelf.sheets.items()]
    return Lacks(
        problems=check_library(shelf),
        pairs=[(machine, pair) for machine in alone for pair in inseparable(machine)],
        counts=stats(shelf),
        lacking=[(machine, guessed(machine)) for machine in sheets],
    )


def without_window(machine: MachineType) -> list[Check]:
    """Return the measurements for which neither sheet nor plate gives a value, so that a generic
    window stands in."""
    measured = [check for check in machine.checks.values() if check.measure]
    return [
        c
        for c in measured
        if c.measure and c.measure.value not in machine.values and not c.measure.physics
    ]


def guessed(machine: MachineType) -> list[Check]:
    """Return the measurements whose generic window is no more than a guess: those a sheet would
    sharpen."""
    return [
        c
        for c in without_window(machine)
        if c.measure and c.measure.generic and c.measure.generic.grade == "guessed"
    ]
