"""Why: the weight of each finding in decibans (Good 1950), conflict between findings, what was not
looked at."""

from dataclasses import dataclass, field, replace
from functools import cached_property
from hashlib import blake2b
from math import log, log10

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, Finding, Occasion, ToldOfEffect
from bottega.core.diagnosis.infer import Belief, Weighed, weigh, weighed
from bottega.core.diagnosis.kept_answers import kept
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.diagnosis.occasions import acting, comes_with

SHOWN_DB = 0.5
"""A smaller weight is not shown; half a deciban is odds of 1.12."""
WEAK_DB = 1.0
"""Below one deciban a finding says next to nothing."""
PRIORS = 8
"""How many priors are kept with what each effect shows under them: ages of machines, mostly."""
CLEARLY = log(5)
"""A finding five times less likely beside the others than alone contradicts them clearly."""


@dataclass(frozen=True)
class Weight:
    """What one finding says for (positive) or against (negative) a fault, in decibans, the others
    held."""

    finding: Finding
    decibans: float


@dataclass(frozen=True)
class Conflict:
    """How badly the findings fit together: ln of the product of their chances over their joint
    chance (Jensen 1991).

    Positive means they contradict each other; ``odd`` is the finding that contradicts the others
    most.
    """

    amount: float
    odd: Finding | None


@dataclass(frozen=True)
class LeaveOneOut:
    """What would be believed without each of n findings; ``log_evidence`` (n,) is ln P(the
    others)."""

    log_evidence: Floats
    _whole: "_Sums"
    _moves: "list[_Move]"
    """What each finding changes; findings that are alike but for their entry share one."""
    _which: Ints
    """By finding, which of the moves is its own, (n,)."""

    @property
    def nbytes(self) -> int:
        """Return how much room it takes, in bytes: what each finding changes, fault set by fault
        set."""
        return sum(move.places.nbytes + move.change.nbytes for move in self._moves)

    @cached_property
    def faults(self) -> Floats:
        """Return P(fault at the call) without each finding, (n, F)."""
        scales = np.array([move.scale for move in self._moves])
        sums = scales[:, None] * self._whole.by_fault + self._whole.moved_by_fault(self._moves)
        return np.asarray(np.maximum(sums, 0.0)[self._which] / np.exp(self.log_evidence)[:, None])

    def of(self, f: int) -> Floats:
        """Return the same of one fault by its index, (n,)."""
        own = self._whole.by_fault[f]
        held = self._whole.holding(f)
        sums = [m.scale * own + float(m.change[held[m.places]].sum()) for m in self._moves]
        return np.asarray(np.maximum(sums, 0.0)[self._which] / np.exp(self.log_evidence))


