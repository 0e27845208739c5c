"""How long a shop takes over what the library gives minutes for: learned from what was noted, and
laid over a machine's operations."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from math import exp, log
from statistics import fmean, median

from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import OperationRecord
from bottega.core.library.strip_record import PaceFigures

ALL = ""
"""Stands for every operation that was not seen by itself."""
Pace = Mapping[str, float]
"""By operation, the share of the library's minutes that the shop takes; ALL for the others. Empty
where the library's minutes are taken as they are."""
Seen = Mapping[str, Sequence[tuple[float, float]]]
"""By operation, each time it was done: the library's minutes, and those that passed."""


def learned(seen: Seen, figures: PaceFigures) -> dict[str, float]:
    """Return the pace that what was seen speaks for; empty where it is too little.

    Ratios are held by their logarithms, since twice and half are as far off. The shop's own pace is
    their median over all operations; an operation seen n times lies n / (n + ``weight``) of the way
    from that to its own mean (shrinkage towards the common mean, as for a random effect).
    """
    ratios = {
        name: [_bounded(taken / planned, figures) for planned, taken in times if planned > 0]
        for name, times in seen.items()
    }
    every = [log(ratio) for row in ratios.values() for ratio in row]
    if len(every) < figures.fewest:
        return {}
    common = median(every)
    own = {
        name: common + (fmean(map(log, row)) - common) * len(row) / (len(row) + figures.weight)
        for name, row in ratios.items()
        if row
    }
    return {name: round(exp(value), 3) for name, value in {ALL: common, **own}.items()}


def paced(machine: MachineType, pace: Pace) -> MachineType:
    """Return a machine whose operations take what the shop takes over them."""
    if not pace:
        return machine
    operations = {name: _at(record, name, pace) for name, record in machine.operations.items()}
    return replace(machine, operations=operations)


def _at(record: OperationRecord, name: str, pace: Pace) -> OperationRecord:
    factor = pace.get(name, pace.get(ALL, 1.0))
    back = record.back_minutes and round(record.back_minutes * factor, 1)
    minutes = round(record.minutes * factor, 1)
    return record.model_copy(update={"minutes": max(0.1, minutes), "back_minutes": back or None})


def _bounded(ratio: float, figures: PaceFigures) -> float:
    return min(max(ratio, figures.least), figures.most)
