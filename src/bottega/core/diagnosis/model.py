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


@dataclass(frozen=True, eq=False)
class DiagnosisModel:
    """A machine type as arrays. H fault sets, F faults, E effects, K states of the widest effect.

    ``sets`` (H, 3) holds fault indices padded with -1; row 0 is the empty set, rows 1..F the single
    faults. Most faults leave most effects alone, so only the distinct distributions of an effect
    are kept: ``table`` (T, K) holds those of effect e in the rows ``first[e]`` to ``first[e + 1]``,
    and ``row`` (E, H) says which of them each set has. ``pair_row`` (F+1, F+1) finds the row of a
    set of at most two (index -1 means no fault). ``touches`` (F+1, E) tells which fault touches
    which effect, and ``component`` (F+1,) the component of a fault; their last row is no fault.
    """

    machine: MachineType
    fault_ids: tuple[str, ...]
    effect_ids: tuple[str, ...]
    component_ids: tuple[str, ...]
    sets: Ints
    table: Floats
    first: Ints
    row: NDArray[np.uint16]
    pair_row: Ints
    touches: NDArray[np.bool_]
    component: Ints
    checks: "CheckTable"
    repairs: "RepairTable"

    def fault_index(self, fault: str) -> int:
        """Return the index of a fault. Raises ValueError for an unknown one."""
        return self.fault_ids.index(fault)

    def effect_index(self, effect: str) -> int:
        """Return the index of an effect. Raises ValueError for an unknown one."""
        return self.effect_ids.index(effect)

    def states(self, e: int, rows: Ints) -> Floats:
        """Return P(state | set) of effect ``e`` for the sets in ``rows`` (N,), shape (K, N), zero
        beyond its own states."""
        return np.asarray(self.table[self.first[e] + self.row[e, rows]].T)

    def seen(self, e: int, likelihood: Floats, rows: Ints | None = None) -> Floats:
        """Return the sum over states of P(state | set) times ``likelihood`` (K,) for the sets in
        ``rows`` (N,), or for every set, shape (H,)."""
        distinct = self.table[self.first[e] : self.first[e + 1]] @ likelihood
        return np.asarray(distinct[self.row[e] if rows is None else self.row[e, rows]])

    def by_fault(self, weights: Floats) -> Floats:
        """Return the sum of ``weights`` (H,) over the sets that hold each fault, shape (F,)."""
        return _summed(self.sets, weights, len(self.fault_ids))

    def by_component(self, weights: Floats) -> Floats:
        """Return the sum of ``weights`` (H,) over the sets that hold some fault of each
        component."""
        parts = self.component[self.sets]
        for column in (1, 2):
            for earlier in range(column):
                parts[parts[:, column] == parts[:, earlier], column] = -1
        return _summed(parts, weights, len(self.component_ids))

    def members(self, rows: Ints) -> Floats:
        """Return 1 where a set holds a fault, for the sets in ``rows`` (N,), shape (N, F)."""
        held = np.zeros((len(rows), len(self.fault_ids) + 1))
        held[np.arange(len(rows))[:, None], self.sets[rows]] = 1.0
        return held[:, :-1]

    def without(self, removed: frozenset[int]) -> Ints:
        """Return for every set the row of the set without the ``removed`` faults, shape (H,)."""
        if not removed:
            return np.arange(len(self.sets))
        gone = np.zeros(len(self.fault_ids) + 1, dtype=bool)
        gone[list(removed)] = True
        hit = gone[self.sets]
        changed = np.flatnonzero(hit.any(axis=1))
        kept = -np.sort(-np.where(hit[changed], -1, self.sets[changed]), axis=1)
        rows = np.arange(len(self.sets))
        rows[changed] = self.pair_row[kept[:, 0], kept[:, 1]]
        return rows


@dataclass(frozen=True)
class CheckTable:
    """The checks of a machine type as arrays. C checks in the library's order, R outcomes, check
    after check.

    ``span`` (C+1,) are the outcomes of each check, ``effect`` (R,) the effect an outcome speaks of,
    ``answers`` (R, K) P(outcome | state). ``spoken`` holds P(outcome | each distinct distribution
    of its effect), those of outcome r from ``first[r]`` on.
    """

    ids: dict[str, int]
    span: Ints
    effect: Ints
    answers: Floats
    spoken: Floats
    first: Ints


