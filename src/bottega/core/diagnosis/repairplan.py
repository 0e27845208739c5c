"""The expected cost of repair from many beliefs at once: repairs in greedy order, shared reaching, refer as the end.

Source: Heckerman, Breese and Rommelse 1995 (greedy by probability per cost); Jensen et al. 2001 (shared costs).
"""

from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.library.tables import EngineTable


@dataclass(frozen=True)
class Prices:
    """What the shop charges itself: money per minute, what an unresolved end costs, how sure a part must be.

    ``rate_per_min`` and ``refer`` in the library's euro. ``prove_at`` is the probability above which a part may be
    fitted; 0 stands for the school that swaps the cheap part.
    """

    rate_per_min: float
    refer: float
    prove_at: float
    part_factor: float = 1.0


@dataclass(frozen=True)
class Actions:
    """All repairs of a machine as arrays, from its present state. The last action is "nothing wrong found"."""

    ids: tuple[str, ...]
    cost: Floats
    """(A,) money of the work and part, without reaching."""
    wrong: Floats
    """(A,) money lost when fitted unproved and not needed, under the school that proves first."""
    covers: Floats
    """(F+1, A) chance that the action ends the fault; row F is the empty set."""
    choices: Ints
    """(F+1, C) the actions that end each fault, padded with A."""
    items: tuple[tuple[str, str], ...]
    """What reaching consists of; shared between actions."""
    item_cost: Floats
    """(I,) money per item, 0 for what is reached already."""
    wants: tuple[Ints, ...]
    """Per item, the actions that want it."""


NOTHING_WRONG = "nothing_wrong"


def compile_actions(
    model: DiagnosisModel,
    prices: Prices,
    engine: EngineTable,
    reached: dict[str, dict[tuple[str, str], float]],
) -> Actions:
    """Return the repairs as arrays. ``reached`` gives, per repair, the minutes of each item of reaching still to do."""
    repairs = list(model.machine.repairs.values())
    count, faults = len(repairs) + 1, len(model.fault_ids)
    cost, wrong = np.zeros(count), np.zeros(count)
    covers = np.zeros((faults + 1, count))
    for a, repair in enumerate(repairs):
        sure = min(chance for _, chance in repair.covers)
        part = repair.price_eur * prices.part_factor
        cost[a] = (
            (repair.minutes + engine.verify_minutes) * prices.rate_per_min + part + (1 - sure) * engine.callback_eur
        )
        wrong[a] = part * engine.wrong_part_share if repair.do == "part" and prices.prove_at > 0 else 0.0
        for fault, chance in repair.covers:
            covers[model.fault_index(fault), a] = chance
    cost[-1] = 2 * engine.verify_minutes * prices.rate_per_min
    covers[faults, -1] = 1.0
    widest = int((covers > 0).sum(axis=1).max())
    choices = np.full((faults + 1, widest), count, dtype=np.intp)
    for f in range(faults + 1):
        own = np.flatnonzero(covers[f])
        choices[f, : len(own)] = own
    minutes: dict[tuple[str, str], float] = {}
    for items in reached.values():
        minutes.update(items)
    names = tuple(minutes)
    wants = tuple(
        np.array([a for a, r in enumerate(repairs) if item in reached[r.id]], dtype=np.intp) for item in names
    )
    item_cost = np.array([minutes[item] * prices.rate_per_min for item in names])
    return Actions((*(r.id for r in repairs), NOTHING_WRONG), cost, wrong, covers, choices, names, item_cost, wants)


def expected_cost(
    actions: Actions, prices: Prices, beliefs: Floats, sets: Ints, members: Floats, item_cost: Floats
) -> Floats:
    """Return the expected cost of repair in money for each of R beliefs, shape (R,).

    ``beliefs`` (R, N) over N sets, ``sets`` (N, 3), ``members`` (N, F), ``item_cost`` (R, I) what reaching still costs.
    Repairs go by probability per cost and are verified one by one until all faults of the set are covered; the plan
    may end by referring at any point, whichever is cheapest.
    """
    rows, count = len(beliefs), len(actions.cost)
    chance = beliefs @ ((_padded(members, sets) @ actions.covers).clip(max=1.0))
    reach = np.zeros((rows, count))
    for i, wanting in enumerate(actions.wants):
        reach[:, wanting] += item_cost[:, i : i + 1]
    unproved = actions.wrong * (1 - chance)
    cost = actions.cost + unproved
    order = np.argsort(-chance / (cost + reach), axis=1, kind="stable")
    position = np.empty_like(order)
    np.put_along_axis(position, order, np.broadcast_to(np.arange(count), order.shape), axis=1)
    spent = _cumulative_cost(actions, position, np.take_along_axis(cost, order, axis=1), item_cost)
    stop = _stops(position, actions.choices, sets)
    flat = (np.arange(rows)[:, None] * count + stop).ravel()
    mass = np.bincount(flat, weights=beliefs.ravel(), minlength=rows * count).reshape(rows, count)
    solved = np.cumsum(mass * spent, axis=1)
    left = 1 - np.cumsum(mass, axis=1)
    total = solved + left * (spent + prices.refer)
    return np.asarray(np.minimum(total.min(axis=1), prices.refer))


def _padded(members: Floats, sets: Ints) -> Floats:
    empty = (sets[:, 0] < 0).astype(float)[:, None]
    return np.hstack([members, empty])


def _cumulative_cost(actions: Actions, position: Ints, sorted_cost: Floats, item_cost: Floats) -> Floats:
    rows = len(position)
    added = sorted_cost.copy()
    line = np.arange(rows)
    for i, wanting in enumerate(actions.wants):
        first = position[:, wanting].min(axis=1)
        added[line, first] += item_cost[:, i]
    return np.cumsum(added, axis=1)


def _stops(position: Ints, choices: Ints, sets: Ints) -> Ints:
    """Return the place in the order after which all faults of each set are covered, (R, N)."""
    rows, count = position.shape
    padded = np.hstack([position, np.full((rows, 1), count - 1)])
    covered = padded[:, choices].min(axis=2)
    empty = choices.shape[0] - 1
    first = np.where(sets[:, 0] < 0, empty, sets[:, 0])
    stop = covered[:, first]
    for column in (1, 2):
        has = np.flatnonzero(sets[:, column] >= 0)
        if len(has):
            stop[:, has] = np.maximum(stop[:, has], covered[:, sets[has, column]])
    return np.asarray(stop)
