"""The next step: what it reckons, that reaching is counted, that safety outranks cost, that the
policies differ."""

from dataclasses import replace
from statistics import mean

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.patient import typical
from bottega.core.diagnosis.evidence import Evidence, Occasion, answered, read_code, said, watched
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.plan import foretold, plan, previews
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import NOTHING_WRONG, ShopPrices
from bottega.core.diagnosis.words import step_reason
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

PRICES = ShopPrices(rate_per_min=0.9, refer=420, prove_at=0.85)


@pytest.fixture(scope="module")
def model(f7):
    return model_of(f7)


def steps_for(shelf, model, findings, state=None, *, prices=PRICES, only=None, engine=None):
    machine, engine = model.machine, engine or shelf.tables.engine
    evidence = Evidence(tuple(findings))
    belief = infer(model, prior(model, 7, engine), evidence)
    open_checks = only or [
        c for c in machine.checks if c not in {f.source.subject for f in findings}
    ]
    return plan(
        belief,
        evidence,
        state or MachineState(power="off", water="in"),
        Reaching(machine, shelf.tables),
        prices=prices,
        engine=engine,
        available=open_checks,
    )


def with_answers(shelf, model, told, steps):
    """Return steps with what each may answer."""
    belief = infer(model, prior(model, 7, shelf.tables.engine), Evidence(tuple(told)))
    stands = MachineState(power="off", water="in")
    return foretold(steps, belief, Evidence(tuple(told)), stands, engine=shelf.tables.engine)


def says(machine, *names):
    return [said(name, machine.complaints[name], 0) for name in names]


def test_outcome_chances_sum_to_one_and_previews_are_posteriors(shelf, model, f7):
    called = says(f7, "says_water_stays", "says_hums")
    (first,) = with_answers(shelf, model, called, steps_for(shelf, model, called).steps[:1])
    assert sum(o.chance for o in first.outcomes) == pytest.approx(1, abs=1e-6)
    for outcome in first.outcomes:
        found = answered("x", first.check, outcome.outcome, 0).on(Evidence().present)
        told = Evidence((*called, found))
        belief = infer(model, prior(model, 7, shelf.tables.engine), told)
        fault, chance = outcome.after[0]
        assert belief.fault_now()[fault] == pytest.approx(chance, abs=0.01)


def test_the_houseboat_is_sent_to_the_rotor(shelf, model, f7):
    assert (
        steps_for(shelf, model, says(f7, "says_water_stays", "says_hums")).next.check.id
        == "turn_rotor"
    )


def test_reaching_is_part_of_the_cost(shelf, model, f7):
    called = says(f7, "says_water_stays", "says_hums")
    far = steps_for(shelf, model, called, only=["turn_rotor"]).steps[0]
    opened = MachineState(power="off", water="out", off=("filter_flap", "filter_cap"))
    near = steps_for(shelf, model, called, state=opened, only=["turn_rotor"]).steps[0]
    assert near.minutes == f7.checks["turn_rotor"].minutes
    assert far.minutes == pytest.approx(near.minutes + 6.5)
    assert far.cost - near.cost == pytest.approx(6.5 * PRICES.rate_per_min)


def test_a_dangerous_fault_goes_before_cost(shelf, model, f7):
    first = steps_for(shelf, model, says(f7, "says_trips")).steps[0]
    assert first.safety
    assert first.check.who != "customer"
    assert f7.effects[first.check.effect].id in (
        "element_earth",
        "filter_path",
        "relay_weld",
        "gnawed",
        "stops_in",
    )
    assert "Safety" in step_reason(f7, first)


def test_when_it_is_proved_nothing_left_is_worth_checking(shelf, model, f7):
    told = says(f7, "says_water_stays", "says_hums")
    told += [
        answered("a", f7.checks["open_filter"], "clear", 0),
        answered("b", f7.checks["turn_rotor"], "free", 0),
    ]
    assert steps_for(shelf, model, told).next is None