@dataclass(frozen=True)
class RepairTable:
    """The repairs of a machine type as arrays, in the library's order; A repairs.

    ``minutes`` of work, ``price_eur`` of the part, ``sure`` the chance that it ends its fault,
    ``part`` True where a part is fitted, each (A,). ``covers`` (F, A) is the chance that a repair
    ends a fault.
    """

    ids: tuple[str, ...]
    minutes: Floats
    price_eur: Floats
    sure: Floats
    part: NDArray[np.bool_]
    covers: Floats


@lru_cache(maxsize=32)
def compile_model(machine: MachineType) -> DiagnosisModel:
    """Return the arrays of a machine type; sets of at most two faults, and of three along a chain
    of known causes."""
    fault_ids, effect_ids, component_ids = (
        tuple(machine.faults),
        tuple(machine.effects),
        tuple(machine.components),
    )
    sets = _fault_sets(machine, fault_ids)
    below = _cumulative(machine, fault_ids, effect_ids)
    background = _background(machine, effect_ids)
    touches = np.zeros((len(fault_ids) + 1, len(effect_ids)), dtype=bool)
    for f, fault in enumerate(fault_ids):
        touches[f, [effect_ids.index(effect) for effect in machine.faults[fault].effects]] = True
    tables, rows = [], np.zeros((len(effect_ids), len(sets)), dtype=np.uint16)
    for e in range(len(effect_ids)):
        distinct, rows[e] = _distinct(np.where(touches[:, e][sets], sets, -1), len(fault_ids))
        joined = (
            background[e]
            * below[distinct[:, 0], e]
            * below[distinct[:, 1], e]
            * below[distinct[:, 2], e]
        )
        tables.append(np.diff(joined, axis=1, prepend=0.0))
    pair_row = np.zeros((len(fault_ids) + 1, len(fault_ids) + 1), dtype=np.intp)
    small = np.flatnonzero(sets[:, 2] < 0)
    pair_row[sets[small, 0], sets[small, 1]] = small
    pair_row[sets[small, 1], sets[small, 0]] = small
    return DiagnosisModel(
        machine=machine,
        fault_ids=fault_ids,
        effect_ids=effect_ids,
        component_ids=component_ids,
        sets=sets,
        table=np.concatenate(tables),
        first=np.cumsum([0, *(len(table) for table in tables)]),
        row=rows,
        pair_row=pair_row,
        touches=touches,
        component=np.array(
            [*(component_ids.index(machine.faults[f].component) for f in fault_ids), -1]
        ),
        checks=_check_table(machine, effect_ids, tables),
        repairs=_repair_table(machine, fault_ids),
    )


def _distinct(touching: Ints, faults: int) -> tuple[Ints, Ints]:
    """Return the distinct sets of touching faults (D, 3), and for every set which of them it is
    (H,)."""
    ordered = -np.sort(-touching, axis=1) + 1
    codes = (ordered[:, 0] * (faults + 1) + ordered[:, 1]) * (faults + 1) + ordered[:, 2]
    _, one, which = np.unique(codes, return_index=True, return_inverse=True)
    return ordered[one] - 1, which


def _check_table(
    machine: MachineType, effect_ids: tuple[str, ...], tables: list[Floats]
) -> CheckTable:
    checks = list(machine.checks.values())
    span = np.cumsum([0, *(len(check.outcomes) for check in checks)])
    answers = np.zeros((span[-1], _widest(machine)))
    effect = np.zeros(span[-1], dtype=np.intp)
    for c, check in enumerate(checks):
        rows = np.array([outcome.chances for outcome in check.outcomes])
        answers[span[c] : span[c + 1], : rows.shape[1]] = rows
        effect[span[c] : span[c + 1]] = effect_ids.index(check.effect)
    spoken = [tables[e] @ row for e, row in zip(effect, answers, strict=True)]
    first = np.cumsum([0, *(len(row) for row in spoken)])[:-1]
    ids = {check.id: c for c, check in enumerate(checks)}
    return CheckTable(
        ids, span, effect, answers, np.concatenate(spoken) if spoken else np.zeros(0), first
    )