def leave_one_out(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> LeaveOneOut:
    """Return the belief without each finding in turn; only the factors it is part of are made
    again, and only where they differ from those of all other courses."""
    whole = _Sums(weighed(model, evidence), prior)
    alike: dict[Finding, int] = {}
    which = [
        alike.setdefault(replace(finding, event=""), len(alike))
        for finding in whole.known.evidence.findings
    ]
    first = {own: place for place, own in reversed(list(enumerate(which)))}
    moves = [whole.move(whole.known.evidence.findings[first[own]]) for own in range(len(alike))]
    totals = [move.scale * whole.total + float(move.change.sum()) for move in moves]
    places = np.array(which, dtype=np.intp)
    return LeaveOneOut(np.log(np.maximum(totals, 1e-300))[places], whole, moves, places)


@dataclass(frozen=True)
class _Move:
    """The change of a joint probability over the courses when one finding is left out: everything
    is multiplied by ``scale``, and at the ``places`` (n,) a ``change`` (n,) is added."""

    scale: float
    places: Ints
    change: Floats


class _Sums:
    """A joint probability over the courses with its sums, and the same without each finding."""

    def __init__(self, known: Weighed, prior: Floats) -> None:
        self.known, self.prior, self.model = known, prior, known.course.model
        self.joint = known.joint(prior)
        self.total = float(self.joint.sum())
        self.by_fault = self.model.by_fault(known.course.at_call(self.joint))

    def move(self, finding: Finding) -> _Move:
        """Return what the joint becomes as if the finding had never been seen."""
        known, e = self.known, self.model.effect_index(finding.effect)
        told, old = known.told[finding.effect].without(finding), known.steady[finding.effect]
        on_occasion = self._on_occasion(e, finding, told)
        if old.others <= 0 or (old.values <= 0).any() or on_occasion is None:
            return self._anew(finding)
        if told.findings:
            new = known.course.steadily(e, told)
            scale, ratio = new.others / old.others, new.values / old.values
        else:
            scale, ratio = 1 / old.others, 1 / old.values
        if len(on_occasion):
            ratio[np.searchsorted(old.places, known.course.coming(e))] *= on_occasion
        return _Move(scale, old.places, self.joint[old.places] * (ratio - scale))

    def holding(self, f: int) -> Flags:
        """Return which courses are of sets that held fault ``f`` at the call."""
        return np.asarray(self.model.holding(f)[self.known.course.origin])

    def moved_by_fault(self, moves: list[_Move]) -> Floats:
        """Return the changes summed by fault at the call, (n, F)."""
        if not moves:
            return np.zeros((0, len(self.model.fault_ids)))
        count = len(self.model.fault_ids) + 1
        rows = self.known.course.origin[np.concatenate([move.places for move in moves])]
        change = np.concatenate([move.change for move in moves])
        owner = np.repeat(np.arange(len(moves)), [len(move.places) for move in moves])
        sums = np.zeros(len(moves) * count)
        for members in self.model.sets[rows].T:
            sums += np.bincount(owner * count + members + 1, change, len(sums))
        return sums.reshape(len(moves), count)[:, 1:]

    def _on_occasion(self, e: int, finding: Finding, rest: ToldOfEffect) -> Floats | None:
        """Return how much likelier what was found on its occasion is without the finding, of the
        courses that effect ``e`` comes and goes with, (m,); empty where it comes and goes with none
        or speaks of many runs, None where it cannot be divided out."""
        found = self.known.occasions.get((finding.epoch, finding.occasion))
        if found is None or e not in found.heard:
            return np.zeros(0)
        same = tuple(f for f in rest.findings if f.on_same(finding))
        return found.relative(e, ToldOfEffect(same, rest.width).likelihood if same else None)

    def _anew(self, finding: Finding) -> _Move:
        """Return the same from the first: what the finding makes impossible cannot be divided
        out."""
        rest = weigh(self.model, self.known.evidence.without(finding))
        return _Move(0.0, np.arange(len(self.joint)), rest.joint(self.prior))


def weights(evidence: Evidence, belief: Belief, out: LeaveOneOut, fault: str) -> list[Weight]:
    """Return the weight of every finding for a fault, in the order given; clipped to ±60
    decibans, and told to a millionth: beyond that, sums depend on where arrays lie in memory."""
    f = belief.model.fault_index(fault)
    present = _log_odds(belief.fault_was()[fault])
    return [
        Weight(finding, _clipped(present - _log_odds(p)))
        for finding, p in zip(evidence.findings, out.of(f).tolist(), strict=True)
    ]


def _clipped(decibans: float) -> float:
    return round(max(-60.0, min(60.0, decibans)), 6) + 0.0


def conflict(
    model: DiagnosisModel, prior: Floats, evidence: Evidence, belief: Belief, *, out: LeaveOneOut
) -> Conflict:
    """Return the conflict of all findings, and the one that contradicts the others most, if one
    clearly does.

    A single contradiction drowns in many findings that agree, so the odd one is sought by the same
    measure between each finding and all the others: ln P(finding) P(others) / P(all).
    """
    alone = _alone(model, _Prior(blake2b(prior.tobytes()).digest(), prior))
    singles = [alone.log_chance(finding) for finding in evidence.findings]
    total = sum(singles) - belief.log_evidence
    if len(singles) < 2:
        return Conflict(total, None)
    against = [
        single + float(rest) - belief.log_evidence
        for single, rest in zip(singles, out.log_evidence, strict=True)
    ]
    worst = max(range(len(against)), key=lambda n: against[n])
    return Conflict(total, evidence.findings[worst] if against[worst] > CLEARLY else None)


@dataclass(frozen=True)
class _Prior:
    """The prior of every set, (H,); the same where its digest is."""

    mark: bytes
    chances: Floats = field(compare=False)


@dataclass(frozen=True, eq=False)
class _Alone:
    """The weight each finding would have as the only one, from the prior (H,) of the sets."""

    model: DiagnosisModel
    prior: Floats
    _known: dict[tuple[str, Occasion], Floats] = field(default_factory=dict)

    def log_chance(self, finding: Finding) -> float:
        """Return ln P(the finding), as if there were no other."""
        which = finding.effect, replace(finding.occasion, number=0)
        if which not in self._known:
            self._known[which] = self._states(*which)
        likelihood = np.array(finding.likelihood)
        return log(max(float(self._known[which][: len(likelihood)] @ likelihood), 1e-300))

    def _states(self, effect: str, occasion: Occasion) -> Floats:
        """Return P(state of an effect on an occasion of which nothing else is known), (K,)."""
        model, e = self.model, self.model.effect_index(effect)
        distinct, rows = model.distributions(e), model.touched_sets(e)
        chance = self.prior[rows]
        steady = np.ones(len(rows), dtype=bool)
        if not occasion.many and model.comes[:, e].any():
            steady = ~comes_with(model, rows, e)
        places = model.places(np.array([e]), rows)[0]
        weight = np.zeros(len(distinct))
        weight[0] = 1 - chance.sum()
        weight += np.bincount(places[steady], chance[steady], len(distinct))
        comes = np.flatnonzero(~steady)
        if len(comes):
            here, of = acting(model, rows[comes], [occasion], [e]), np.full(len(comes), e)
            for way in here.ways:
                shown = model.places_of(of, here.showing(way, of, np.arange(len(comes))))
                weight += np.bincount(shown, chance[comes] * way.weight, len(distinct))
        return np.asarray(weight @ distinct)


@kept(PRIORS)
def _alone(model: DiagnosisModel, prior: _Prior) -> _Alone:
    return _Alone(model, prior.chances)


def unlooked(model: DiagnosisModel, evidence: Evidence, fault: str) -> list[str]:
    """Return the effects of a fault that nothing has been found out about yet."""
    seen = {finding.effect for finding in evidence.findings}
    return [effect for effect in model.machine.faults[fault].effects if effect not in seen]


def _log_odds(p: float) -> float:
    p = min(max(p, 1e-12), 1 - 1e-12)
    return 10 * log10(p / (1 - p))
