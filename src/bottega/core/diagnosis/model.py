"""Compile a machine type into arrays: all fault sets, and what each does to every effect."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations, pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bottega.core.diagnosis.kept_answers import KeptAnswers
from bottega.core.library.machine_type import Check, MachineType

Floats = NDArray[np.float64]
Ints = NDArray[np.signedinteger[Any]]
Flags = NDArray[np.bool_]
Bytes = NDArray[np.uint8]

BYTE = 0xFF
"""The most one byte counts."""
MEMBERS, COMING = np.uint8(3), np.uint8(4)
"""The most members of a set, and the bit above them."""


@dataclass(frozen=True, eq=False)
class DiagnosisModel:
    """A machine type as arrays. H fault sets, F faults, E effects, K states of the widest effect.

    ``sets`` (H, 3) holds fault indices padded with -1; row 0 is the empty set, rows 1..F the single
    faults. ``place`` (E, H) is the place of a set's distribution over an effect's states among
    those of the effect, ``table[first[e]:first[e + 1]]`` (T, K); the first of those is the
    background alone. Where an effect has more distributions than a byte counts, ``place`` holds the
    low byte and ``high[wide[e]]`` (W, H) the high one; ``wide`` (E,) is -1 for all others. Most
    faults leave most effects alone: the sets that hold a fault touching effect e are, ascending,
    ``at[span[e]:span[e + 1]]``. ``pair_row`` (F+1, F+1) finds the row of a set of at most two
    (index -1 means no fault). ``touches`` (F+1, E) tells which fault touches which effect,
    ``comes`` which does so only on the occasions it acts on, ``steadily`` which of those that come
    and go does so all the time and ``stays`` (E,) whether any does, ``shows`` (F+1,) with what
    chance it acts on one, and ``component`` (F+1,) the component of a fault; their
    last row is no fault. ``answers`` keeps what was asked of the model last.
    """

    machine: MachineType
    answers: KeptAnswers
    fault_ids: tuple[str, ...]
    effect_ids: tuple[str, ...]
    component_ids: tuple[str, ...]
    sets: Ints
    table: Floats
    first: Ints
    place: Bytes
    high: Bytes
    wide: Ints
    at: Ints
    span: Ints
    pair_row: Ints
    touches: Flags
    comes: Flags
    steadily: Flags
    stays: Flags
    shows: Floats
    component: Ints
    checks: "CheckTable"
    repairs: "RepairTable"
    _columns: dict[int, Bytes] = field(default_factory=dict, repr=False)

    def fault_index(self, fault: str) -> int:
        """Return the index of a fault. Raises ValueError for an unknown one."""
        return _place(self._faults, fault)

    def effect_index(self, effect: str) -> int:
        """Return the index of an effect. Raises ValueError for an unknown one."""
        return _place(self._effects, effect)

    @cached_property
    def _faults(self) -> dict[str, int]:
        return {fault: f for f, fault in enumerate(self.fault_ids)}

    @cached_property
    def _effects(self) -> dict[str, int]:
        return {effect: e for e, effect in enumerate(self.effect_ids)}

    def touched_sets(self, e: int) -> Ints:
        """Return the rows of the sets that hold a fault touching effect ``e``, ascending."""
        return self.at[self.span[e] : self.span[e + 1]]

    def touching(self, e: int) -> Ints:
        """Return how many faults of each set touch effect ``e``, (H,)."""
        return np.asarray(self._counted(e) & MEMBERS)

    def coming_with(self, e: int) -> Flags:
        """Return which sets hold a fault that effect ``e`` comes and goes with, (H,)."""
        return np.asarray(self._counted(e) > MEMBERS)

    def _counted(self, e: int) -> Bytes:
        """Return of every set how many of its faults touch effect ``e``, and more than ``MEMBERS``
        where it comes and goes with one of them, (H,). Kept for good: a column of the model."""
        column = self._columns.get(e)
        if column is None:
            touches, comes = self.touches[:, e].astype(np.uint8), self.comes[:, e]
            first, second, third = self.sets.T
            coming = comes[first] | comes[second] | comes[third]
            column = np.asarray(touches[first] + touches[second] + touches[third] + coming * COMING)
            self._columns[e] = column
        return column

    def places(self, effects: Ints, rows: Ints) -> Ints:
        """Return the ``place`` of the ``effects`` (n,) and the sets in ``rows`` (N,), (n, N)."""
        places = self.place[effects[:, None], rows].astype(np.intp)
        wide = self.wide[effects]
        for n in np.flatnonzero(wide >= 0).tolist():
            places[n] += self.high[wide[n], rows].astype(np.intp) << 8
        return places

    def places_of(self, effects: Ints, rows: Ints) -> Ints:
        """Return the ``place`` of pairs of an effect and a set's row, both (P,)."""
        places = self.place[effects, rows].astype(np.intp)
        wide = self.wide[effects]
        more = np.flatnonzero(wide >= 0)
        places[more] += self.high[wide[more], rows[more]].astype(np.intp) << 8
        return places

    def distributions(self, e: int) -> Floats:
        """Return the distinct distributions over the states of effect ``e``, (n, K)."""
        return self.table[self.first[e] : self.first[e + 1]]

    def rows_of(self, effects: Ints) -> tuple[Ints, Ints]:
        """Return the rows of the ``table`` of the ``effects`` (n,), effect after effect, and before
        them the place of the effect each belongs to, both (R,)."""
        first = self.first[effects]
        count = self.first[effects + 1] - first
        owner = np.repeat(np.arange(len(effects)), count)
        return owner, np.arange(len(owner)) + (first - np.cumsum(count) + count)[owner]

    def passes(
        self, effects: Ints, likelihood: Floats, known: Mapping[int, Floats] | None = None
    ) -> Floats:
        """Return for every distribution in ``table`` the sum over states of P(state) times the
        effect's ``likelihood`` (n, K), (T,); zero for the distributions of effects that are not
        asked for. An effect in ``known`` is taken by the distributions given there, not by those
        of the table."""
        passes, known = np.zeros(len(self.table)), known or {}
        for e, own in zip(effects.tolist(), likelihood, strict=True):
            states = known[e] if e in known else self.distributions(e)
            passes[self.first[e] : self.first[e + 1]] = states @ own
        return passes

    def seen(self, e: int, likelihood: Floats) -> tuple[float, Floats]:
        """Return the sum over states of P(state | set) times ``likelihood`` (K,): of every set that
        holds no fault touching effect ``e``, and of ``touched_sets(e)``."""
        distinct = self.distributions(e) @ likelihood
        return float(distinct[0]), distinct[self.places(np.array([e]), self.touched_sets(e))[0]]

    def seen_by_all(self, e: int, likelihood: Floats) -> Floats:
        """Return for every set the sum over states of P(state | set) times ``likelihood`` (K,),
        shape (H,)."""
        distinct = self.distributions(e) @ likelihood
        return np.asarray(distinct[self.places(np.array([e]), np.arange(len(self.sets)))[0]])

    def by_fault(self, weights: Floats, rows: Ints | None = None) -> Floats:
        """Return the sum of ``weights`` over the sets that hold each fault, shape (F,): of every
        set, (H,), or of the sets in ``rows``, (N,)."""
        sets = self.sets if rows is None else self.sets[rows]
        return _summed(sets, weights, len(self.fault_ids))

    def holding(self, f: int) -> Flags:
        """Return which sets hold fault ``f``, (H,)."""
        first, second, third = self.sets.T
        return np.asarray((first == f) | (second == f) | (third == f))

    def largest(self, by_fault: Floats) -> Floats:
        """Return for every set the largest of its faults' values in ``by_fault`` (F+1,), whose last
        is that of no fault; (H,)."""
        one, two, three = (by_fault.take(column) for column in self._members)
        return np.asarray(np.maximum(np.maximum(one, two), three))

    def least(self, by_fault: Floats) -> Floats:
        """Return for every set the least of its faults' values in ``by_fault`` (F+1,), whose last
        is that of no fault; (H,)."""
        one, two, three = (by_fault.take(column) for column in self._members)
        return np.asarray(np.minimum(np.minimum(one, two), three))

    @cached_property
    def _members(self) -> Ints:
        """The sets member by member, (3, H): columns that lie side by side are three times as fast
        to gather as rows."""
        return np.ascontiguousarray(self.sets.T, dtype=np.intp)

    def by_component(self, weights: Floats) -> Floats:
        """Return the sum of ``weights`` (H,) over the sets that hold some fault of each
        component."""
        return _summed(self._parts, weights, len(self.component_ids))

    @cached_property
    def _parts(self) -> Ints:
        """The components of every set, each once, -1 for none, (H, 3)."""
        parts = self.component[self.sets]
        for column in (1, 2):
            for earlier in range(column):
                parts[parts[:, column] == parts[:, earlier], column] = -1
        return parts

    def members(self, rows: Ints) -> Floats:
        """Return 1 where a set holds a fault, for the sets in ``rows`` (N,), shape (N, F)."""
        held = np.zeros((len(rows), len(self.fault_ids) + 1))
        held[np.arange(len(rows))[:, None], self.sets[rows]] = 1.0
        return held[:, :-1]

    def row_of(self, members: Ints, otherwise: Ints) -> Ints:
        """Return the rows of sets given by at most three members each (N, 3), -1 for none; those of
        three, which only whole sets have, are the rows ``otherwise`` (N,)."""
        one, two, three = members.T
        last = np.maximum(np.maximum(one, two), three)
        least = np.minimum(np.minimum(one, two), three)
        small = self.pair_row[last, one + two + three - last - least]
        return np.where(least < 0, small, otherwise)

    def without(self, removed: frozenset[int], rows: Ints | None = None) -> Ints:
        """Return the row of the set without the ``removed`` faults for every set, shape (H,), or
        for those in ``rows`` (N,)."""
        left = np.arange(len(self.sets)) if rows is None else rows.copy()
        if not removed:
            return left
        sets = self.sets if rows is None else self.sets[rows]
        gone = np.zeros(len(self.fault_ids) + 1, dtype=bool)
        gone[list(removed)] = True
        hit = gone[sets]
        changed = np.flatnonzero(hit.any(axis=1))
        kept = np.where(hit[changed], -1, sets[changed])
        left[changed] = self.row_of(kept, left[changed])
        return left


