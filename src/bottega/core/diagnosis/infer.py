"""Exact posterior over fault sets. Source of the model: Heckerman, Breese and Rommelse 1995;
Henrion on noisy-MAX."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from bottega.core.diagnosis.courses import Courses, Factor, OnOccasion, courses
from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Occasion,
    ToldOfEffect,
    by_occasion,
    told_of,
)
from bottega.core.diagnosis.kept_answers import kept
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.kept import Once

MOST_NAMED = 8
"""Findings that are named where none can be explained; chosen."""


class ImpossibleEvidence(ValueError):
    """No fault set explains what was found; names the findings."""


@dataclass(frozen=True)
class Belief(Once):
    """What is believed after the evidence. ``was`` (H,) over what was wrong at the call, ``now``
    (H,) over what is wrong at present; both sum to one. ``log_evidence`` is ln P(findings)."""

    model: DiagnosisModel
    was: Floats
    now: Floats
    log_evidence: float

    def fault_was(self) -> dict[str, float]:
        """Return P(the fault was there at the call) for each fault."""
        return self.once("was", lambda: self._by_fault(self.was))

    def fault_now(self) -> dict[str, float]:
        """Return P(the fault is there now) for each fault."""
        return self.once("now", lambda: self._by_fault(self.now))

    def _by_fault(self, chances: Floats) -> dict[str, float]:
        by_fault = self.model.by_fault(chances).tolist()
        return dict(zip(self.model.fault_ids, by_fault, strict=True))

    def component_now(self) -> dict[str, float]:
        """Return P(at least one fault of the component is there now) for each component."""
        return self.once("components", self._by_component)

    def _by_component(self) -> dict[str, float]:
        chances = self.model.by_component(self.now).tolist()
        return dict(zip(self.model.component_ids, chances, strict=True))

    def any_of(self, chances: Mapping[str, float]) -> float:
        """Return P(at least one of these faults is there now, and its chance comes true).

        Not their sum, for two may be there at once: of a set the largest chance counts, as a repair
        works or does not for all its faults at once.
        """
        by_fault = np.array([*(chances.get(fault, 0.0) for fault in self.model.fault_ids), 0.0])
        return float(self.now @ self.model.largest(by_fault))

    def ended_by(self, *repairs: Mapping[str, float]) -> Floats:
        """Return for every set the chance that these repairs together end all its faults, (H,);
        zero for the empty set. Each repair maps its faults to the chance that the repair ends
        them. A fault counts for the repair that ends it best, a repair works or fails for all
        its faults at once, and the repairs are independent."""
        by_fault = np.zeros((len(repairs), len(self.model.fault_ids) + 1))
        for row, chances in zip(by_fault, repairs, strict=True):
            row[:-1] = [chances.get(fault, 0.0) for fault in self.model.fault_ids]
        best, ends = by_fault.argmax(axis=0), np.ones(len(self.model.sets))
        for n, row in enumerate(by_fault):
            own = np.where(best == n, row, 1.0)
            own[-1] = 1.0
            ends *= self.model.least(own)
        ends[0] = 0.0
        return ends

    def parted(self, groups: Sequence[Collection[str]]) -> tuple[float, ...]:
        """Return for each group of faults P(one of it is there now and none of a group before it):
        shares of disjoint events, which add to at most one."""
        place = np.full(len(self.model.fault_ids) + 1, len(groups))
        for n in reversed(range(len(groups))):
            place[[self.model.fault_index(fault) for fault in groups[n]]] = n
        first = place[self.model.sets].min(axis=1)
        shares = np.bincount(first, weights=self.now, minlength=len(groups) + 1)
        return tuple(shares[: len(groups)].tolist())

    @property
    def healthy(self) -> float:
        """Return P(nothing is wrong with the machine now)."""
        return float(self.now[0])

    @property
    def sound(self) -> float:
        """Return P(nothing is wrong with the machine itself now): nothing at all, or only the way
        it is used."""
        machine = self.model.machine
        advised = {
            fault
            for repair in machine.repairs.values()
            if repair.do == "advise"
            for fault, _ in repair.covers
        }
        own = np.array([*(fault not in advised for fault in self.model.fault_ids), False])
        return float(self.now[~own[self.model.sets].any(axis=1)].sum())

    @property
    def entropy_bits(self) -> float:
        """Return the entropy of the present belief in bits."""
        p = self.now[self.now > 0]
        return float(-(p * np.log2(p)).sum())

    def likeliest_sets(self, count: int) -> list[tuple[tuple[str, ...], float]]:
        """Return the most probable present fault sets with their probability, likeliest first."""
        rows = np.argsort(-self.now, kind="stable")[:count]
        names = self.model.fault_ids
        return [
            (tuple(names[i] for i in self.model.sets[row] if i >= 0), float(self.now[row]))
            for row in rows
        ]


@dataclass(frozen=True)
class Weighed:
    """Evidence held against every course: ``steady`` P(what was found of each effect | course), in
    the order of ``told``, and ``occasions`` P(what was found on each occasion of what comes and
    goes | course), by epoch and occasion, with what was found."""

    evidence: Evidence
    course: Courses
    told: dict[str, ToldOfEffect]
    steady: dict[str, Factor]
    occasions: dict[tuple[int, Occasion], OnOccasion]
    _joint: list[tuple[Floats, Floats]] = field(default_factory=list, compare=False, repr=False)
    """The last prior asked with, and what came of it."""

    def start(self, prior: Floats) -> Floats:
        """Return the probability of every course before anything was found, from the prior (H,) of
        the sets, shape (N,)."""
        return self.course.chance * prior[self.course.origin]

    def joint(self, prior: Floats) -> Floats:
        """Return P(course, everything found), shape (N,), not to be written into."""
        for asked, known in self._joint:
            if asked is prior:
                return known
        joint = self.start(prior)
        for factor in self.steady.values():
            factor.into(joint)
        for found in self.occasions.values():
            joint[found.places] *= found.values
        self._joint[:] = [(prior, joint)]
        return joint


@kept(2)
def weighed(model: DiagnosisModel, evidence: Evidence) -> Weighed:
    """Return the weighed evidence as ``weigh`` does. The last ones are kept, since a belief and the
    explanation of the belief rest on the same."""
    return weigh(model, evidence)


def weigh(model: DiagnosisModel, evidence: Evidence) -> Weighed:
    """Return the evidence held against every course."""
    course, told = courses(model, evidence.removals), told_of(model, evidence.findings)
    steady = {e: course.steadily(model.effect_index(e), own) for e, own in told.items()}
    occasions = {
        (epoch, occasion): course.on(occasion, epoch, found)
        for (epoch, occasion), found in by_occasion(model, evidence.findings).items()
    }
    return Weighed(evidence, course, told, steady, occasions)


def _in_short(findings: Sequence[Finding]) -> str:
    """Return the last findings in words, and how many there were before."""
    names = [f"{f.source.subject or f.source.kind} {f.answer}" for f in findings[-MOST_NAMED:]]
    before = len(findings) - len(names)
    return ", ".join([f"{before} findings", *names] if before else names)


def infer(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> Belief:
    """Return the exact belief. Raises ImpossibleEvidence when no fault set explains what was found.

    L(S) is the product over effects of the sum over states of P(state | S) times the likelihoods of
    the findings on that effect, for every course S may have taken under the repairs; of effects
    that come and go with a fault of S it is the product over occasions (see ``occasions``).
    """
    known = weighed(model, evidence)
    joint = known.joint(prior)
    total = joint.sum()
    if not total > 0:
        raise ImpossibleEvidence(
            f"found {_in_short(evidence.findings)}, expected findings that some fault can produce"
        )
    was, now = known.course.at_call(joint), known.course.at_present(joint)
    return Belief(model, was / total, now / total, float(np.log(total)))
