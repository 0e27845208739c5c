"""What each fault set may have become under the repairs made: one course for every way they can
have worked on it."""

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from bottega.core.diagnosis.evidence import Finding, Occasion, Removal, ToldOfEffect, told_of
from bottega.core.diagnosis.kept_answers import KeptAnswers, kept
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.diagnosis.occasions import FoundOn, found_on

MOST_REPAIRS = 62
"""Repairs in a row that are reasoned over; epochs are marked by the bits of one number."""


FACTORS = 160
"""How many of the last factors are kept: most are those of the answer before."""
OCCASIONS = 40
"""How many occasions are kept likewise, as one number a set; all but the present one are those of
the answer before, and a repair leaves them as they were."""
WHOLE_OCCASIONS = 3
"""How many are kept with everything that was shown, which takes megabytes."""


class BudgetSpent(ValueError):
    """More repairs in a row than can be reasoned over; says how many."""


@dataclass(frozen=True)
class Factor:
    """P(some of what was found | course): ``values`` (n,) for the courses in ``places`` (n,),
    ``others`` for all the rest."""

    others: float
    places: Ints
    values: Floats

    def into(self, joint: Floats) -> None:
        """Multiply the joint probability (N,) of the courses by this factor, in place."""
        own = joint[self.places] * self.values
        joint *= self.others
        joint[self.places] = own


@dataclass(frozen=True, eq=False)
class Courses:
    """N courses over E + 1 epochs: ``origin`` (N,) the row of the set at the call, ``at``
    (E + 1, N) its row in every epoch, ``chance`` (N,) that the repairs worked so on it; ``worked``
    (E + 1, F + 1) which faults were worked on before each epoch.

    A repair that takes nothing from a set leaves it one course, whether it worked or not; so their
    number grows with what the repairs touch, not with their count's power. The first H courses are
    those of the sets in their own order.
    """

    model: DiagnosisModel
    origin: Ints
    at: Ints
    chance: Floats
    worked: Flags
    _coming: dict[int, Ints] = field(default_factory=dict, compare=False, repr=False)
    _lost: dict[tuple[int, int], Ints] = field(default_factory=dict, compare=False, repr=False)

    @property
    def answers(self) -> KeptAnswers:
        """Where answers about the courses are kept: with their model's."""
        return self.model.answers

    def at_call(self, joint: Floats) -> Floats:
        """Return ``joint`` (N,) summed by the set at the call, shape (H,)."""
        return self._summed(self.origin, joint)

    def at_present(self, joint: Floats) -> Floats:
        """Return ``joint`` (N,) summed by the set of the last epoch, shape (H,)."""
        return self._summed(self.at[-1], joint)

    def _summed(self, rows: Ints, joint: Floats) -> Floats:
        """Return ``joint`` (N,) by the row each course has in ``rows`` (N,); itself where nothing
        was repaired."""
        if len(self.at) == 1:
            return joint
        sums = np.bincount(rows, weights=joint, minlength=len(self.model.sets))
        return np.asarray(sums, dtype=np.float64)

    def steadily(self, e: int, told: ToldOfEffect) -> Factor:
        """Return P(the findings about effect ``e`` | course). Of courses whose faults make the
        effect come and go, only findings about many runs count here, for in many runs each fault
        has acted. An effect keeps its state until a repair takes a fault away that touches the
        effect; then its state is drawn anew. All findings in between speak of one state."""
        return _steadily(self, e, told)

    def always(self, e: int, told: ToldOfEffect) -> Factor:
        """Return P(the findings about effect ``e`` | course) as if every fault acted on every
        occasion and none came and went."""
        others, values = self.model.seen(e, told.likelihood)
        places = sets = self.model.touched_sets(e)
        if len(self.origin) > len(self.model.sets):
            more = self._further(e)
            values = np.concatenate([values, values[np.searchsorted(sets, self.origin[more])]])
            places = np.concatenate([sets, more])
        if told.last and len(self.at) > 1:
            # Fewer touching faults by the last epoch told of: a repair took one, and the state was
            # drawn anew in between.
            touching = self.model.touching(e)
            then, first = self.at[told.last][places], self.origin[places]
            moved = np.flatnonzero(touching[then] < touching[first])
            if len(moved):
                values[moved] = self._drawn_anew(e, told, places[moved], touching)
        return Factor(others, places, values)

    def on(self, occasion: Occasion, epoch: int, findings: tuple[Finding, ...]) -> "OnOccasion":
        """Return what was found on an occasion of the effects that come and go, held against the
        courses they come and go with."""
        return OnOccasion(self, occasion, epoch, findings)

    def coming(self, e: int) -> Ints:
        """Return the places of the courses that effect ``e`` comes and goes with, ascending."""
        if e not in self._coming:
            self._coming[e] = np.flatnonzero(self.model.coming_with(e)[self.origin])
        return self._coming[e]

    @cached_property
    def may_be_lost(self) -> list[list[bool]]:
        """Return for every epoch and effect whether a fault that the effect comes and goes with was
        worked on before that epoch."""
        comes = self.model.comes
        return [comes[worked].any(axis=0).tolist() for worked in self.worked]

    def lost(self, e: int, epoch: int) -> Ints:
        """Return the places of the courses that effect ``e`` came and went with at the call, and in
        this epoch no longer does."""
        if (e, epoch) not in self._lost:
            places = self.coming(e)
            still = self.model.coming_with(e)[self.at[epoch][places]]
            self._lost[e, epoch] = places[~still]
        return self._lost[e, epoch]

    def _further(self, e: int) -> Ints:
        """Return the places of the courses beyond the first H whose set holds a fault touching the
        effect."""
        count = len(self.model.sets)
        return count + np.flatnonzero(self.model.touching(e)[self.origin[count:]])

    def _drawn_anew(self, e: int, told: ToldOfEffect, rows: Ints, touching: Ints) -> Floats:
        """Return P(the findings about the effect | course) for the courses in ``rows``, which lose
        a fault touching the effect: a product over the stretches between the losses."""
        counts = touching[self.at[: told.last + 1, rows]]
        lost = counts[1:] < counts[:-1]
        # The epochs a course lost a fault in, as the bits of one number: courses with the same
        # stretches are worked out together.
        marks = (lost * (1 << np.arange(1, told.last + 1))[:, None]).sum(axis=0)
        total, known = np.ones(len(rows)), dict[tuple[int, int], Floats]()
        for mark in np.unique(marks).tolist():
            own = np.flatnonzero(marks == mark)
            starts = [0, *(t for t in range(1, told.last + 1) if mark >> t & 1)]
            for first, end in zip(starts, [*starts[1:], told.last + 1], strict=True):
                if (first, end) not in known:
                    known[first, end] = self.model.seen_by_all(e, told.within(first, end - 1))
                total[own] *= known[first, end][self.at[first, rows[own]]]
        return total