def _repair_table(machine: MachineType, fault_ids: tuple[str, ...]) -> RepairTable:
    repairs = list(machine.repairs.values())
    covers = np.zeros((len(fault_ids), len(repairs)))
    for a, repair in enumerate(repairs):
        for fault, chance in repair.covers:
            covers[fault_ids.index(fault), a] = chance
    return RepairTable(
        ids=tuple(machine.repairs),
        minutes=np.array([repair.minutes for repair in repairs]),
        price_eur=np.array([repair.price_eur for repair in repairs]),
        sure=np.array([min(chance for _, chance in repair.covers) for repair in repairs]),
        part=np.array([repair.do == "part" for repair in repairs], dtype=bool),
        covers=covers,
    )


def _summed(groups: Ints, weights: Floats, count: int) -> Floats:
    """Return the sum of ``weights`` (H,) by group, from up to three groups a row (-1 for none),
    shape (count,)."""
    total = np.zeros(count + 1)
    for column in range(3):
        total += np.bincount(groups[:, column] + 1, weights=weights, minlength=count + 1)
    return total[1:]


def prior(
    model: DiagnosisModel,
    age_years: float | None,
    engine: EngineTable,
    scale: dict[str, float] | None = None,
) -> Floats:
    """Return the prior of every fault set at an age in years, shape (H,), summing to one.

    None stands for an age nobody knows: the mean over the ages the engine's table gives for that,
    each with its share.
    """
    ages = {age_years: 1.0} if age_years is not None else engine.unknown_ages
    whole = sum(ages.values())
    parts = [
        share / whole * _prior_at(model, age, engine, scale or {}) for age, share in ages.items()
    ]
    return np.asarray(sum(parts))


def _prior_at(
    model: DiagnosisModel, age_years: float, engine: EngineTable, scale: dict[str, float]
) -> Floats:
    """Return the prior of every fault set at one age.

    w(S) is the product of the faults' rates at this age times the horizon; a fault that another in
    S can cause with probability p counts 1 - (1 - r)(1 - p), and one that another in S can cause
    and that is not in S counts 1 - p: a cause without its result. Ageing by a Weibull hazard
    relative to the reference age (Weibull 1951). ``scale`` multiplies rates by fault, from a shop's
    own history.
    """
    machine, count = model.machine, len(model.fault_ids)
    rates = np.array(
        [
            _rate(machine.faults[f].rate, machine.faults[f].ageing, age_years, engine)
            for f in model.fault_ids
        ]
    )
    rates = rates * np.array([scale.get(f, 1.0) for f in model.fault_ids])
    spared = np.ones((count + 1, count + 1))
    for source, fault in enumerate(model.fault_ids):
        for target, p in machine.faults[fault].causes.items():
            spared[source, model.fault_index(target)] = 1 - p
    survival = np.append(1 - np.minimum(rates, 0.999), 0.0)
    spared = np.maximum(spared, 1e-12)
    weight = spared.prod(axis=1)[model.sets].prod(axis=1)
    for column in range(3):
        own = model.sets[:, column]
        caused = np.ones(len(own))
        for other in range(3):
            if other != column:
                caused *= spared[model.sets[:, other], own]
        weight *= np.where(own >= 0, (1 - survival[own] * caused) / caused, 1.0)
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
                    chains.add(
                        tuple(
                            sorted(
                                (fault_ids.index(n) for n in (cause, middle, result)), reverse=True
                            )
                        )
                    )
    rows += sorted(chains)  # type: ignore[arg-type]
    return np.array(rows, dtype=np.intp)


def _widest(machine: MachineType) -> int:
    return max(len(effect.states) for effect in machine.effects.values())


def _cumulative(
    machine: MachineType, fault_ids: tuple[str, ...], effect_ids: tuple[str, ...]
) -> Floats:
    """Return P(state <= k | the fault alone), (F+1, E, K); the last row is no fault at all: ones,
    the neutral of max."""
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
