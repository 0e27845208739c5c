"""What a belief will still cost if the fault is found first: the right repair, and the checks until
it is known which one that is.

The price of bits makes checks comparable that each settle only a part. Source: Shannon 1948 for
the bits; that no questions find a thing with fewer than its bits, his source coding theorem.
"""

from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.beam import Beam
from bottega.core.diagnosis.model import Flags, Floats, Ints
from bottega.core.diagnosis.repairplan import Actions
from bottega.core.library.tables import EngineTable

LEAST_BITS = 1e-3
"""A check that tells less on average tells nothing; chosen."""


@dataclass(frozen=True)
class Cures:
    """The cheapest cures of N fault sets once each set is known: ``do`` (N, A) is 1 where an action
    is the cheapest for one of the set's faults, and ``share`` (N, A) is ``do`` with rows that
    sum to one."""

    do: Floats
    share: Floats

    def cost(self, actions: Actions, beliefs: Floats, left_cost: Floats, ran: Flags) -> Floats:
        """Return the expected money of the right repairs alone, from beliefs (R, N), what reaching
        still costs (R, B) and whether it has just run in order (R,), shape (R,)."""
        whole = actions.work(ran) + left_cost @ actions.wants.T
        return np.asarray(((beliefs @ self.do) * whole).sum(axis=1))

    def bits(self, beliefs: Floats) -> Floats:
        """Return the bits of information that are still needed to know which repair is right, for
        each belief, (R,)."""
        chance = beliefs @ self.share
        logs = np.log2(chance, out=np.zeros_like(chance), where=chance > 0)
        return np.asarray(-(chance * logs).sum(axis=1))


def cures_of(actions: Actions, beam: Beam, left_cost: Floats) -> Cures:
    """Return the cheapest actions for each set of the beam, where each bundle of reaching still
    costs ``left_cost`` (B,)."""
    whole = np.append(actions.cost + actions.wants @ left_cost, np.inf)
    cheapest = _cheapest(actions.choices, whole)
    do = np.zeros((len(beam.rows), len(whole)))
    for column in beam.sets.T:
        own = np.flatnonzero(column >= 0)
        do[own, cheapest[column[own]]] = 1.0
    do[beam.sets[:, 0] < 0, cheapest[-1]] = 1.0
    do = do[:, :-1]
    return Cures(do, do / np.maximum(do.sum(axis=1, keepdims=True), 1.0))


@dataclass(frozen=True)
class BitCosts:
    """A price list: ``bits`` (n,) of information cost ``euro`` (n,), both ascending from nothing;
    every bit beyond the last costs ``dearest`` euro."""

    bits: Floats
    euro: Floats
    dearest: float

    def of(self, wanted: Floats) -> Floats:
        """Return the price of the bits that are ``wanted`` (R,), in the library's euro."""
        more = np.maximum(wanted - self.bits[-1], 0.0)
        return np.asarray(np.interp(wanted, self.bits, self.euro) + more * self.dearest)


def costs_of_bits(told: Floats, cost: Floats, engine: EngineTable) -> BitCosts:
    """Return the price list of bits, from the bits each of C checks tells on average and the cost
    of each check, both (C,).  The cheapest bits are had first. Checks tell partly the same: of
    the bits a check tells, one in ``later_bits`` of the engine's table is new. No bit costs more
    than ``dearest_bit_eur``."""
    telling = np.flatnonzero(told > LEAST_BITS)
    new = told[telling] / engine.later_bits
    each = np.minimum(cost[telling] / new, engine.dearest_bit_eur)
    order = np.argsort(each, kind="stable")
    bits = np.append(0.0, np.cumsum(new[order]))
    euro = np.append(0.0, np.cumsum((new * each)[order]))
    return BitCosts(bits, euro, engine.dearest_bit_eur)


def _cheapest(choices: Ints, whole: Floats) -> Ints:
    """Return the cheapest of the actions that end each fault, from ``(F+1, C)`` choices, (F+1,)."""
    return np.asarray(
        np.take_along_axis(choices, whole[choices].argmin(axis=1)[:, None], axis=1)[:, 0]
    )