def _place(places: dict[str, int], name: str) -> int:
    if name not in places:
        raise ValueError(f"found '{name}', expected one of {len(places)} known ids")
    return places[name]


@dataclass(frozen=True)
class CheckTable:
    """The checks of a machine type as arrays. C checks in the library's order, R outcomes, check
    after check.

    ``span`` (C+1,) are the outcomes of each check, ``by_id`` (C,) its place in the alphabet,
    ``effect`` (R,) the effect an outcome speaks of, ``answers`` (R, K) P(outcome | state).
    ``spoken`` holds P(outcome | each distinct distribution of its effect), those of outcome r from
    ``first[r]`` on.
    """

    ids: dict[str, int]
    span: Ints
    effect: Ints
    answers: Floats
    spoken: Floats
    first: Ints
    by_id: Ints

    def places(self, checks: Sequence[Check]) -> Ints:
        """Return the places of some checks among them all, (n,)."""
        return np.array([self.ids[check.id] for check in checks], dtype=np.intp)


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
    part: Flags
    covers: Floats


def compile_model(machine: MachineType, answers: KeptAnswers | None = None) -> DiagnosisModel:
    """Return the arrays of a machine type; sets of at most two faults, and of three along a chain
    of known causes. ``answers`` is where answers are kept, by default by the model alone."""
    fault_ids, effect_ids, component_ids = (
        tuple(machine.faults),
        tuple(machine.effects),
        tuple(machine.components),
    )
    sets = _fault_sets(machine, fault_ids)
    holding = _holding(sets, len(fault_ids))
    touches, comes = _touches(machine, fault_ids, effect_ids)
    tables, at, width = [], [], _widest(machine)
    place = np.zeros((len(effect_ids), len(sets)), dtype=np.uint8)
    wide = np.full(len(effect_ids), -1)
    high: list[Bytes] = []
    for e, effect in enumerate(effect_ids):
        touching = np.flatnonzero(touches[:, e])
        rows = _joined([holding[f] for f in touching])
        distinct, own = _distinct(
            np.where(touches[:, e][sets[rows]], sets[rows], -1), len(fault_ids)
        )
        tables.append(_distributions(machine, fault_ids, effect, distinct, width=width))
        at.append(rows)
        place[e, rows] = (own + 1) & BYTE
        if len(distinct) > BYTE:
            wide[e] = len(high)
            high.append(np.zeros(len(sets), dtype=np.uint8))
            high[-1][rows] = (own + 1) >> 8
    steadily = touches & ~comes & np.asarray(comes.any(axis=1))[:, None]
    pair_row = np.zeros((len(fault_ids) + 1, len(fault_ids) + 1), dtype=np.int32)
    small = np.flatnonzero(sets[:, 2] < 0)
    pair_row[sets[small, 0], sets[small, 1]] = small
    pair_row[sets[small, 1], sets[small, 0]] = small
    return DiagnosisModel(
        machine=machine,
        answers=KeptAnswers() if answers is None else answers,
        fault_ids=fault_ids,
        effect_ids=effect_ids,
        component_ids=component_ids,
        sets=sets.astype(np.min_scalar_type(-4 * len(fault_ids))),
        table=np.concatenate(tables),
        first=np.cumsum([0, *(len(table) for table in tables)]),
        place=place,
        high=np.array(high, dtype=np.uint8).reshape(len(high), len(sets)),
        wide=wide,
        at=np.concatenate(at).astype(np.min_scalar_type(len(sets))),
        span=np.cumsum([0, *(len(rows) for rows in at)]),
        pair_row=pair_row,
        touches=touches,
        comes=comes,
        steadily=steadily,
        stays=np.asarray(steadily.any(axis=0)),
        shows=np.array([*(machine.faults[f].shows for f in fault_ids), 1.0]),
        component=np.array(
            [*(component_ids.index(machine.faults[f].component) for f in fault_ids), -1]
        ),
        checks=_check_table(machine, effect_ids, tables),
        repairs=_repair_table(machine, fault_ids),
    )


