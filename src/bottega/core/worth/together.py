"""Repairs made together: the cheapest set of repairs that is enough for the share of cases a shop
wants."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from bottega.core.diagnosis.infer import Belief
from bottega.core.library.machine_type import RepairOption
from bottega.core.worth.quote import Quote

MOST_TOGETHER = 3
"""Repairs in a set; as many faults as a belief holds at once."""
COUNTED_FROM = 1e-6
"""From this chance on a set of faults is counted; chosen, far below what is said."""
AMONG = 10
"""The repairs that end most cases, of which a set is made; chosen."""


@dataclass(frozen=True)
class RepairSet:
    """Repairs to be made together, in the order of what they cost, with the quote of all."""

    repairs: tuple[RepairOption, ...]
    quote: Quote


def cheapest_set(
    belief: Belief,
    priced: Sequence[tuple[RepairOption, Quote]],
    share: float,
    quoted: Callable[[Sequence[RepairOption]], Quote],
) -> RepairSet | None:
    """Return the cheapest set of two or three repairs that holds every fault in at least ``share``
    (0..1) of the cases with a fault; None where a single repair does, or no set of so many.

    ``priced`` are the single repairs with their quotes, ``quoted`` prices a set. No repair of a set
    can be left out. A set costs at least what its dearest repair costs by itself, so the sets are
    priced in that order until none can be cheaper.
    """
    rows = np.flatnonzero(belief.now[1:] > COUNTED_FROM) + 1
    chances, wanted = belief.now[rows], share * (1 - belief.healthy)

    def held_by(covers: Sequence[NDArray[np.bool_]]) -> float:
        """The share of all cases in which these covers together put everything right."""
        return float(chances @ np.logical_or.reduce(covers).all(axis=1))

    held = [(repair, quote, _held(belief, repair, rows)) for repair, quote in priced]
    held.sort(key=lambda one: (-held_by((one[2],)), one[0].id))
    held = held[:AMONG]
    if not len(rows) or any(held_by((cover,)) >= wanted for _, _, cover in held):
        return None
    enough: list[tuple[int, ...]] = []
    for count in range(2, MOST_TOGETHER + 1):
        for places in combinations(range(len(held)), count):
            smaller = any(set(one) <= set(places) for one in enough)
            if not smaller and held_by([held[p][2] for p in places]) >= wanted:
                enough.append(places)
    enough.sort(key=lambda places: (max(held[p][1].total for p in places), places))
    best: RepairSet | None = None
    for places in enough:
        if best is not None and max(held[p][1].total for p in places) >= best.quote.total:
            break
        own = sorted((held[p] for p in places), key=lambda one: (one[1].total, one[0].id))
        repairs = tuple(repair for repair, _, _ in own)
        whole = quoted(repairs)
        if best is None or whole.total < best.quote.total:
            best = RepairSet(repairs, whole)
    return best


def _held(belief: Belief, repair: RepairOption, rows: NDArray[np.intp]) -> NDArray[np.bool_]:
    """Return which faults of each set in ``rows`` a repair is for, (N, 3), and the empty places."""
    model = belief.model
    own = np.zeros(len(model.fault_ids) + 1, dtype=bool)
    own[[model.fault_index(name) for name, _ in repair.covers]] = True
    own[-1] = True
    return np.asarray(own[model.sets[rows]])
