"""The expected cost of repair from many beliefs at once: repairs one after the other, shared
reaching, refer as the end.

Source: Heckerman, Breese and Rommelse 1995 (greedy by probability per cost); Jensen et al. 2001
(shared costs).
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from bottega.core.diagnosis.beam import Beam
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.library.tables import EngineTable
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

NOTHING_WRONG = "nothing_wrong"
LEAST_EUR = 1e-6
"""What costs nothing counts as so much, so that it can be divided by."""


@dataclass(frozen=True)
class ShopPrices:
    """What the shop charges itself: money per minute, what an unresolved end costs, how sure a part
    must be.

    ``rate_per_min`` and ``refer`` in the library's euro. ``prove_at`` is the probability above
    which a part may be fitted; 0 stands for the school that swaps the cheap part.
    """

    rate_per_min: float
    refer: float
    prove_at: float
    part_factor: float = 1.0

    @property
    def proves_first(self) -> bool:
        """Return whether a part has to be proved before it is fitted."""
        return self.prove_at > 0


@dataclass(frozen=True)
class Actions:
    """A machine's repairs as arrays, from how the machine stands now: A actions, of which the last
    is "nothing wrong found", and B bundles. Reaching is shared between actions: the items that
    the same actions want make one bundle, paid once."""

    ids: tuple[str, ...]
    cost: Floats
    """(A,) money of the work and part, without reaching."""
    lost: Floats
    """(A,) money lost when it was not needed: under the school that proves first what a part is
    worth less then."""
    unseen: Floats
    """(N,) money a set of the beam still costs after an action that did not end it: a run may not
    show it, and the more easily where it comes and goes; then somebody calls again."""
    called_again: Floats
    """(N,) money a set of the beam still costs when the machine is handed over with it as it has
    just run in order: no further run would show it."""
    covers: Floats
    """(F+1, A) chance that the action ends the fault; row F is the empty set."""
    choices: Ints
    """(F+1, C) the actions that end each fault, padded with A."""
    items: dict[tuple[str, str], tuple[int, float]]
    """Every item of reaching with its bundle and its money."""
    wants: NDArray[np.bool_]
    """(A, B) which actions want which bundle."""

    def work(self, ran: Flags) -> Floats:
        """Return the money of each action from each of R beliefs, (R, A), without reaching; a
        machine that has just run (R,) needs no run to be found in order."""
        cost = np.tile(self.cost, (len(ran), 1))
        cost[ran, -1] = 0.0
        return cost

    def left_after(
        self, stands: Sequence[tuple[Iterable[tuple[str, str]], MachineState]]
    ) -> Floats:
        """Return the cost of each bundle (len(stands), B) once some items are reached and the
        machine stands so. Plug and charge count as reached only where the machine stands
        unplugged, for after a check with the power on both are due again."""
        full = np.zeros(self.wants.shape[1])
        for bundle, money in self.items.values():
            full[bundle] += money
        left = np.tile(full, (len(stands), 1))
        for row, (reached, state) in enumerate(stands):
            for item in [
                *(item for item in reached if item[0] not in ISOLATION),
                *_isolated(state),
            ]:
                if item in self.items:
                    bundle, money = self.items[item]
                    left[row, bundle] -= money
        return left.clip(min=0.0)


ISOLATION = ("power", "charge")


def _isolated(state: MachineState) -> tuple[tuple[str, str], ...]:
    """Return the items of isolating the machine, plug and charge, that are done where the machine
    stands so."""
    if state.power != "off":
        return ()
    return (("power", "off"), ("charge", "none")) if state.charge == "none" else (("power", "off"),)


@dataclass(frozen=True)
class Walk:
    """Repairs made one after the other from R beliefs, each array (R, A). ``chance`` is the chance
    that an action ends part of the belief, ``each`` its cost as the first action without
    reaching, ``order`` the actions in order, ``spent`` the money spent up to each, ``solved``
    the part of the belief ended by each, and ``left`` the part left after it."""

    chance: Floats
    each: Floats
    order: Ints
    spent: Floats
    solved: Floats
    left: Floats

    def cost(self, refer: float) -> Floats:
        """Return the expected cost of each belief when the walk may end by referring wherever that
        is cheapest, (R,)."""
        return np.asarray(np.minimum(self._totals(refer).min(axis=1), refer))

    def repairs(self, row: int, actions: Actions, refer: float) -> tuple[str, ...]:
        """Return the actions to try in order from one belief; empty when referring at once is
        cheapest."""
        totals = self._totals(refer)[row]
        last = int(np.argmin(totals))
        return (
            tuple(actions.ids[a] for a in self.order[row, : last + 1])
            if totals[last] < refer
            else ()
        )

    def sure(self, row: int) -> float:
        """Return the chance that the first action ends the trouble, of one belief."""
        return float(self.chance[row, self.order[row, 0]])

    def _totals(self, refer: float) -> Floats:
        return np.cumsum(self.solved * self.spent, axis=1) + self.left * (self.spent + refer)


def compile_actions(
    model: DiagnosisModel,
    prices: ShopPrices,
    engine: EngineTable,
    state: MachineState,
    *,
    reaching: Reaching,
    beam: Beam,
) -> Actions:
    """Return the repairs that end some fault of the beam as arrays, with what reaching them from
    ``state`` takes."""
    table = model.repairs
    own = np.flatnonzero(table.covers[beam.members.any(axis=0)].any(axis=0))
    count = len(own) + 1
    part = table.price_eur[own] * prices.part_factor
    work = (table.minutes[own] + engine.verify_minutes) * prices.rate_per_min
    nothing = 2 * engine.verify_minutes * prices.rate_per_min
    lost = np.where(table.part[own] & prices.proves_first, part * engine.wrong_part_share, 0.0)
    covers = np.zeros((len(model.fault_ids) + 1, count))
    covers[:-1, :-1] = table.covers[:, own]
    covers[-1, -1] = 1.0
    wanted: dict[tuple[str, str], list[int]] = {}
    minutes: dict[tuple[str, str], float] = {}
    needs = [model.machine.repairs[table.ids[a]].needs for a in own]
    for place, way in enumerate(reaching.ways(replace(state, power="on", charge="none"), needs)):
        for step in way.reach.steps:
            wanted.setdefault((step.what, step.to), []).append(place)
            minutes[step.what, step.to] = step.minutes
    bundles = list(dict.fromkeys(tuple(places) for places in wanted.values()))
    wants = np.zeros((count, len(bundles)), dtype=bool)
    for bundle, places in enumerate(bundles):
        wants[list(places), bundle] = True
    return Actions(
        ids=(*(table.ids[a] for a in own), NOTHING_WRONG),
        cost=np.append(work + part + (1 - table.sure[own]) * engine.callback_eur, nothing),
        lost=np.append(lost, 0.0),
        unseen=_unseen(model, beam.sets, engine) * engine.callback_eur,
        called_again=np.where(beam.sets[:, 0] >= 0, engine.callback_eur, 0.0),
        covers=covers,
        choices=_choices(covers),
        items={
            item: (bundles.index(tuple(places)), minutes[item] * prices.rate_per_min)
            for item, places in wanted.items()
        },
        wants=wants,
    )


def walk(
    actions: Actions,
    beliefs: Floats,
    beam: Beam,
    left_cost: Floats,
    *,
    ran: Flags,
) -> Walk:
    """Return the repairs in the order of probability per cost, verified one by one, for each of R
    beliefs.

    Under the school that proves first a wrong part costs more, which puts it later. ``beliefs``
    (R, N) over the sets of the beam, ``left_cost`` (R, B) what reaching still costs, ``ran`` (R,)
    whether it has just run in order. A set is solved when all its faults are covered.
    """
    ends = ended_of(actions, beam)
    chance = beliefs @ ends
    vain = (beliefs * actions.unseen) @ (1 - ends)
    vain[ran, -1] = (beliefs[ran] * actions.called_again) @ (1 - ends[:, -1])
    cost = actions.work(ran) + actions.lost * (1 - chance) + vain
    gain = chance / np.maximum(cost + left_cost @ actions.wants.T, LEAST_EUR)
    order = np.argsort(-gain, axis=1, kind="stable")
    return _walk(actions, beliefs, beam, left_cost, cost=cost, chance=chance, order=order)


def _unseen(model: DiagnosisModel, sets: Ints, engine: EngineTable) -> Floats:
    """Return the chance that a watched run shows nothing although the machine has each set of
    faults, (N,): none of the faults acts, or the run misses them; zero for the empty set, which
    has nothing to show."""
    missed = np.where(sets >= 0, 1 - model.shows[sets] * (1 - engine.run_misses), 1.0).prod(axis=1)
    return np.asarray(np.where(sets[:, 0] >= 0, missed, 0.0))


def ended_of(actions: Actions, beam: Beam) -> Floats:
    """Return the chance that each action ends some fault of each set, (N, A)."""
    empty = (beam.sets[:, 0] < 0).astype(float)[:, None]
    return np.asarray((np.hstack([beam.members, empty]) @ actions.covers).clip(max=1.0))


def _walk(
    actions: Actions,
    beliefs: Floats,
    beam: Beam,
    left_cost: Floats,
    *,
    cost: Floats,
    chance: Floats,
    order: Ints,
) -> Walk:
    """Return the walk through the actions in one order (R, A) at their costs (R, A)."""
    rows, count = order.shape
    line = np.arange(rows)
    position = np.empty_like(order)
    position[line[:, None], order] = np.arange(count)
    added = cost[line[:, None], order]
    bundle, action = np.nonzero(actions.wants.T)
    if len(bundle):
        begins = np.flatnonzero(np.diff(bundle, prepend=-1))
        first = np.minimum.reduceat(position[:, action], begins, axis=1)
        reached = np.bincount(
            (line[:, None] * count + first).ravel(), left_cost.ravel(), rows * count
        )
        added += reached.reshape(rows, count)
    flat = (line[:, None] * count + _stops(position, actions.choices, beam.sets)).ravel()
    solved = np.asarray(np.bincount(flat, beliefs.ravel(), rows * count), dtype=np.float64).reshape(
        rows, count
    )
    return Walk(
        chance, cost, order, np.cumsum(added, axis=1), solved, 1 - np.cumsum(solved, axis=1)
    )


def _choices(covers: Floats) -> Ints:
    """Return the actions that end each fault, padded with the number of actions, (F+1, C)."""
    hit = covers > 0
    first = np.argsort(~hit, axis=1, kind="stable")[:, : hit.sum(axis=1).max()]
    return np.where(np.take_along_axis(hit, first, axis=1), first, covers.shape[1])


def _stops(position: Ints, choices: Ints, sets: Ints) -> Ints:
    """Return the place in the order after which all faults of each set are covered, (R, N)."""
    rows, count = position.shape
    padded = np.hstack([position, np.full((rows, 1), count - 1)])
    covered = np.hstack([padded[:, choices].min(axis=2), np.full((rows, 1), -1)])
    empty = len(choices) - 1
    stop = covered[:, np.where(sets[:, 0] < 0, empty, sets[:, 0])]
    for column in (1, 2):
        if (sets[:, column] >= 0).any():
            np.maximum(stop, covered[:, sets[:, column]], out=stop)
    return stop