def _touches(
    machine: MachineType, fault_ids: tuple[str, ...], effect_ids: tuple[str, ...]
) -> tuple[Flags, Flags]:
    """Return which fault touches which effect, and which does so only when it acts, (F+1, E)."""
    column = {effect: e for e, effect in enumerate(effect_ids)}
    touches = np.zeros((len(fault_ids) + 1, len(effect_ids)), dtype=bool)
    comes = np.zeros_like(touches)
    for f, name in enumerate(fault_ids):
        fault = machine.faults[name]
        touches[f, [column[effect] for effect in fault.effects]] = True
        comes[f, [column[effect] for effect in fault.effects if fault.comes(effect)]] = True
    return touches, comes


def _holding(sets: Ints, faults: int) -> list[Ints]:
    """Return for each fault the rows of the sets that hold it, ascending."""
    # Every set is three places; sorted by the member in a place, a fault's sets stand together.
    # The places without a member, -1, come before the first bound.
    rows = np.repeat(np.arange(len(sets)), 3)
    members = sets.ravel()
    order = np.lexsort((rows, members))
    bounds = np.searchsorted(members[order], np.arange(faults + 1))
    return [rows[order[a:b]] for a, b in pairwise(bounds)]


def _joined(rows: list[Ints]) -> Ints:
    return np.unique(np.concatenate(rows)) if rows else np.zeros(0, dtype=np.intp)


