"""Why: the weight of each finding in decibans (Good 1950), conflict between findings, what was not looked at."""

from dataclasses import dataclass
from math import log, log10

from bottega.core.diagnosis.evidence import Evidence, Finding
from bottega.core.diagnosis.infer import Belief, ImpossibleEvidence, infer
from bottega.core.diagnosis.model import DiagnosisModel, Floats

WEAK_DB = 1.0
"""Below one deciban a finding says next to nothing."""


@dataclass(frozen=True)
class Weight:
    """What one finding says for (positive) or against (negative) a fault, in decibans, the others held."""

    finding: Finding
    decibans: float


@dataclass(frozen=True)
class Conflict:
    """How badly the findings fit together: ln of the product of their chances over their joint chance (Jensen 1991).

    Positive means they contradict each other; ``odd`` is the finding that, left out, resolves most of it.
    """

    amount: float
    odd: Finding | None


def weights(model: DiagnosisModel, prior: Floats, evidence: Evidence, belief: Belief, fault: str) -> list[Weight]:
    """Return the weight of every finding for a fault, in the order given; clipped to ±60 decibans."""
    column = model.members[:, model.fault_index(fault)]
    present = _log_odds(float(belief.was @ column))
    out = []
    for finding in evidence.findings:
        try:
            without = infer(model, prior, evidence.without(finding.id))
            decibans = present - _log_odds(float(without.was @ column))
        except ImpossibleEvidence:
            decibans = 0.0
        out.append(Weight(finding, max(-60.0, min(60.0, decibans))))
    return out


def conflict(model: DiagnosisModel, prior: Floats, evidence: Evidence, belief: Belief) -> Conflict:
    """Return the conflict of all findings; the odd one is named when leaving it out takes most of it away."""
    singles = {f.id: infer(model, prior, Evidence((f,))).log_evidence for f in evidence.findings}
    total = sum(singles.values()) - belief.log_evidence
    if total <= 0 or len(evidence.findings) < 2:
        return Conflict(total, None)
    gains = []
    for finding in evidence.findings:
        rest = infer(model, prior, evidence.without(finding.id))
        without = sum(v for k, v in singles.items() if k != finding.id) - rest.log_evidence
        gains.append((total - without, finding))
    gain, odd = max(gains, key=lambda item: item[0])
    return Conflict(total, odd if gain > log(2) else None)


def unlooked(model: DiagnosisModel, evidence: Evidence, fault: str) -> list[str]:
    """Return the effects of a fault that nothing has been found out about yet."""
    seen = {finding.effect for finding in evidence.findings}
    return [effect for effect in model.machine.faults[fault].effects if effect not in seen]


def _log_odds(p: float) -> float:
    p = min(max(p, 1e-12), 1 - 1e-12)
    return 10 * log10(p / (1 - p))
