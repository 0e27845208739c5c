"""What each fault set may have become under the repairs made: one course for every way they can
have worked on it."""

from dataclasses import dataclass, field

import numpy as np

from bottega.core.diagnosis.evidence import Removal, Told
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints

MOST_REPAIRS = 62
"""Repairs in a row that are reasoned over; epochs are marked by the bits of one number."""


class BudgetSpent(ValueError):
    """More repairs in a row than can be reasoned over; says how many."""


@dataclass(frozen=True)
class Courses:
    """N courses over E + 1 epochs: ``origin`` (N,) the row of the set at the call, ``at``
    (E + 1, N) its row in every epoch, ``chance`` (N,) that the repairs worked so on it.

    A repair that takes nothing from a set leaves it one course, whether it worked or not; so their
    number grows with what the repairs touch, not with their count's power.
    """

    model: DiagnosisModel
    origin: Ints
    at: Ints
    chance: Floats
    _touching: dict[int, Ints] = field(default_factory=dict, compare=False, repr=False)

    def at_call(self, joint: Floats) -> Floats:
        """Return ``joint`` (N,) summed by the set at the call, shape (H,)."""
        return _summed(self.origin, joint, self.model)

    def at_present(self, joint: Floats) -> Floats:
        """Return ``joint`` (N,) summed by the set of the last epoch, shape (H,)."""
        return _summed(self.at[-1], joint, self.model)

    def likelihood(self, e: int, told: Told) -> Floats:
        """Return P(what was found of effect ``e`` | course), shape (N,).

        An effect keeps its state until a fault that touches it is taken away; then it is drawn
        anew. What was found in between speaks of one state.
        """
        known = self.model.seen(e, told.within(0, told.last))[self.origin]
        if told.last == 0 or len(self.at) == 1:
            return known
        touching = self._touching_faults(e)
        moved = np.flatnonzero(touching[self.at[told.last]] < touching[self.origin])
        if len(moved):
            known[moved] = self._drawn_anew(e, told, moved, touching)
        return known

    def _touching_faults(self, e: int) -> Ints:
        """Return how many faults of each set touch the effect, shape (H,)."""
        if e not in self._touching:
            self._touching[e] = self.model.touches[:, e][self.model.sets].sum(axis=1)
        return self._touching[e]

    def _drawn_anew(self, e: int, told: Told, rows: Ints, touching: Ints) -> Floats:
        """Return the same for the courses in ``rows`` that lose a fault touching the effect,
        stretch by stretch."""
        counts = touching[self.at[: told.last + 1, rows]]
        lost = counts[1:] < counts[:-1]
        marks = (lost * (1 << np.arange(1, told.last + 1))[:, None]).sum(axis=0)
        total = np.ones(len(rows))
        for mark in np.unique(marks).tolist():
            own = np.flatnonzero(marks == mark)
            starts = [0, *(t for t in range(1, told.last + 1) if mark >> t & 1)]
            for first, end in zip(starts, [*starts[1:], told.last + 1], strict=True):
                likelihood = told.within(first, end - 1)
                total[own] *= self.model.seen(e, likelihood, self.at[first, rows[own]])
        return total


def courses(model: DiagnosisModel, removals: tuple[Removal, ...]) -> Courses:
    """Return every course the repairs may have taken. Raises BudgetSpent above MOST_REPAIRS."""
    if len(removals) > MOST_REPAIRS:
        raise BudgetSpent(
            f"found {len(removals)} repairs in a row, expected at most {MOST_REPAIRS}"
        )
    present, chance = np.arange(len(model.sets)), np.ones(len(model.sets))
    epochs, parents = [present], []
    for removal in sorted(removals, key=lambda removal: removal.after_epoch):
        cured = model.without(frozenset(model.fault_index(f) for f in removal.faults))[present]
        split = np.flatnonzero(cured != present)
        fails = split if removal.success < 1 else split[:0]
        present = np.append(cured, present[fails])
        chance = np.append(chance, chance[fails] * (1 - removal.success))
        chance[split] *= removal.success
        epochs.append(present)
        parents.append(fails)
    return Courses(model, *_traced(epochs, parents), chance)


def _traced(epochs: list[Ints], parents: list[Ints]) -> tuple[Ints, Ints]:
    """Return the rows of the courses at the call, and (E + 1, N) in every epoch, from those of each
    epoch's own courses: the new ones of an epoch stand last and had the past of their parents."""
    own = np.arange(len(epochs[-1]))
    at = np.empty((len(epochs), len(own)), dtype=np.intp)
    for epoch in reversed(range(len(epochs))):
        at[epoch] = epochs[epoch][own]
        if epoch:
            own = np.append(np.arange(len(epochs[epoch - 1])), parents[epoch - 1])[own]
    return at[0], at


def _summed(rows: Ints, joint: Floats, model: DiagnosisModel) -> Floats:
    sums = np.bincount(rows, weights=joint, minlength=len(model.sets))
    return np.asarray(sums, dtype=np.float64)
