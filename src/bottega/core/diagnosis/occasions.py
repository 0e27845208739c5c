"""Faults that come and go: on each occasion some of a set act, and the others leave the background.

P(found on an occasion | set) = sum over which faults act of P(they act) times the product over
effects of P(found | state) P(state | those that act). A fault's steady effects are there all the
time. Occasions are independent of each other, once the set is given.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import product

import numpy as np

from bottega.core.diagnosis.evidence import Occasion
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints

WAYS = tuple(np.array(acts) for acts in product((True, False), repeat=3))
"""Every way in which the at most three faults of a set can act."""


@dataclass(frozen=True)
class ActingWay:
    """One way in which the faults of N sets act: the places in the set of those that act (3,), the
    chance of this way (N,), or (O, N) by occasion, and the row of the smaller set that is left
    when the other faults are taken out (N,)."""

    acts: Flags
    weight: Floats
    rows: Ints


@dataclass(frozen=True)
class Acting:
    """The ways in which the faults of N sets may act on an occasion. ``sets`` (N, 3) are the
    members, ``rows`` (N,) the rows of the sets, ``chance`` (F+1,), or (O, F+1) by occasion, that a
    fault acts: one for those that the effects concerned do not come and go with."""

    model: DiagnosisModel
    sets: Ints
    rows: Ints
    chance: Floats

    @cached_property
    def ways(self) -> tuple[ActingWay, ...]:
        """Return the ways that matter: a way whose chance is zero for every set is left out."""
        chances, found = [self.chance[..., members] for members in self.sets.T], []
        by_act = [(1 - chance, chance) for chance in chances]
        may_idle = [bool(idle.any()) for idle, _ in by_act]
        for acts in WAYS:
            if any(not act and not idle for act, idle in zip(acts, may_idle, strict=True)):
                continue
            one, two, three = (by_act[n][int(act)] for n, act in enumerate(acts))
            weight = one * two * three
            if weight.any():
                found.append(ActingWay(acts, weight, self._left(acts)))
        return tuple(found)

    @cached_property
    def _held(self) -> Flags:
        """Return for each of the three places in a set whether any of the sets has a fault there,
        (3,)."""
        return np.asarray((self.sets >= 0).any(axis=0))

    def _left(self, acts: Flags) -> Ints:
        """Return for each set the row of the smaller set of faults that act, (N,)."""
        act = np.flatnonzero(acts & self._held)
        if len(act) == self._held.sum():
            return self.rows
        if len(act) > 1:
            return self.model.row_of(np.where(acts, self.sets, -1), self.rows)
        # One member alone is the single fault's set, whose row is the fault's index plus one.
        return self.sets[:, act[0]] + 1 if len(act) else np.zeros(len(self.rows), dtype=np.intp)

    def showing(self, way: ActingWay, effects: Ints, which: Ints) -> Ints:
        """Return for each of the ``effects`` (m,) and the set in the place ``which`` (m,) the row
        of what shows of it where those act who do in this ``way``: they, and who has the effect all
        the same, steadily, (m,)."""
        rows = way.rows[which]
        some = np.flatnonzero(self.model.stays[effects])
        if way.acts.all() or not len(some):
            return rows
        members = self.sets[which[some]]
        idle = ~way.acts & self.model.steadily[members, effects[some][:, None]]
        stays = np.flatnonzero(idle.any(axis=1))
        left = np.where(way.acts | idle[stays], members[stays], -1)
        rows[some[stays]] = self.model.row_of(left, self.rows[which[some[stays]]])
        return rows


def acting(
    model: DiagnosisModel, rows: Ints, occasions: Sequence[Occasion], effects: Sequence[int]
) -> Acting:
    """Return the ways in which the faults of the sets in ``rows`` may act on one of O occasions, as
    far as these effects are concerned."""
    coming = np.asarray(model.comes[:, list(effects)].any(axis=1))
    chance = np.where(coming, model.shows, np.ones((len(occasions), 1)))
    for own, occasion in zip(chance, occasions, strict=True):
        for fault, provoked in occasion.provokes:
            f = model.fault_index(fault) if fault in model.machine.faults else -1
            if coming[f]:
                own[f] = max(own[f], provoked)  # provoking never makes a fault act less
    return Acting(model, model.sets[rows], rows, chance if len(occasions) > 1 else chance[0])


def comes_with(model: DiagnosisModel, rows: Ints, effects: Ints | int) -> Flags:
    """Return which of the sets in ``rows`` (N,) hold a fault that an effect comes and goes with:
    (N,), or (m, N) for several ``effects``."""
    comes = model.comes[:, effects]
    first, second, third = (comes[members[rows]] for members in model.sets.T)
    return np.asarray((first | second | third).T)


def shown_by_way(here: Acting, effects: Ints, likelihood: Floats, concerned: Flags) -> Floats:
    """Return P(findings about each of the ``effects`` (m,) | the faults that act), for each way of
    acting, (W, m, N). ``likelihood`` (m, K) holds the findings. Only the effects ``concerned``
    (m, N), which come and go with the set, count; of all others the factor is one."""
    shown = np.ones((len(here.ways), *concerned.shape))
    own, which = np.nonzero(concerned)
    shown[:, own, which] = _shown(here, effects, likelihood, own, which=which)
    return shown


def _shown(here: Acting, effects: Ints, likelihood: Floats, own: Ints, *, which: Ints) -> Floats:
    """Return the same for pairs of an effect, by its place ``own`` (P,) among the ``effects``, and
    a set, by its place ``which`` (P,), (W, P)."""
    shown = np.ones((len(here.ways), len(which)))
    if not len(which):
        return shown
    passes, effect = here.model.passes(effects, likelihood), effects[own]
    for n, way in enumerate(here.ways):
        place = here.model.places_of(effect, here.showing(way, effect, which))
        shown[n] = passes[here.model.first[effect] + place]
    return shown


@dataclass(frozen=True)
class FoundOn:
    """What was found on an occasion, held against the courses it bears on because faults come and
    go: their ``places`` (n,), and for each pair of an effect ``own`` (P,) and a course ``which``
    (P,) that it comes and goes with, by way, P(it was found | those who act), (W, P). The pairs of
    a course stand together."""

    acting: Acting
    places: Ints
    effects: tuple[int, ...]
    own: Ints
    which: Ints
    shown: Floats

    @cached_property
    def values(self) -> Floats:
        """Return P(what was found | course), (n,)."""
        return np.asarray(self._by_way.sum(axis=0))

    def relative(self, e: int, likelihood: Floats | None) -> Floats | None:
        """Return how much likelier the findings of this occasion become on each course that comes
        and goes with effect ``e``, (m,), if the findings about ``e`` are replaced by another
        ``likelihood`` (K,) or by none. Return None where the present findings are impossible on
        some course, so that nothing can be divided by."""
        at = np.flatnonzero(self.own == self.effects.index(e))
        courses, was = self.which[at], self.shown[:, at]
        now = self.values[courses]
        if (now <= 0).any():
            return None
        if (was > 0).all():
            left = self._by_way[:, courses] / was
        else:
            others = self.shown.copy()
            others[:, at] = 1.0
            left = self._joined(others)[:, courses]
        if likelihood is not None:
            first = np.zeros(len(at), dtype=np.intp)
            left *= _shown(self.acting, np.array([e]), likelihood[None], first, which=courses)
        return np.asarray(left.sum(axis=0) / now)

    @cached_property
    def _by_way(self) -> Floats:
        return self._joined(self.shown)

    def _joined(self, shown: Floats) -> Floats:
        """Return the chance of each way times P(all that was ``shown`` (W, P) | those who act), (W,
        n)."""
        joined = np.array([way.weight for way in self.acting.ways]).reshape(-1, len(self.places))
        starts = np.flatnonzero(np.diff(self.which, prepend=-1))
        if len(starts):
            joined[:, self.which[starts]] *= np.multiply.reduceat(shown, starts, axis=1)
        return joined


def found_on(
    model: DiagnosisModel,
    coming: Mapping[int, Ints],
    present: Ints,
    occasion: Occasion,
    *,
    heard: Mapping[int, Floats],
) -> FoundOn:
    """Return what was found on an occasion, held against the courses it bears on.

    ``coming`` are by effect the places of the courses it comes and goes with, ``present`` (N,) the
    rows of all courses on the occasion, ``heard`` what was found of each of the effects as
    likelihoods over its states (K,).
    """
    effects, count = np.array(list(coming), dtype=np.intp), [len(own) for own in coming.values()]
    bears = np.zeros(len(present), dtype=bool)
    pairs = np.concatenate([np.zeros(0, dtype=np.intp), *coming.values()])
    bears[pairs] = True
    places = np.flatnonzero(bears)
    which = (np.cumsum(bears) - 1)[pairs]
    order = np.argsort(which, kind="stable")
    own, which = np.repeat(np.arange(len(effects)), count)[order], which[order]
    here = acting(model, present[places], [occasion], effects.tolist())
    likelihood = np.array([heard[e] for e in coming])
    shown = _shown(here, effects, likelihood, own, which=which)
    return FoundOn(here, places, tuple(coming), own, which, shown)
