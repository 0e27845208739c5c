"""Why: the weight of each finding in decibans (Good 1950), conflict between findings, what was not
looked at."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import log, log10

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, Finding, Told
from bottega.core.diagnosis.infer import Belief, weighed
from bottega.core.diagnosis.model import DiagnosisModel, Floats

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
    """Return the belief without each finding in turn; only the factor of that finding's effect is
    made again."""
    known = weighed(model, evidence)
    course, told = known.course, known.told
    others = dict(zip(told, _products_without(known.start(prior), known.factors), strict=True))
    faults, logs = [], []
    for finding in known.findings:
        joint, own = others[finding.effect], told[finding.effect]
        rest = Told(tuple(f for f in own.findings if f is not finding), own.width)
        if rest.findings:
            joint = joint * course.likelihood(model.effect_index(finding.effect), rest)
        total = max(float(joint.sum()), 1e-300)
        faults.append(model.by_fault(course.at_call(joint)) / total)
        logs.append(log(total))
    return LeaveOneOut(np.array(faults).reshape(len(faults), len(model.fault_ids)), np.array(logs))


def _products_without(start: Floats, factors: Floats) -> Iterator[Floats]:
    """Yield ``start`` (N,) times all ``factors`` (E, N) but one, for each one left out; by products
    from both ends."""
    count = len(factors)
    after = [np.ones_like(start)]
    for e in reversed(range(1, count)):
        after.append(after[-1] * factors[e])
    before = start
    for e in range(count):
        yield before * after[count - 1 - e]
        before = before * factors[e]


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
    likelihood = np.zeros(model.table.shape[1])
    likelihood[: len(finding.likelihood)] = finding.likelihood
    return log(
        max(float(prior @ model.seen(model.effect_index(finding.effect), likelihood)), 1e-300)
    )


def unlooked(model: DiagnosisModel, evidence: Evidence, fault: str) -> list[str]:
    """Return the effects of a fault that nothing has been found out about yet."""
    seen = {finding.effect for finding in evidence.findings}
    return [effect for effect in model.machine.faults[fault].effects if effect not in seen]


def _log_odds(p: float) -> float:
    p = min(max(p, 1e-12), 1 - 1e-12)
    return 10 * log10(p / (1 - p))
