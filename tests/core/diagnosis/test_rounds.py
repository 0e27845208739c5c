"""Rounds, the shop's history in the odds, the made-up patient: small parts of the engine beside the
plan."""

from random import Random

import pytest
from tests.core.diagnosis.test_plan import PRICES, says, steps_for

from bottega.benchmark.patient import drawn, typical
from bottega.core.diagnosis.history import scales
from bottega.core.diagnosis.model import compile_model, prior
from bottega.core.diagnosis.rounds import round_of
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


@pytest.fixture(scope="module")
def model(f7):
    return compile_model(f7)


def test_a_round_can_be_done_where_the_first_check_leaves_the_machine(shelf, model, f7):
    state, reaching = MachineState(power="off", water="in"), Reaching(f7, shelf.tables)
    plan = steps_for(shelf, model, says(f7, "says_floor_wet"), state)
    tipped = next(step for step in plan.steps if step.check.needs.posture == "tipped")
    found = round_of(f7, plan, state, reaching, PRICES.rate_per_min, 0.4, tipped)
    assert found.words == "While it is on its back"
    assert found.checks[0] == tipped
    there = reaching.arrived(state, tipped.check.needs)
    assert len(found.checks) >= 2
    assert all(not reaching.reach(there, step.check.needs).steps for step in found.checks)
    assert found.minutes == sum(step.check.minutes for step in found.checks)


def test_a_question_on_the_phone_makes_no_round(shelf, model, f7):
    state = MachineState(power="off", water="in")
    plan = steps_for(shelf, model, says(f7, "says_floor_wet"), state)
    asked = next(step for step in plan.steps if step.check.who == "customer")
    assert round_of(f7, plan, state, Reaching(f7, shelf.tables), 0.9, 0.4, asked) is None


def test_a_shop_that_finds_it_often_expects_it_more_often(shelf, model, f7):
    engine = shelf.tables.engine
    scaled = scales(f7, {"rotor_slips": 6.0}, 40, engine)
    assert scaled["rotor_slips"] > 1 > scaled["bearings_worn"]
    assert scales(f7, {}, 0, engine) == dict.fromkeys(f7.faults, 1.0)
    assert scales(f7, {"rotor_slips": 1000.0}, 1000, engine)["rotor_slips"] == engine.history_most
    fault = model.fault_index("rotor_slips")
    plain, fed = (model.by_fault(prior(model, 7, engine, scale))[fault] for scale in (None, scaled))
    assert fed > 1.3 * plain


def test_as_often_as_expected_changes_nothing(shelf, f7):
    total = sum(fault.rate for fault in f7.faults.values())
    found = {name: 50 * fault.rate / total for name, fault in f7.faults.items()}
    assert set(scales(f7, found, 50, shelf.tables.engine).values()) == {1.0}


def test_a_patient_answers_like_a_machine_with_its_fault(f7):
    patient = typical(f7, ("rotor_slips",))
    assert patient.answer(f7.checks["turn_rotor"]) == "free"
    assert patient.answer(f7.checks["measure_pump_coil"]) == "in band"
    assert "3-2" in patient.codes()
    sound = typical(f7, ())
    assert sound.complaints() == []
    assert sound.codes() == []


def test_drawn_patients_follow_the_chances_of_the_library(f7):
    rng = Random(4)
    states = [drawn(f7, ("rotor_slips",), rng).states["rotor_feel"] for _ in range(400)]
    chances = f7.faults["rotor_slips"].effects["rotor_feel"]
    likely = max(range(len(chances)), key=lambda k: chances[k])
    assert states.count(likely) / 400 == pytest.approx(chances[likely], abs=0.06)
