"""Exact posterior over fault sets. Source of the model: Heckerman, Breese and Rommelse 1995;
Henrion on noisy-MAX."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import product

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, Removal, state_likelihoods
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints

MOST_REPAIRS = 6
"""Repairs in a row that are reasoned over; chosen, since each doubles the work and a seventh takes
half a minute."""


class ImpossibleEvidence(ValueError):
    """No fault set explains what was found; names the findings."""


class BudgetSpent(ValueError):
    """More repairs in a row than can be reasoned over; says how many."""


@dataclass(frozen=True)
class Belief:
    """What is believed after the evidence. ``was`` (H,) over what was wrong at the call, ``now``
    (H,) over what is wrong at present; both sum to one. ``log_evidence`` is ln P(findings)."""

    model: DiagnosisModel
    was: Floats
    now: Floats
    log_evidence: float

    def fault_was(self) -> dict[str, float]:
        """Return P(the fault was there at the call) for each fault."""
        return dict(zip(self.model.fault_ids, self.model.by_fault(self.was).tolist(), strict=True))

    def fault_now(self) -> dict[str, float]:
        """Return P(the fault is there now) for each fault."""
        return dict(zip(self.model.fault_ids, self.model.by_fault(self.now).tolist(), strict=True))

    def component_now(self) -> dict[str, float]:
        """Return P(at least one fault of the component is there now) for each component."""
        chances = self.model.by_component(self.now).tolist()
        return dict(zip(self.model.component_ids, chances, strict=True))

    def any_of(self, chances: Mapping[str, float]) -> float:
        """Return P(at least one of these faults is there now, and its chance comes true).

        Not their sum, for two may be there at once: of a set the largest chance counts, as a repair
        works or does not for all its faults at once.
        """
        by_fault = np.array([*(chances.get(fault, 0.0) for fault in self.model.fault_ids), 0.0])
        return float(self.now @ by_fault[self.model.sets].max(axis=1))

    @property
    def healthy(self) -> float:
        """Return P(nothing is wrong with the machine now)."""
        return float(self.now[0])

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


def infer(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> Belief:
    """Return the exact belief. Raises ImpossibleEvidence when no fault set explains what was found.

    L(S) is the product over effects of the sum over states of P(state | S) times the likelihoods of
    the findings on that effect. Across a repair an effect keeps its state unless a fault that
    touches it was taken away.
    """
    likelihoods = state_likelihoods(model, evidence.findings)
    was = np.zeros(len(model.sets))
    now = np.zeros(len(model.sets))
    for chance, paths in fault_histories(model, evidence.removals):
        joint = chance * prior * _likelihood(model, likelihoods, paths)
        was += joint
        now += np.bincount(paths[-1], weights=joint, minlength=len(model.sets))
    total = was.sum()
    if not total > 0:
        names = ", ".join(
            f"{f.source.subject or f.source.kind} {f.answer}" for f in evidence.findings
        )
        raise ImpossibleEvidence(f"found {names}, expected findings that some fault can produce")
    return Belief(model, was / total, now / total, float(np.log(total)))


def fault_histories(
    model: DiagnosisModel, removals: tuple[Removal, ...]
) -> list[tuple[float, list[Ints]]]:
    """Return every way the repairs may have worked: its chance, and per epoch the row each first
    set has become."""
    if len(removals) > MOST_REPAIRS:
        raise BudgetSpent(
            f"found {len(removals)} repairs in a row, expected at most {MOST_REPAIRS}"
        )
    ordered = sorted(removals, key=lambda removal: removal.after_epoch)
    histories = []
    for worked in product((True, False), repeat=len(ordered)):
        chance, gone, paths = 1.0, frozenset[int](), [np.arange(len(model.sets))]
        for removal, success in zip(ordered, worked, strict=True):
            chance *= removal.success if success else 1 - removal.success
            if success:
                gone |= {model.fault_index(fault) for fault in removal.faults}
            paths.append(model.without(gone))
        if chance > 0:
            histories.append((chance, paths))
    return histories


def _likelihood(
    model: DiagnosisModel, likelihoods: dict[tuple[str, int], Floats], paths: list[Ints]
) -> Floats:
    """Return P(findings | set, history), shape (H,)."""
    total = np.ones(len(model.sets))
    for effect in sorted({effect for effect, _ in likelihoods}):
        e = model.effect_index(effect)
        total *= effect_likelihood(
            model, e, {ep: row for (name, ep), row in likelihoods.items() if name == effect}, paths
        )
    return total


def effect_likelihood(
    model: DiagnosisModel, e: int, by_epoch: dict[int, Floats], paths: list[Ints]
) -> Floats:
    """Return P(the findings on effect ``e`` | set, history), shape (H,), from likelihoods (K,) by
    epoch."""
    last = max(by_epoch)
    if len(paths) == 1 or last == 0:
        return model.seen(e, np.prod(list(by_epoch.values()), axis=0))
    states = model.states(e, np.arange(len(model.sets))).T
    touching = model.touches[:, e][model.sets].sum(axis=1)
    total = np.ones(len(states))
    running = np.ones_like(states)
    for epoch in range(last + 1):
        if epoch > 0:
            before, after = paths[epoch - 1], paths[epoch]
            lost = touching[before] > touching[after]
            total[lost] *= (states[before[lost]] * running[lost]).sum(axis=1)
            running[lost] = 1.0
        if epoch in by_epoch:
            running = running * by_epoch[epoch]
    return np.asarray(total * (states[paths[last]] * running).sum(axis=1))
