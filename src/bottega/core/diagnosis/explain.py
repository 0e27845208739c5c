"""Why: the weight of each finding in decibans (Good 1950), conflict between findings, what was not
looked at."""

from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache
from hashlib import blake2b
from math import log, log10

import numpy as np

from bottega.core.diagnosis.courses import FACTORS, Factor
from bottega.core.diagnosis.evidence import Evidence, Finding, Occasion, Told
from bottega.core.diagnosis.infer import Belief, Weighed, weighed
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.diagnosis.occasions import comes_with, found_on

SHOWN_DB = 0.5
"""A smaller weight is not shown; half a deciban is odds of 1.12."""
WEAK_DB = 1.0
"""Below one deciban a finding says next to nothing."""
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

    @cached_property
    def faults(self) -> Floats:
        """Return P(fault at the call) without each finding, (n, F)."""
        scales = np.array([move.scale for move in self._moves])
        sums = scales[:, None] * self._whole.by_fault + self._whole.moved_by_fault(self._moves)
        return np.asarray(np.maximum(sums, 0.0) / np.exp(self.log_evidence)[:, None])

    def of(self, f: int) -> Floats:
        """Return the same of one fault by its index, (n,)."""
        own = self._whole.by_fault[f]
        held = self._whole.holding(f)
        sums = [m.scale * own + float(m.change[held[m.places]].sum()) for m in self._moves]
        return np.asarray(np.maximum(sums, 0.0) / np.exp(self.log_evidence))


def leave_one_out(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> LeaveOneOut:
    """Return the belief without each finding in turn; only the factors it is part of are made
    again, and only where they differ from those of all other courses."""
    whole = _Sums(weighed(model, evidence), prior)
    moves = [whole.move(finding) for finding in whole.known.evidence.findings]
    totals = [move.scale * whole.total + float(move.change.sum()) for move in moves]
    return LeaveOneOut(np.log(np.maximum(totals, 1e-300)), whole, moves)


@dataclass(frozen=True)
class _Move:
    """What a joint probability over the courses would become without one finding: ``scale`` times
    what it is, and a ``change`` (n,) at some ``places`` (n,)."""

    scale: float
    places: Ints
    change: Floats


class _Sums:
    """A joint probability over the courses with its sums, and what it would be without one
    finding."""

    def __init__(self, known: Weighed, prior: Floats) -> None:
        self.known, self.prior, self.model = known, prior, known.course.model
        self.joint = known.joint(prior)
        self.total = float(self.joint.sum())
        self.by_fault = self.model.by_fault(known.course.at_call(self.joint))

    def move(self, finding: Finding) -> _Move:
        """Return what the joint becomes as if the finding had never been seen."""
        changes = self._changes(finding)
        if any(old.others <= 0 or (old.values <= 0).any() for old, _ in changes):
            return self._anew(finding)
        (old, new), *others = changes
        scale, ratio, places = new.others / old.others, new.values / old.values, old.places
        if others:
            (old, new), everywhere = others[0], np.full(len(self.joint), scale)
            either = np.zeros(len(self.joint), dtype=bool)
            either[places] = either[old.places] = True
            everywhere[places] = ratio
            everywhere[old.places] *= new.values / old.values
            places = np.flatnonzero(either)
            ratio = everywhere[places]
        return _Move(scale, places, self.joint[places] * (ratio - scale))

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

    def _changes(self, finding: Finding) -> list[tuple[Factor, Factor]]:
        """Return the factors a finding is part of, as they are and without it, about the same
        courses."""
        known, e = self.known, self.model.effect_index(finding.effect)
        told = known.told[finding.effect].without(finding)
        old = known.steady[finding.effect]
        gone = Factor(1.0, old.places, np.ones(len(old.places)))
        changes = [(old, known.course.steadily(e, told) if told.findings else gone)]
        found = known.occasions.get((finding.epoch, finding.occasion))
        if found is not None and e in found.heard and len(found.places):
            rest = [f for f in told.findings if f.on_same(finding)]
            heard = Told(tuple(rest), told.width).likelihood if rest else None
            ours = Factor(1.0, found.places, found.values)
            changes.append((ours, Factor(1.0, found.places, found.with_effect(e, heard))))
        return changes

    def _anew(self, finding: Finding) -> _Move:
        """Return the same from the first: what the finding makes impossible cannot be divided
        out."""
        rest = weighed.__wrapped__(self.model, self.known.evidence.without(finding))
        return _Move(0.0, np.arange(len(self.joint)), rest.joint(self.prior))


def weights(evidence: Evidence, belief: Belief, out: LeaveOneOut, fault: str) -> list[Weight]:
    """Return the weight of every finding for a fault, in the order given; clipped to ±60
    decibans, and told to a millionth: beyond that, sums depend on where arrays lie in memory."""
    f = belief.model.fault_index(fault)
    present = _log_odds(float(belief.model.by_fault(belief.was)[f]))
    return [
        Weight(finding, _clipped(present - _log_odds(p)))
        for finding, p in zip(evidence.findings, out.of(f).tolist(), strict=True)
    ]


def _clipped(decibans: float) -> float:
    return round(max(-60.0, min(60.0, decibans)), 6) + 0.0


def conflict(
    model: DiagnosisModel, prior: Floats, evidence: Evidence, belief: Belief, out: LeaveOneOut
) -> Conflict:
    """Return the conflict of all findings, and the one that contradicts the others most, if one
    clearly does.

    A single contradiction drowns in many findings that agree, so the odd one is sought by the same
    measure between each finding and all the others: ln P(finding) P(others) / P(all).
    """
    mark = _Prior(blake2b(prior.tobytes()).digest(), prior)
    singles = [
        _log_alone(model, mark, f.effect, f.likelihood, replace(f.occasion, number=0))
        for f in evidence.findings
    ]
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


@lru_cache(maxsize=FACTORS)
def _log_alone(
    model: DiagnosisModel,
    prior: _Prior,
    effect: str,
    found: tuple[float, ...],
    occasion: Occasion,
) -> float:
    """Return ln P(one finding), as if there were no other."""
    e, likelihood = model.effect_index(effect), np.zeros(model.table.shape[1])
    likelihood[: len(found)] = found
    others, values = model.seen(e, likelihood)
    sets = model.touched_sets(e)
    chance = others * (1 - float(prior.chances[sets].sum())) + float(prior.chances[sets] @ values)
    if model.comes[:, e].any() and not occasion.many:
        rows = sets[comes_with(model, sets, e)]
        every = {e: np.arange(len(rows))}
        coming = found_on(model, every, rows, occasion, {e: likelihood}).values
        chance += float(prior.chances[rows] @ (coming - values[np.searchsorted(sets, rows)]))
    return log(max(chance, 1e-300))


def unlooked(model: DiagnosisModel, evidence: Evidence, fault: str) -> list[str]:
    """Return the effects of a fault that nothing has been found out about yet."""
    seen = {finding.effect for finding in evidence.findings}
    return [effect for effect in model.machine.faults[fault].effects if effect not in seen]


def _log_odds(p: float) -> float:
    p = min(max(p, 1e-12), 1 - 1e-12)
    return 10 * log10(p / (1 - p))
