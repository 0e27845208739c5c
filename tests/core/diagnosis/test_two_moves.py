"""Two moves ahead: what a repair leaves behind is what the engine believes after it, and a repair
comes before a referral where what is left can be found out."""

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.beam import beam_of
from bottega.core.diagnosis.bit_price import BitCosts, cures_of
from bottega.core.diagnosis.evidence import Evidence, Removal, answered, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.plan import plan
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import ShopPrices, compile_actions
from bottega.core.diagnosis.setting import Setting
from bottega.core.diagnosis.two_moves import Costs, Moves
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

PRICES = ShopPrices(rate_per_min=0.9, refer=360, prove_at=0.85)


@pytest.mark.parametrize("seed", range(8))
def test_what_a_repair_leaves_is_what_the_engine_believes_after_it(shelf, seed):
    """Of pairs the other fault, of those it does not touch both; nobody has run it yet."""
    engine, machine = shelf.tables.engine, random_machine(seed, faults=6, effects=4, openings=2)
    model, state, reaching = model_of(machine), MachineState(), Reaching(machine, shelf.tables)
    before = prior(model, 7, engine).copy()
    before[0] = 0.0
    before /= before.sum()
    belief = infer(model, before, Evidence())
    beam = beam_of(model, belief.now, 1 - 1e-12, len(model.sets))
    actions = compile_actions(model, PRICES, engine, state, reaching=reaching, beam=beam)
    costs = Costs(
        actions,
        beam,
        cures_of(actions, beam, actions.left_after([((), state)])[0]),
        BitCosts(np.zeros(1), np.zeros(1), 40.0),
        PRICES.refer,
    )
    job = Setting(belief, Evidence(), state, reaching, PRICES, engine)
    moves = Moves(job, costs, [], np.zeros((0, len(beam.rows))), np.zeros(0, dtype=int))
    every = np.arange(len(actions.ids) - 1)[None]
    left, other = moves.unrepaired(beam.belief[None], every)
    assert len(beam.rows) == len(model.sets) - 1, "every set with a fault is looked at"
    assert other == pytest.approx(0), "so what is left of a pair is looked at, too"
    for a, own in enumerate(left[0]):
        covers = dict(machine.repairs[actions.ids[a]].covers)
        removed = Removal(0, frozenset(covers), min(covers.values()))
        after = infer(model, before, Evidence((), (removed,))).now
        assert own == pytest.approx(after[beam.rows], abs=1e-9), actions.ids[a]


def test_where_few_checks_tell_anything_the_plan_looks_two_moves_ahead(shelf, f7):
    """And where many do, it does not: the figure decides, and the answers differ."""
    engine, model = shelf.tables.engine, model_of(f7)
    told = Evidence((said("s", f7.complaints["says_water_stays"], 0),))
    belief = infer(model, prior(model, 7, engine), told)

    def first(among, checks):
        found = plan(
            belief,
            told,
            MachineState(),
            Reaching(f7, shelf.tables),
            prices=PRICES,
            engine=engine.model_copy(update={"two_deep_among": among}),
            available=checks,
        )
        return [(step.check.id, step.saving) for step in found.steps]

    few = [c for c in f7.checks if c in ("open_filter", "turn_rotor", "look_hose", "hear_draining")]
    assert first(0, few) != first(12, few)
    assert first(0, list(f7.checks)) == first(12, list(f7.checks))


def test_a_sure_part_comes_before_a_referral_where_a_second_fault_is_there_too(shelf):
    """Dead, and too long a wash: the board is nearly sure, and what else there is can be found out
    once it lives. Repairing blindly until all is well would cost more than giving up."""
    machine, engine = shelf.machine("FI"), shelf.tables.engine
    model = model_of(machine)
    told = [said("s", machine.complaints[name], 0) for name in ("says_dead", "says_long_wash")]
    answers = {
        "ask_warm": "normal",
        "ask_stops_in": "while it washes",
        "ask_spinning": "full",
        "ask_filling": "normal",
        "ask_other_socket": "live",
        "look_fuse": "whole",
        "measure_filter": "passes",
        "look_board_plugs": "bright",
        "measure_cord": "through",
        "press_key": "dead",
        "look_element_scale": "thin",
        "try_other_socket": "live",
    }
    for n, (check, outcome) in enumerate(answers.items()):
        told.append(answered(f"c{n}", machine.checks[check], outcome, 0))
    evidence = Evidence(tuple(told))
    belief = infer(model, prior(model, 16, engine), evidence)
    assert belief.fault_now()["board_supply_dead"] > 0.6
    open_checks = [name for name in machine.checks if name not in answers]

    def ends(refer):
        money = ShopPrices(rate_per_min=0.9, refer=refer, prove_at=0.85)
        reaching = Reaching(machine, shelf.tables)
        return plan(
            belief,
            evidence,
            MachineState(),
            reaching,
            prices=money,
            engine=engine,
            available=open_checks,
        ).ends

    assert ends(360).repairs == ("board.part",)
    assert ends(360).open_end
    assert ends(360).cost < 360
    assert ends(150).repairs == (), "where giving up is cheap, a part for 190 is not tried"