def _distinct(touching: Ints, faults: int) -> tuple[Ints, Ints]:
    """Return the distinct sets of touching faults (D, 3), and for every set which of them it is
    (N,)."""
    # Highest first, so that equal sets are equal rows; plus one, so that "none" is digit 0 of a
    # number with three digits to the base faults + 1, and one `unique` of numbers does for rows.
    ordered = -np.sort(-touching, axis=1) + 1
    codes = (ordered[:, 0] * (faults + 1) + ordered[:, 1]) * (faults + 1) + ordered[:, 2]
    _, one, which = np.unique(codes, return_index=True, return_inverse=True)
    return ordered[one] - 1, which


def _distributions(
    machine: MachineType, fault_ids: tuple[str, ...], effect: str, distinct: Ints, *, width: int
) -> Floats:
    """Return P(state) of an effect on the background alone, then for each of the ``distinct`` sets
    of faults that touch it (D, 3), shape (D + 1, K): the worst of what each fault and the
    background bring."""
    # The worst of independent states is at most k where each is: P(max <= k) is the product of the
    # P(<= k). The last row stands for "no fault" (index -1) and is the product's one.
    below = np.ones((len(fault_ids) + 1, width))
    for f in np.unique(distinct).tolist():
        if f >= 0:
            below[f] = _cumulative(machine.faults[fault_ids[f]].effects[effect], width)
    background = _cumulative(machine.effects[effect].background, width)
    brought = below[distinct].prod(axis=1).reshape(len(distinct), width)
    rows = np.concatenate([background[None], background * brought])
    return np.diff(rows, axis=1, prepend=0.0)


def _cumulative(chances: tuple[float, ...], width: int) -> Floats:
    """Return P(state <= k) of a distribution, (K,); beyond the effect's last state it is one."""
    below = np.ones(width)
    # From the last state on it is one by definition; a sum of floats may end a hair beside it.
    below[: len(chances) - 1] = np.minimum(np.cumsum(chances)[:-1], 1.0)
    return below


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
        ids=ids,
        span=span,
        effect=effect,
        answers=answers,
        spoken=np.concatenate(spoken) if spoken else np.zeros(0),
        first=first,
        by_id=np.argsort(np.argsort(list(ids))),  # the rank: the inverse of the order
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
    total = np.zeros(count + 1)  # place 0 takes what has no group, -1, and is left out
    for column in range(3):
        total += np.bincount(groups[:, column] + 1, weights=weights, minlength=count + 1)
    return total[1:]


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
