"""The plan against the exact optimum of small machines, and the optimum itself against a plain
recursion."""

from dataclasses import replace
from statistics import mean

import numpy as np
import pytest
from tests.core.diagnosis.brute import prior_weight, state_chances
from tests.engine import model_of

from bottega.benchmark.optimum import exact_cost, followed_cost
from bottega.benchmark.policies import most_bits
from bottega.benchmark.reduced import AGE_YEARS, cut_out, random_puzzle
from bottega.core.diagnosis.plan import LEAST_MOVE, PLAUSIBLE
from bottega.core.library.records import Needs
from bottega.core.machine.reach import Reaching


def least_cost(puzzle, tables):
    """Every plan tried, from the definitions: what is there, what a check answers, what a repair
    ends."""
    machine, engine, rate = puzzle.machine, tables.engine, puzzle.prices.rate_per_min
    reaching = Reaching(machine, tables)
    hypotheses = [frozenset(), *(frozenset({name}) for name in machine.faults)]

    def reported(faults, answers):
        chance = prior_weight(machine, faults, AGE_YEARS, engine)
        for effect in machine.effects:
            states = state_chances(machine, faults, effect)
            for check, outcome in answers.items():
                if machine.checks[check].effect == effect:
                    states = [
                        p * q
                        for p, q in zip(
                            states, machine.checks[check].outcome(outcome).chances, strict=True
                        )
                    ]
            chance *= sum(states)
        return chance

    def least(answers, tried, state):
        left = [h for h in hypotheses if not any(ends(a, h) for a in tried)]
        mass = sum(reported(h, answers) for h in left)
        held = mass > 0 and to_be_proved(left, answers)
        options = [] if held else [mass * puzzle.prices.refer]
        for action in [a for a in [*machine.repairs, None] if a not in tried and not held]:
            needs = machine.repairs[action].needs if action else Needs()
            way = reaching.reach(state, needs).minutes * rate
            there = reaching.arrived(state, needs)
            vain = sum(
                reported(h, answers) * wasted(action, h) for h in left if not ends(action, h)
            )
            options.append(
                mass * (money(action) + way)
                + vain
                + (least(answers, tried | {action}, there) if mass > 0 else 0)
            )
        for check in [c for c in machine.checks.values() if c.id not in answers]:
            minutes = (
                reaching.reach(state, check.needs).minutes + check.minutes + engine.note_minutes
            )
            there = reaching.arrived(state, check.needs)
            further = sum(least({**answers, check.id: o.id}, tried, there) for o in check.outcomes)
            options.append(mass * minutes * rate + further)
        return min(options)

    def to_be_proved(left, answers):
        """Whether the shop proves first and has not: a part is suspected, and a check tells of
        it."""

        def chance(faults, answers):
            return reported(faults, answers) / sum(reported(h, answers) for h in left)

        leading = max(left, key=lambda h: reported(h, answers) if h else -1)
        now = chance(leading, answers) if leading else 0
        by_part = all(machine.repairs[r].do == "part" for r in machine.repairs if ends(r, leading))
        if not PLAUSIBLE < now < puzzle.prices.prove_at or not by_part:
            return False
        whole = sum(reported(h, answers) for h in left)
        for check in machine.checks.values():
            if check.id in answers or check.who == "customer":
                continue
            told = 0.0
            for outcome in check.outcomes:
                then = {**answers, check.id: outcome.id}
                share = sum(reported(h, then) for h in left) / whole
                told += share * abs(chance(leading, then) - now) if share else 0
            if told >= LEAST_MOVE:
                return True
        return False

    def ends(action, faults):
        return (
            not faults
            if action is None
            else bool(faults) and all(machine.repairs[action].ends(f) for f in faults)
        )

    def money(action):
        if action is None:
            return 2 * engine.verify_minutes * rate
        repair = machine.repairs[action]
        return (repair.minutes + engine.verify_minutes) * rate + repair.price_eur

    def wasted(action, faults):
        unseen = engine.run_misses * engine.callback_eur if faults else 0
        part = action is not None and machine.repairs[action].do == "part"
        if not part or puzzle.prices.prove_at == 0:
            return unseen
        return unseen + machine.repairs[action].price_eur * engine.wrong_part_share

    whole = sum(reported(h, {}) for h in hypotheses)
    return least({}, frozenset(), puzzle.start) / whole


@pytest.mark.parametrize("prove_at", [0.0, 0.85])
@pytest.mark.parametrize("seed", range(6))
def test_the_optimum_is_the_least_over_every_plan(shelf, seed, prove_at):
    puzzle = random_puzzle(seed, faults=2, checks=2)
    puzzle = replace(puzzle, prices=replace(puzzle.prices, prove_at=prove_at))
    assert exact_cost(puzzle, shelf.tables) == pytest.approx(
        least_cost(puzzle, shelf.tables), rel=1e-9
    )


@pytest.fixture(scope="module")
def made_up():
    return [random_puzzle(seed, faults=6, checks=4) for seed in range(12)]


@pytest.fixture(scope="module")
def from_the_library(shelf):
    return [
        cut_out(model_of(shelf.machine(name)), n, shelf.tables.engine, faults=6, checks=4)
        for n, name in enumerate(shelf.archetypes)
    ]


@pytest.mark.parametrize("prove_at", [0.0, 0.85])
def test_on_machines_of_the_library_the_plan_costs_hardly_more_than_the_optimum(
    shelf, from_the_library, prove_at
):
    """Under either school; and what tells most bits a minute costs a good deal more. The plan
    weighs the likely sets, the optimum all of them: where a check only just tells of the leading
    fault, the one may hold to the rule of the shop that proves first where the other does not."""
    tables = shelf.tables
    puzzles = [replace(p, prices=replace(p.prices, prove_at=prove_at)) for p in from_the_library]
    least = [exact_cost(p, tables) for p in puzzles]
    ratios = [followed_cost(p, tables) / e for p, e in zip(puzzles, least, strict=True)]
    greedy = [followed_cost(p, tables, most_bits) / e for p, e in zip(puzzles, least, strict=True)]
    assert min(ratios) >= 1 - 1e-3
    assert min(greedy) >= 1 - 1e-9
    assert mean(ratios) <= 1.03
    assert max(ratios) <= 1.10
    assert mean(greedy) >= mean(ratios) + 0.10


def test_on_machines_made_up_at_random_two_moves_ahead_cost_less_than_one(shelf, made_up):
    engine = shelf.tables.engine.model_copy(update={"two_deep_among": 0})
    least = np.array([exact_cost(p, shelf.tables) for p in made_up])
    two, one = (
        np.array([followed_cost(p, tables) for p in made_up]) / least
        for tables in (shelf.tables, replace(shelf.tables, engine=engine))
    )
    assert two.min() >= 1 - 1e-9
    assert two.mean() <= 1.02
    assert two.mean() < one.mean() - 0.01
