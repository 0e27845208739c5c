"""Repairs one after the other: their expected cost by hand, and the order that no other beats."""

from itertools import permutations

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.beam import beam_of
from bottega.core.diagnosis.repairplan import ShopPrices, compile_actions, walk
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


@pytest.mark.parametrize("seed", range(12))
def test_expected_cost_is_what_walking_the_plan_costs(shelf, seed):
    """Two faults, no interplay: the order's expected cost by hand, against the arrays; the last
    belief is of a machine that has just run in order, so that handing it over costs no run, and no
    run would show what is left."""
    machine = random_machine(seed, faults=2, effects=2)
    model, engine = model_of(machine), shelf.tables.engine
    prices = ShopPrices(1.0, 10_000.0, 0.0)
    beam = beam_of(model, np.array([0.4, 0.3, 0.2, 0.1]), 1 - 1e-9, 10)
    actions = compile_actions(
        model, prices, engine, MachineState(), reaching=Reaching(machine, shelf.tables), beam=beam
    )
    rng = np.random.default_rng(seed)
    beliefs = rng.dirichlet(np.ones(4), size=3)
    got = walk(actions, beliefs, beam, np.zeros((3, 0)), ran=np.array([False, False, True])).cost(
        prices.refer
    )
    missed = engine.run_misses
    ends = {"c0.part": (1, 3), "c1.part": (2, 3), "nothing_wrong": ()}
    for n, row in enumerate(beliefs):
        chance = {
            "c0.part": (row[1] + row[3]) * 0.97,
            "c1.part": (row[2] + row[3]) * 0.97,
            "nothing_wrong": row[0],
        }
        ran = n == 2
        cost_of = {}
        for a, money in zip(actions.ids, actions.cost, strict=True):
            no_run = ran and a == "nothing_wrong"
            unseen = {1: 1.0, 2: 1.0, 3: 1.0} if no_run else {1: missed, 2: missed, 3: missed**2}
            cost_of[a] = (0.0 if no_run else money) + engine.callback_eur * sum(
                row[s] * hidden * (0.03 if s in ends[a] else 1) for s, hidden in unseen.items()
            )
        order = sorted(actions.ids, key=lambda a: -chance[a] / cost_of[a])
        covers = {0: {"nothing_wrong"}, 1: {"c0.part"}, 2: {"c1.part"}, 3: {"c0.part", "c1.part"}}
        walked = 0.0
        for s, p in enumerate(row):
            left, spent = set(covers[s]), 0.0
            for action in order:
                if not left:
                    break
                spent += cost_of[action]
                left.discard(action)
            walked += p * spent
        assert got[n] == pytest.approx(walked, rel=1e-9)


@pytest.mark.parametrize("seed", range(6))
def test_no_other_order_of_single_faults_costs_less(shelf, seed):
    """Heckerman, Breese and Rommelse 1995: with one fault and nothing shared, going by chance per
    cost is the optimum; here against every order there is."""
    machine = random_machine(seed, faults=4, effects=2)
    model, engine = model_of(machine), shelf.tables.engine
    single = np.flatnonzero((model.sets >= 0).sum(axis=1) == 1)
    weights = np.zeros(len(model.sets))
    weights[single] = np.random.default_rng(seed).dirichlet(np.ones(len(single)))
    beam = beam_of(model, weights, 1 - 1e-9, len(model.sets))
    prices = ShopPrices(1.0, 1e6, 0.0)
    reaching = Reaching(machine, shelf.tables)
    actions = compile_actions(model, prices, engine, MachineState(), reaching=reaching, beam=beam)
    walked = walk(actions, beam.belief[None], beam, np.zeros((1, 0)), ran=np.array([False]))
    chance, each = walked.chance[0], walked.each[0]
    parts = [a for a in range(len(actions.ids)) if chance[a] > 0]

    def cost(order):
        """Pay for each in turn as long as it is not ended."""
        left, spent = 1.0, 0.0
        for action in order:
            spent += left * each[action]
            left -= chance[action]
        return spent

    got = [int(a) for a in walked.order[0] if a in parts]
    assert cost(got) == pytest.approx(min(cost(order) for order in permutations(parts)), rel=1e-9)