@kept(FACTORS)
def _steadily(course: Courses, e: int, told: ToldOfEffect) -> Factor:
    factor, model = course.always(e, told), course.model
    over_many = told.over_many
    once = len(over_many) == 1 and over_many[0].findings == told.findings
    if (once and len(course.at) == 1) or not model.comes[:, e].any():
        return factor
    places = course.coming(e)
    coming = np.searchsorted(factor.places, places)
    factor.values[coming] = 1.0
    for part in over_many:
        seen = model.seen_by_all(e, part.likelihood)
        factor.values[coming] *= seen[course.at[part.last][places]]
    return factor


@dataclass(frozen=True, eq=False)
class OnOccasion:
    """The findings of one occasion about effects that come and go, as factors on the courses. Where
    a course still holds a fault the effect comes and goes with, its set in that ``epoch`` says
    how likely the findings are; where repairs took every such fault away, the faults that remain
    say so."""

    course: Courses
    occasion: Occasion
    epoch: int
    findings: tuple[Finding, ...]

    @property
    def heard(self) -> dict[int, Floats]:
        """Return the findings by effect, as likelihoods over the states of the effect, (K,)."""
        return self._by_set.heard

    @cached_property
    def places(self) -> Ints:
        """Return the places (n,) of the courses that the findings of the occasion bear on."""
        some = self._by_set.bears[self._present]
        for lost in self._lost.values():
            some[lost] = True
        return np.flatnonzero(some)

    @cached_property
    def values(self) -> Floats:
        """Return P(what was found | course), (n,)."""
        found = self._by_set.values[self._present]
        for e, lost in self._lost.items():
            left = self.course.model.seen_by_all(e, self.heard[e])
            found[lost] *= left[self._present[lost]]
        return np.asarray(found[self.places])

    def relative(self, e: int, likelihood: Floats | None) -> Floats | None:
        """Return how much likelier the findings of this occasion become on each course ``coming``
        with effect ``e``, (m,), if the findings about ``e`` are replaced by another
        ``likelihood`` (K,) or by none. Return None where the present findings are impossible on
        some course, so that nothing can be divided by."""
        found = _found_on(self.course.model, self.occasion, self.findings)
        by_set = found.relative(e, likelihood)
        if by_set is None or len(self.course.at) == 1:
            return by_set
        model, present = self.course.model, self._present[self.course.coming(e)]
        still = model.coming_with(e)[present]
        ratio, lost = np.empty(len(present)), present[~still]
        own = np.flatnonzero(model.coming_with(e))
        ratio[still] = by_set[np.searchsorted(own, present[still])]
        was = model.seen_by_all(e, self.heard[e])[lost]
        if (was <= 0).any():
            return None
        then = np.ones(len(lost)) if likelihood is None else model.seen_by_all(e, likelihood)[lost]
        ratio[~still] = then / was
        return ratio

    @property
    def _present(self) -> Ints:
        """Return the row of each course's fault set in this epoch, (N,)."""
        return np.asarray(self.course.at[self.epoch])

    @cached_property
    def _by_set(self) -> "BySet":
        return _by_set(self.course.model, self.occasion, self.findings)

    @cached_property
    def _lost(self) -> dict[int, Ints]:
        """Return by effect the places of the courses that came and went with the effect at the
        call, and no longer do."""
        return {e: self.course.lost(e, self.epoch) for e in self.heard if self._may_be_lost[e]}

    @property
    def _may_be_lost(self) -> list[bool]:
        return self.course.may_be_lost[self.epoch]


