"""Faults that come and go: on each occasion some of a set act, and the others leave the background.

P(found on an occasion | set) = sum over which faults act of P(they act) times the product over
effects of P(found | state) P(state | those that act). A fault's steady effects are there all the
time. Occasions are independent of each other, once the set is given.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import product

import numpy as np

from bottega.core.diagnosis.evidence import Occasion
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints

WAYS = tuple(np.array(acts) for acts in product((True, False), repeat=3))
"""Every way in which the at most three faults of a set can act."""


@dataclass(frozen=True)
class Acting:
    """The ways in which the faults of N sets may act on an occasion, as far as some effects are
    concerned. ``sets`` (N, 3) are the members, ``rows`` (N,) the rows of the sets."""

    model: DiagnosisModel
    sets: Ints
    rows: Ints
    chance: Floats
    """(F+1,) that a fault acts; one for those the effects do not come and go with."""

    def ways(self) -> Iterator[tuple[Flags, Floats]]:
        """Yield who acts (3,) and the chance of it for each set (N,), ways that cannot be left
        out."""
        chance = self.chance[self.sets]
        for acts in WAYS:
            weight = np.where(acts, chance, 1 - chance).prod(axis=1)
            if weight.any():
                yield acts, weight

    def rows_for(self, e: int, acts: Flags) -> Ints:
        """Return the rows of the sets as effect ``e`` shows them when only those who act count,
        (N,)."""
        idle = self.model.comes[self.sets, e] & ~acts
        return self.model.row_of(np.where(idle, -1, self.sets), self.rows)


def acting(
    model: DiagnosisModel, rows: Ints, occasion: Occasion, effects: Mapping[int, object]
) -> Acting:
    """Return the ways in which the faults of the sets in ``rows`` may act on an occasion, as far as
    these effects are concerned."""
    chance = np.ones(len(model.shows))
    if not occasion.many:
        coming = np.asarray(model.comes[:, list(effects)].any(axis=1))
        chance[coming] = model.shows[coming]
        for fault, provoked in occasion.provokes:
            f = model.fault_ids.index(fault) if fault in model.fault_ids else -1
            if coming[f]:
                chance[f] = max(chance[f], provoked)
    return Acting(model, model.sets[rows], rows, chance)


def comes_with(model: DiagnosisModel, rows: Ints, e: int) -> Flags:
    """Return which of the sets in ``rows`` (N,) hold a fault that effect ``e`` comes and goes with,
    (N,)."""
    return np.asarray(model.comes[:, e][model.sets[rows]].any(axis=1))


def found_on(
    model: DiagnosisModel,
    origin: Ints,
    present: Ints,
    occasion: Occasion,
    heard: Mapping[int, Floats],
) -> tuple[Ints, Floats]:
    """Return the places of the courses that what was found on an occasion bears on because faults
    come and go, and P(it was found | course) for these.

    ``origin`` (N,) and ``present`` (N,) are the rows of the courses at the call and on the
    occasion, ``heard`` what was found of each effect as likelihoods over its states (K,).
    """
    effects = [e for e in heard if model.comes[:, e].any()]
    coming = np.asarray(model.comes[:, effects].any(axis=1))
    places = np.flatnonzero(coming[model.sets[origin]].any(axis=1))
    if not len(places):
        return places, np.ones(0)
    at_call, here = origin[places], present[places]
    full = {e: model.seen_by_all(e, heard[e]) for e in effects}
    concerned = {e: comes_with(model, at_call, e) for e in effects}
    acts_here = acting(model, here, occasion, full)
    total = np.zeros(len(places))
    for acts, weight in acts_here.ways():
        for e in effects:
            shown = full[e][acts_here.rows_for(e, acts)]
            weight = weight * np.where(concerned[e], shown, 1.0)
        total += weight
    return places, total
