"""Compile a machine type into arrays: all fault sets, and what each does to every effect."""

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import EngineTable

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]


@dataclass(frozen=True)
class DiagnosisModel:
    """A machine type as arrays. H fault sets, F faults, E effects, K states of the widest effect.

    ``sets`` (H, 3) holds fault indices padded with -1; row 0 is the empty set, rows 1..F the single faults.
    ``states`` (E, H, K) is P(state | set), zero beyond an effect's own states. ``members`` (H, F) is 1 where the fault
    is in the set. ``answers`` holds P(outcome | state) by check, (O, K). ``pair_row`` (F+1, F+1) finds the row of a set of at most two (index -1 means no fault).
    """

    machine: MachineType
    fault_ids: tuple[str, ...]
    effect_ids: tuple[str, ...]
    sets: Ints
    states: Floats
    members: Floats
    pair_row: Ints
    touches: NDArray[np.bool_]
    answers: dict[str, Floats]

    def fault_index(self, fault: str) -> int:
        """Return the index of a fault. Raises ValueError for an unknown one."""
        return self.fault_ids.index(fault)

    def effect_index(self, effect: str) -> int:
        """Return the index of an effect. Raises ValueError for an unknown one."""
        return self.effect_ids.index(effect)

    def without(self, removed: frozenset[int]) -> Ints:
        """Return for every set the row of the set without the ``removed`` faults, shape (H,)."""
        if not removed:
            return np.arange(len(self.sets))
        kept = np.where(np.isin(self.sets, list(removed)), -1, self.sets)
        changed = (kept != self.sets).any(axis=1)
        kept = -np.sort(-kept, axis=1)
        rows = np.arange(len(self.sets))
        rows[changed] = self.pair_row[kept[changed, 0], kept[changed, 1]]
        return rows


@lru_cache(maxsize=32)
def compile_model(machine: MachineType) -> DiagnosisModel:
    """Return the arrays of a machine type; sets of at most two faults, and of three along a chain of known causes."""
    fault_ids = tuple(machine.faults)
    effect_ids = tuple(machine.effects)
    sets = _fault_sets(machine, fault_ids)
    below = _cumulative(machine, fault_ids, effect_ids)
    background = _background(machine, effect_ids)
    joined = background[None] * below[sets[:, 0]]
    for column in (1, 2):
        joined = joined * below[sets[:, column]]
    states = np.ascontiguousarray(np.diff(joined, axis=2, prepend=0.0).transpose(1, 0, 2))
    members = np.zeros((len(sets), len(fault_ids)))
    for column in range(3):
        rows = np.flatnonzero(sets[:, column] >= 0)
        members[rows, sets[rows, column]] = 1.0
    pair_row = np.zeros((len(fault_ids) + 1, len(fault_ids) + 1), dtype=np.intp)
    small = np.flatnonzero(sets[:, 2] < 0)
    pair_row[sets[small, 0], sets[small, 1]] = small
    pair_row[sets[small, 1], sets[small, 0]] = small
    touches = np.array([[effect in machine.faults[f].effects for effect in effect_ids] for f in fault_ids], dtype=bool)
    answers = {check.id: np.array([o.chances for o in check.outcomes]) for check in machine.checks.values()}
    return DiagnosisModel(machine, fault_ids, effect_ids, sets, states, members, pair_row, touches, answers)


def prior(
    model: DiagnosisModel, age_years: float, engine: EngineTable, scale: dict[str, float] | None = None
) -> Floats:
    """Return the prior of every fault set at an age in years, shape (H,), summing to one.

    w(S) is the product of the faults' rates at this age times the horizon; a fault that another in S can cause with
    probability p counts 1 - (1 - r)(1 - p). Ageing by a Weibull hazard relative to the reference age (Weibull 1951).
    ``scale`` multiplies rates by fault, from a shop's own history.
    """
    machine, count = model.machine, len(model.fault_ids)
    rates = np.array(
        [_rate(machine.faults[f].rate, machine.faults[f].ageing, age_years, engine) for f in model.fault_ids]
    )
    if scale:
        rates = rates * np.array([scale.get(f, 1.0) for f in model.fault_ids])
    spared = np.ones((count + 1, count + 1))
    for source, fault in enumerate(model.fault_ids):
        for target, p in machine.faults[fault].causes.items():
            spared[source, model.fault_index(target)] = 1 - p
    survival = np.append(1 - np.minimum(rates, 0.999), 0.0)
    weight = np.ones(len(model.sets))
    for column in range(3):
        own = model.sets[:, column]
        stays = survival[own].copy()
        for other in range(3):
            if other != column:
                stays *= spared[model.sets[:, other], own]
        weight *= np.where(own >= 0, 1 - stays, 1.0)
    weight[0] = machine.no_fault_rate * engine.horizon_years
    return np.asarray(weight / weight.sum())


def _rate(rate: float, ageing: str, age_years: float, engine: EngineTable) -> float:
    shape = engine.ageing[ageing].shape
    relative = max(age_years, engine.youngest_years) / engine.reference_age_years
    return float(rate * relative ** (shape - 1) * engine.horizon_years)


def _fault_sets(machine: MachineType, fault_ids: tuple[str, ...]) -> Ints:
    count = len(fault_ids)
    rows = [(-1, -1, -1)]
    rows += [(i, -1, -1) for i in range(count)]
    rows += [(j, i, -1) for i, j in combinations(range(count), 2)]
    chains = set()
    for cause, record in ((name, machine.faults[name]) for name in fault_ids):
        for middle in record.causes:
            for result in machine.faults[middle].causes:
                if result not in (cause, middle):
                    chains.add(tuple(sorted((fault_ids.index(n) for n in (cause, middle, result)), reverse=True)))
    rows += sorted(chains)  # type: ignore[arg-type]
    return np.array(rows, dtype=np.intp)


def _widest(machine: MachineType) -> int:
    return max(len(effect.states) for effect in machine.effects.values())


def _cumulative(machine: MachineType, fault_ids: tuple[str, ...], effect_ids: tuple[str, ...]) -> Floats:
    """Return P(state <= k | the fault alone), (F+1, E, K); the last row is no fault at all: ones, the neutral of max."""
    below = np.ones((len(fault_ids) + 1, len(effect_ids), _widest(machine)))
    column = {effect: e for e, effect in enumerate(effect_ids)}
    for f, fault in enumerate(fault_ids):
        for effect, chances in machine.faults[fault].effects.items():
            below[f, column[effect], : len(chances)] = np.minimum(np.cumsum(chances), 1.0)
            below[f, column[effect], len(chances) - 1 :] = 1.0
    return below


def _background(machine: MachineType, effect_ids: tuple[str, ...]) -> Floats:
    below = np.ones((len(effect_ids), _widest(machine)))
    for e, effect in enumerate(effect_ids):
        chances = machine.effects[effect].background
        below[e, : len(chances) - 1] = np.minimum(np.cumsum(chances)[:-1], 1.0)
    return below