@dataclass(frozen=True)
class BySet:
    """The findings ``heard`` on an occasion, by effect, (K,), the sets they ``bears`` on, and P(the
    findings | set) ``values``, each (H,)."""

    heard: dict[int, Floats]
    bears: Flags
    values: Floats


@kept(OCCASIONS)
def _by_set(model: DiagnosisModel, occasion: Occasion, findings: tuple[Finding, ...]) -> BySet:
    found = _found_on(model, occasion, findings)
    bears, values = np.zeros(len(model.sets), dtype=bool), np.ones(len(model.sets))
    bears[found.places] = True
    values[found.places] = found.values
    return BySet(_heard(model, findings), bears, values)


@kept(WHOLE_OCCASIONS)
def _found_on(model: DiagnosisModel, occasion: Occasion, findings: tuple[Finding, ...]) -> FoundOn:
    heard = _heard(model, findings)
    coming = {e: np.flatnonzero(model.coming_with(e)) for e in heard}
    return found_on(model, coming, np.arange(len(model.sets)), occasion, heard=heard)


def _heard(model: DiagnosisModel, findings: tuple[Finding, ...]) -> dict[int, Floats]:
    told = told_of(model, findings)
    return {model.effect_index(e): own.likelihood for e, own in told.items()}


@kept(8)
def courses(model: DiagnosisModel, removals: tuple[Removal, ...]) -> Courses:
    """Return every course the repairs may have taken. Raises BudgetSpent for more than MOST_REPAIRS
    repairs. The last courses are kept, for another finding leaves them as they are."""
    if len(removals) > MOST_REPAIRS:
        raise BudgetSpent(
            f"found {len(removals)} repairs in a row, expected at most {MOST_REPAIRS}"
        )
    present, chance = np.arange(len(model.sets)), np.ones(len(model.sets))
    epochs, parents = [present], []
    worked = np.zeros((len(removals) + 1, len(model.fault_ids) + 1), dtype=bool)
    for nth, removal in enumerate(sorted(removals, key=lambda removal: removal.after_epoch)):
        faults = frozenset(model.fault_index(f) for f in removal.faults)
        worked[nth + 1 :, list(faults)] = True
        cured = model.without(faults)[present]
        split = np.flatnonzero(cured != present)
        fails = split if removal.success < 1 else split[:0]
        present = np.append(cured, present[fails])
        chance = np.append(chance, chance[fails] * (1 - removal.success))
        chance[split] *= removal.success
        epochs.append(present)
        parents.append(fails)
    return Courses(model, *_traced(epochs, parents), chance, worked)


def _traced(epochs: list[Ints], parents: list[Ints]) -> tuple[Ints, Ints]:
    """Return the rows of the courses at the call, and (E + 1, N) in every epoch, from those of each
    epoch's own courses: the new ones of an epoch stand last and had the past of their parents."""
    # Backwards: each course of an epoch knows its place one epoch before, itself or its parent.
    own = np.arange(len(epochs[-1]))
    at = np.empty((len(epochs), len(own)), dtype=np.intp)
    for epoch in reversed(range(len(epochs))):
        at[epoch] = epochs[epoch][own]
        if epoch:
            own = np.append(np.arange(len(epochs[epoch - 1])), parents[epoch - 1])[own]
    return at[0], at