def test_the_school_that_swaps_checks_less(shelf, model, f7):
    """Where fitting the part costs little more than proving it, and what it does is like others."""

    def checked(fault, prices):
        patient = typical(f7, (fault,))
        told = says(f7, *patient.complaints())
        for count in range(30):
            step = steps_for(shelf, model, told, prices=prices).next
            if step is None:
                return count
            told.append(answered(f"c{count}", step.check, patient.answer(step.check), 0))
        return 30

    cheap = replace(PRICES, part_factor=0.02)
    faults = list(f7.faults)[::9]
    prove = [checked(fault, cheap) for fault in faults]
    swap = [checked(fault, replace(cheap, prove_at=0.0)) for fault in faults]
    assert all(fewer <= more for fewer, more in zip(swap, prove, strict=True)), (swap, prove)
    assert sum(swap) < sum(prove)


def test_after_many_checks_nothing_more_is_proposed_but_what_is_dangerous(shelf, model, f7):
    told = says(f7, "says_stops")
    quiet = typical(f7, ())
    asked = [c for c in f7.checks.values() if c.who != "customer"]
    for check in asked[: shelf.tables.engine.most_checks]:
        told.append(answered(check.id, check, quiet.answer(check), 0).on(Evidence().present))
    steps = steps_for(shelf, model, told)
    assert steps.enough
    assert all(step.safety for step in steps.steps if step.worth_it)
    assert not steps_for(shelf, model, told[:-1]).enough


def test_a_shop_that_proves_first_goes_on_until_the_part_is_proved(shelf):
    """A slow drive code: following the first step of a shop that proves first ends above its mark
    of proof."""
    machine = shelf.machine("FD", "calvessa-dritta-8")
    model = model_of(machine)
    told = [said(n, machine.complaints[n], 0) for n in ("says_jerks", "says_no_turn")]
    told.append(read_code("c", machine.codes["cuti"], True, 0, repeatability=0.97))
    reasons = []
    for _ in range(10):
        step = steps_for(shelf, model, told).next
        if step is None:
            break
        reasons.append(step_reason(machine, step))
        states = machine.faults["position_sensor_bad"].effects.get(
            step.check.effect, machine.effects[step.check.effect].background
        )
        k = max(range(len(states)), key=lambda i: states[i])
        outcome = max(step.check.outcomes, key=lambda o: o.chances[k])
        told.append(answered(step.check.id, step.check, outcome.id, 0))
    chances = infer(model, prior(model, 7, shelf.tables.engine), Evidence(tuple(told))).fault_now()
    assert chances["position_sensor_bad"] >= PRICES.prove_at
    assert len(told) - 3 < 10
    assert reasons


def test_what_is_told_apart_moves_in_opposite_ways(shelf, model, f7):
    """What moves together with the first is not told apart from it: a run that shows that
    something is wrong speaks for both."""
    told = says(f7, "says_water_stays", "says_hums")
    start = prior(model, 7, shelf.tables.engine)
    before = infer(model, start, Evidence(tuple(told))).fault_now()
    steps = steps_for(shelf, model, told).steps[:10]
    for step in with_answers(shelf, model, told, steps):
        if len(step.parts_faults) == 2:
            first, second = step.parts_faults
            moves = []
            for outcome in step.outcomes:
                answer = answered("x", step.check, outcome.outcome, 0).on(Evidence().present)
                after = infer(model, start, Evidence((*told, answer))).fault_now()
                moves.append(
                    outcome.chance
                    * (after[first] - before[first])
                    * (after[second] - before[second])
                )
            assert sum(moves) < 2e-4, step.check.id


