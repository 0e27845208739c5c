"""Two moves ahead: what a check or a repair costs with the best second move after whatever it
shows.

Source: limited lookahead, two steps over a cost estimated beyond them, Bertsekas, Dynamic
Programming and Optimal Control I (2017), chapter 6.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from bottega.core.diagnosis.beam import Beam
from bottega.core.diagnosis.bit_price import BitCosts, Cures
from bottega.core.diagnosis.model import Flags, Floats, Ints
from bottega.core.diagnosis.repairplan import Actions, Walk, ended_of, walk
from bottega.core.diagnosis.setting import Setting
from bottega.core.library.machine_type import Check
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Stands:
    """S ways a job may stand: what is believed over the sets of a beam (S, N), what each bundle of
    reaching still costs (S, B), and whether the machine has just run in order (S,)."""

    beliefs: Floats
    left: Floats
    ran: Flags

    def some(self, rows: Ints) -> "Stands":
        """Return the stands in ``rows`` alone."""
        return Stands(self.beliefs[rows], self.left[rows], self.ran[rows])


@dataclass(frozen=True)
class Costs:
    """What a job is expected to cost from where it stands, in the library's euro: repaired at once,
    one after the other, or found out first."""

    actions: Actions
    beam: Beam
    cures: Cures
    bits: BitCosts
    refer: float

    def walked(self, stands: Stands) -> Walk:
        """Return the repairs one after the other from each of the stands."""
        return walk(self.actions, stands.beliefs, self.beam, stands.left, ran=stands.ran)

    def least(self, stands: Stands, walked: Walk) -> Floats:
        """Return the cost of the cheapest of repairing at once, finding out first and referring,
        (S,)."""
        return np.asarray(np.minimum(walked.cost(self.refer), self.finding(stands)))

    def finding(self, stands: Stands, share: float = 1.0) -> Floats:
        """Return the cost of finding out first, at a ``share`` of what bits are priced at, and of
        the right repairs then, (S,)."""
        beliefs = stands.beliefs
        right = self.cures.cost(self.actions, beliefs, stands.left, stands.ran)
        return np.asarray(right + share * self.bits.of(self.cures.bits(beliefs)))


@dataclass(frozen=True)
class Options:
    """M moves from each of S stands, checks or repairs: their ``money`` (S, M), the ``chance``
    (S, R) of each way they may end and the move it belongs to, ``owner`` (R,) ascending, and how
    the job stands ``then``, the ways of one stand after those of the other."""

    money: Floats
    chance: Floats
    owner: Ints
    then: Stands

    def expected(self, least: Floats) -> Floats:
        """Return the expected cost of each move, (S, M), where the job after each of its answers
        costs ``least`` (S * R,)."""
        first = np.searchsorted(self.owner, np.arange(self.money.shape[1]))
        ways = self.chance * least.reshape(self.chance.shape)
        return np.asarray(self.money + np.add.reduceat(ways, first, axis=1))


@dataclass(frozen=True)
class MoveEnd:
    """How the machine stands after a move: the items of reaching that are ``reached``, and its
    state. ``check`` is the place of the move's check among the checks asked, or -1 where the
    move is a repair."""

    reached: tuple[tuple[str, str], ...]
    state: MachineState
    check: int = -1


@dataclass(frozen=True)
class Moves:
    """The moves of a job over a beam: the repairs tried first, and the checks ``asked`` with the
    ``chances`` (R, N) of every outcome and the check each belongs to, ``owner`` (R,)."""

    job: Setting
    costs: Costs
    asked: Sequence[Check]
    chances: Floats
    owner: Ints
    _parts: dict[int, tuple[Ints, Ints, Floats]] = field(default_factory=dict, repr=False)

    def worth(
        self, stands: Stands, walked: Walk, checks: Ints, seconds: Ints
    ) -> tuple[float, Floats]:
        """Return what it costs to begin with the best of the repairs tried first, and with each of
        the ``checks``, places among those asked, (c,), at least one; the job stands as the first of
        ``stands``, from which the repairs were ``walked``.

        The second move is the cheapest of the ``seconds``, the repairs tried first then, and the
        whole walk. After what hardly ever shows none is weighed.
        """
        now, start = np.array([0]), MoveEnd((), self.job.state)
        first = [self._repaired(a) for a in walked.order[0, : self.job.engine.first_repairs]]
        repaired = self._twice(self._repairs(stands.some(now), walked, now), first, seconds)
        done = [self._checked(start, c) for c in checks.tolist()]
        checked = self._twice(self._checks(stands.some(now), start, checks), done, seconds)
        return float(repaired.min()), checked

    def _twice(self, first: Options, spots: Sequence[MoveEnd], seconds: Ints) -> Floats:
        """Return for each of the ``first`` moves from one stand its expected cost together with the
        best second move after it, (M,). The first moves leave the machine at the ``spots``."""
        walked = self.costs.walked(first.then)
        best = self.costs.least(first.then, walked)
        likely = np.flatnonzero(first.chance[0] > self.job.engine.follow_above)
        best[likely] = walked.cost(self.costs.refer)[likely]
        further = [(likely, self._repairs(first.then.some(likely), walked, likely))]
        for move, spot in enumerate(spots):
            own = likely[first.owner[likely] == move]
            others = self._others(spot, seconds)
            if len(own) and len(others):
                further.append((own, self._checks(first.then.some(own), spot, others)))
        then = _together([options.then for _, options in further])
        least, begin = self.costs.least(then, self.costs.walked(then)), 0
        for own, options in further:
            end = begin + len(options.then.ran)
            cheapest = options.expected(least[begin:end]).min(axis=1)
            best[own], begin = np.minimum(best[own], cheapest), end
        return np.asarray(first.expected(best)[0])

    def _others(self, spot: MoveEnd, seconds: Ints) -> Ints:
        """Return those of the ``seconds`` that read another effect than the check made before."""
        effect = self.asked[spot.check].effect if spot.check >= 0 else None
        ok = [self.asked[c].effect != effect for c in seconds]
        return np.asarray(seconds[np.array(ok, dtype=bool)])

    def _checks(self, stands: Stands, spot: MoveEnd, which: Ints) -> Options:
        """Return checks, places ascending, as moves from a spot."""
        spots = [self._checked(spot, c) for c in which.tolist()]
        left = self.costs.actions.left_after([(there.reached, there.state) for there in spots])
        own = np.flatnonzero(np.isin(self.owner, which))
        owner = np.searchsorted(which, self.owner[own])
        joint = stands.beliefs[:, None, :] * self.chances[own]
        chance = joint.sum(axis=2)
        after = joint / np.maximum(chance, 1e-300)[:, :, None]
        well = runs_well(owner, [self.asked[c] for c in which])
        count = len(stands.ran)
        then = Stands(
            after.reshape(-1, after.shape[2]),
            np.tile(left[owner], (count, 1)),
            np.tile(well, count),
        )
        return Options(np.tile(self._money(spot, which), (count, 1)), chance, owner, then)

    def _money(self, spot: MoveEnd, which: Ints) -> Floats:
        """Return what reaching and making each of the checks costs from a spot, (c,)."""
        job, checks = self.job, [self.asked[c] for c in which]
        ways = job.reaching.ways(spot.state, [check.needs for check in checks])
        minutes = [
            check.minutes + way.reach.minutes for check, way in zip(checks, ways, strict=True)
        ]
        return (np.array(minutes) + job.engine.note_minutes) * job.prices.rate_per_min

    def _checked(self, spot: MoveEnd, c: int) -> MoveEnd:
        """Return how the machine stands after a check that was begun at a spot."""
        way = self.job.reaching.ways(spot.state, [self.asked[c].needs])[0]
        return MoveEnd((*spot.reached, *way.reach.items), way.there, c)

    def begun(self, stands: Stands, walked: Walk, a: int) -> float:
        """Return the expected cost, in the library's euro, of beginning with one repair and taking
        the best way on afterwards. The job stands as the first of ``stands``, and ``walked`` are
        the repairs from there."""
        begun = self._repaired_by(stands.some(np.array([0])), walked.each[:1], np.array([[a]]))
        least = self.costs.least(begun.then, self.costs.walked(begun.then))
        return float(begun.expected(least)[0, 0])

    def _repairs(self, stands: Stands, walked: Walk, rows: Ints) -> Options:
        """Return the repairs tried first from each of the stands as moves, as they were ``walked``
        in the ``rows`` (S,)."""
        which = walked.order[rows, : self.job.engine.first_repairs]
        return self._repaired_by(stands, walked.each[rows], which)

    def _repaired_by(self, stands: Stands, each: Floats, which: Ints) -> Options:
        """Return repairs ``which`` (S, M) as moves from each of the stands; ``each`` (S, A) is what
        they cost without reaching."""
        actions = self.costs.actions
        wants = actions.wants[which]
        money = np.take_along_axis(each, which, axis=1)
        money += (stands.left[:, None, :] * wants).sum(axis=2)
        beliefs, other = self.unrepaired(stands.beliefs, which)
        money += other
        chance = beliefs.sum(axis=2)
        then = Stands(
            (beliefs / np.maximum(chance, 1e-300)[:, :, None]).reshape(
                which.size, beliefs.shape[2]
            ),
            np.where(wants, 0.0, stands.left[:, None, :]).reshape(which.size, wants.shape[2]),
            np.zeros(which.size, dtype=bool),
        )
        return Options(money, chance, np.arange(which.shape[1]), then)

    def unrepaired(self, beliefs: Floats, which: Ints) -> tuple[Floats, Floats]:
        """Return the part of each belief that a repair leaves behind: for S beliefs over N sets and
        the M repairs ``which`` (S, M), an array (S, M, N), not normalised. A set is left where
        the repair touches none of its faults, where the repair fails, and, as the smaller set,
        where it ends only some of them. Beside the array stands the expected cost (S, M) of
        repairing the smaller sets that the beam does not hold."""
        ended = beliefs[:, None, :] * self._ended.T[which]
        left = beliefs[:, None, :] - ended
        other = np.zeros(which.shape)
        for a in np.unique(which).tolist():
            own, (source, target, beyond) = which == a, self._in_part(a)
            other[own] = ended[own] @ beyond
            if len(source):
                some = left[own].T
                np.add.at(some, target, ended[own].T[source])
                left[own] = some.T
        return left, other

    def _in_part(self, a: int) -> tuple[Ints, Ints, Floats]:
        """Return three arrays for a repair that ends some faults of a set and not all: the places
        of those sets, the places of the smaller sets that remain, and (N,) the repair cost of
        the smaller sets that the beam does not hold."""
        if a not in self._parts:
            model, rows = self.job.belief.model, self.costs.beam.rows
            faults = np.flatnonzero(self.costs.actions.covers[:-1, a])
            left = model.without(frozenset(faults.tolist()), rows)
            some = np.flatnonzero((left != rows) & (left != 0))
            held = np.array([int(left[n]) in self._place for n in some], dtype=bool)
            source, others = some[held], some[~held]
            target = np.array([self._place[int(left[n])] for n in source], dtype=np.intp)
            beyond = np.zeros(len(rows))
            do = self.costs.cures.do[others].copy()
            do[:, a] = 0.0
            beyond[others] = do @ self.costs.actions.cost
            self._parts[a] = source, target, beyond
        return self._parts[a]

    def _repaired(self, a: int) -> MoveEnd:
        """Return how the machine stands after a repair."""
        state, machine = self.job.state, self.job.belief.model.machine
        repair = machine.repairs.get(self.costs.actions.ids[a])
        if repair is None:
            return MoveEnd((), state)
        way = self.job.reaching.ways(state, [repair.needs])[0]
        return MoveEnd(way.reach.items, way.there)

    @cached_property
    def _place(self) -> dict[int, int]:
        """Return the place of each row of the beam."""
        return {row: n for n, row in enumerate(self.costs.beam.rows.tolist())}

    @cached_property
    def _ended(self) -> Floats:
        return ended_of(self.costs.actions, self.costs.beam)


def runs_well(owner: Ints, checks: Sequence[Check]) -> Flags:
    """Return which outcomes are those of a full run that shows nothing: the first outcome of each
    such check, (R,). ``owner`` (R,) is the check each outcome belongs to, ascending."""
    watches = np.array([check.watches for check in checks], dtype=bool)
    return np.asarray(watches[owner] & (np.diff(owner, prepend=-1) > 0))


def _together(some: Sequence[Stands]) -> Stands:
    """Return every ending in one list, one after the other."""
    return Stands(
        np.vstack([one.beliefs for one in some]),
        np.vstack([one.left for one in some]),
        np.concatenate([one.ran for one in some]),
    )
