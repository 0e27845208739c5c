"""Why: the weight of each finding in decibans (Good 1950), conflict between findings, what was not
looked at."""

from dataclasses import dataclass
from math import log, log10

import numpy as np

from bottega.core.diagnosis.courses import Factor
from bottega.core.diagnosis.evidence import Evidence, Finding, Occasion, by_occasion
from bottega.core.diagnosis.infer import Belief, Weighed, weighed
from bottega.core.diagnosis.model import DiagnosisModel, Floats
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
    """What would be believed without each finding: ``faults`` (n, F) P(fault at the call),
    ``log_evidence`` (n,)."""

    faults: Floats
    log_evidence: Floats


def leave_one_out(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> LeaveOneOut:
    """Return the belief without each finding in turn; only the factors it is part of are made
    again, and only where they differ from those of all other courses."""
    known = weighed(model, evidence)
    whole = _Sums(known, known.joint(prior))
    faults, logs = [], []
    for finding in known.evidence.findings:
        without, total = whole.without(finding, prior)
        faults.append(without / total)
        logs.append(log(total))
    return LeaveOneOut(np.array(faults).reshape(len(faults), len(model.fault_ids)), np.array(logs))


class _Sums:
    """The sums of a joint probability over the courses, and of what it would be without one
    finding."""

    def __init__(self, known: Weighed, joint: Floats) -> None:
        self.known, self.joint, self.model = known, joint, known.course.model
        self.total = float(joint.sum())
        self.by_fault = self.model.by_fault(known.course.at_call(joint))

    def without(self, finding: Finding, prior: Floats) -> tuple[Floats, float]:
        """Return the sums by fault at the call (F,) and in total, as if the finding had never been
        seen."""
        changes = self._changes(finding)
        old, new = [pair[0] for pair in changes], [pair[1] for pair in changes]
        if any(factor.others <= 0 or (factor.values <= 0).any() for factor in old):
            return self._anew(finding, prior)
        places = (
            old[0].places
            if len(old) == 1
            else np.unique(np.concatenate([factor.places for factor in old]))
        )
        before = self.joint[places]
        scale, after = 1.0, before.copy()
        for was, now in zip(old, new, strict=True):
            ratio = now.others / was.others
            here = np.searchsorted(places, was.places)
            share = np.full(len(places), ratio)
            share[here] = now.values / was.values
            scale, after = scale * ratio, after * share
        rows = self.known.course.origin[places]
        moved = after - scale * before
        total = scale * self.total + float(moved.sum())
        faults = scale * self.by_fault + self.model.by_fault(moved, rows)
        return np.maximum(faults, 0.0), max(total, 1e-300)

    def _changes(self, finding: Finding) -> list[tuple[Factor, Factor]]:
        """Return the factors a finding is part of, as they are and without it, about the same
        courses."""
        known, e = self.known, self.model.effect_index(finding.effect)
        told = known.told[finding.effect].without(finding)
        old = known.steady[finding.effect]
        gone = Factor(1.0, old.places, np.ones(len(old.places)))
        changes = [(old, known.course.steadily(e, told) if told.findings else gone)]
        key = (finding.epoch, finding.occasion)
        if key in known.occasions and len(known.occasions[key].places):
            changes.append((known.occasions[key], self._occasion_without(finding, key)))
        return changes

    def _occasion_without(self, finding: Finding, key: tuple[int, Occasion]) -> Factor:
        known = self.known
        old = known.occasions[key]
        rest = [f for f in known.evidence.findings if f is not finding]
        heard = by_occasion(self.model, rest).get(key, {})
        new = known.course.on(key[1], key[0], heard)
        values = np.ones(len(old.places))
        values[np.searchsorted(old.places, new.places)] = new.values
        return Factor(1.0, old.places, values)

    def _anew(self, finding: Finding, prior: Floats) -> tuple[Floats, float]:
        """Return the same from the first: what the finding makes impossible cannot be divided
        out."""
        rest = weighed.__wrapped__(self.model, self.known.evidence.without(finding))
        joint = rest.joint(prior)
        faults = self.model.by_fault(rest.course.at_call(joint))
        return faults, max(float(joint.sum()), 1e-300)


def weights(evidence: Evidence, belief: Belief, out: LeaveOneOut, fault: str) -> list[Weight]:
    """Return the weight of every finding for a fault, in the order given; clipped to ±60
    decibans, and told to a millionth: beyond that, sums depend on where arrays lie in memory."""
    f = belief.model.fault_index(fault)
    present = _log_odds(float(belief.model.by_fault(belief.was)[f]))
    return [
        Weight(finding, _clipped(present - _log_odds(float(out.faults[n, f]))))
        for n, finding in enumerate(evidence.findings)
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
    singles = [_log_alone(model, prior, finding) for finding in evidence.findings]
    total = sum(singles) - belief.log_evidence
    if len(singles) < 2:
        return Conflict(total, None)
    against = [
        single + float(rest) - belief.log_evidence
        for single, rest in zip(singles, out.log_evidence, strict=True)
    ]
    worst = max(range(len(against)), key=lambda n: against[n])
    return Conflict(total, evidence.findings[worst] if against[worst] > CLEARLY else None)


def _log_alone(model: DiagnosisModel, prior: Floats, finding: Finding) -> float:
    e, likelihood = model.effect_index(finding.effect), np.zeros(model.table.shape[1])
    likelihood[: len(finding.likelihood)] = finding.likelihood
    others, values = model.seen(e, likelihood)
    sets = model.touched_sets(e)
    chance = others * (1 - float(prior[sets].sum())) + float(prior[sets] @ values)
    if model.comes[:, e].any() and not finding.occasion.many:
        rows = sets[comes_with(model, sets, e)]
        _, coming = found_on(model, rows, rows, finding.occasion, {e: likelihood})
        chance += float(prior[rows] @ (coming - values[np.searchsorted(sets, rows)]))
    return log(max(chance, 1e-300))


def unlooked(model: DiagnosisModel, evidence: Evidence, fault: str) -> list[str]:
    """Return the effects of a fault that nothing has been found out about yet."""
    seen = {finding.effect for finding in evidence.findings}
    return [effect for effect in model.machine.faults[fault].effects if effect not in seen]


def _log_odds(p: float) -> float:
    p = min(max(p, 1e-12), 1 - 1e-12)
    return 10 * log10(p / (1 - p))