def test_where_the_repair_is_sure_only_a_check_that_saves_much_comes_before_it(shelf, model, f7):
    told = says(f7, "says_water_stays", "says_hums")
    told += [
        answered("a", f7.checks["open_filter"], "clear", 0),
        answered("b", f7.checks["turn_rotor"], "free", 0),
    ]
    sure = steps_for(shelf, model, told)
    assert sure.ends.sure >= PRICES.prove_at
    assert all(
        not step.worth_it or step.worth > shelf.tables.engine.sure_saving_eur for step in sure.steps
    )
    swapping = steps_for(shelf, model, told, prices=replace(PRICES, prove_at=0.0))
    least = shelf.tables.engine.least_saving_eur
    assert [s.worth_it for s in swapping.steps] == [s.worth > least for s in swapping.steps]


def test_what_is_said_of_money_is_less_than_what_decides(shelf, model, f7):
    """Where many checks tell, bits are had for less than the dearest of them is worth, and what one
    check does not tell others do; what costs more than it tells costs it in full."""
    engine = shelf.tables.engine
    found = steps_for(shelf, model, says(f7, "says_water_stays"))
    assert found.steps[0].worth > engine.least_saving_eur
    for step in found.steps:
        share = engine.saved_of if step.worth > 0 else 1.0
        assert step.saving == pytest.approx(step.worth * share)
    dear = steps_for(
        shelf,
        model,
        says(f7, "says_water_stays"),
        engine=engine.model_copy(update={"had_for": 1.0}),
    )
    assert 0 < found.expected_cost < dear.expected_cost <= dear.ends.cost


def test_what_the_ranking_becomes_holds_where_little_is_known(shelf, model, f7):
    """After the call the likeliest sets hold too little of the belief: previews are shown over more
    of them, so that hardly one is a point off what all sets say."""
    engine, evidence = shelf.tables.engine, Evidence(tuple(says(f7, "says_water_stays")))
    belief = infer(model, prior(model, 7, engine), evidence)
    checks = list(f7.checks.values())[:40]

    def shown(**figures):
        over = engine.model_copy(update=figures)
        told = previews(belief, evidence, MachineState(), checks, engine=over)
        return [dict(o.after) for outcomes, _ in told for o in outcomes if o.chance > 0.02]

    every, few, now = shown(preview_sets=len(belief.now)), shown(preview_mass=1e-9), shown()

    def off(some):
        pairs = zip(every, some, strict=True)
        return mean(max(abs(p - b.get(f, 0.0)) for f, p in a.items()) > 0.01 for a, b in pairs)

    assert np.sort(belief.now)[-engine.preview_sets :].sum() < engine.preview_mass
    assert off(now) < 0.02
    assert off(few) > 0.1


def test_what_fails_again_and_again_is_not_handed_over_as_sound(shelf, model, f7, monkeypatch):
    """Every check reads normal, and yet it does not start: before, that was nothing wrong."""
    engine, checks = shelf.tables.engine, f7.checks.values()
    speaking = {e for f in f7.faults.values() if "starts" in f.effects for e in f.effects}
    found = [
        answered(c.id, c, c.outcomes[0].id, 0).on(Occasion(1))
        for c in checks
        if c.effect in speaking and c.who != "customer" and not c.watches
    ]
    for n in (2, 3, 4):
        found += [
            watched(
                f"r{n}", e, len(f7.effects[e].states), e == "starts", epoch=0, engine=engine
            ).on(Occasion(n))
            for e in f7.noticeable
        ]
    assert NOTHING_WRONG not in steps_for(shelf, model, found).ends.repairs
    monkeypatch.setattr(Evidence, "keeps_failing", False)
    assert NOTHING_WRONG in steps_for(shelf, model, found).ends.repairs


def test_on_the_phone_a_question_comes_first_and_at_the_machine_the_hands_do(shelf, model, f7):
    told = says(f7, "says_stops")
    asking = steps_for(shelf, model, told).steps
    assert asking[0].check.who == "customer"
    looked = answered("look", f7.checks["look_outlet_hose"], "clear", 0).on(Evidence().present)
    at_hand = steps_for(shelf, model, [*told, looked]).steps
    asked = [step.check.who == "customer" for step in at_hand]
    assert any(asked)
    assert asked == sorted(asked)
