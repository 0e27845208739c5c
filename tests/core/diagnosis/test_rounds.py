"""Rounds, the shop's history in the odds, the made-up patient: small parts of the engine beside the
plan."""

import pytest
from tests.core.diagnosis.test_plan import PRICES, says, steps_for
from tests.engine import model_of

from bottega.core.diagnosis.rounds import round_of
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


@pytest.fixture(scope="module")
def model(f7):
    return model_of(f7)


def test_a_round_can_be_done_where_the_first_check_leaves_the_machine(shelf, model, f7):
    state, reaching = MachineState(power="off", water="in"), Reaching(f7, shelf.tables)
    plan = steps_for(shelf, model, says(f7, "says_trips"), state)
    tipped = next(step for step in plan.steps if step.check.needs.posture == "tipped")
    found = round_of(
        f7, plan, state, reaching, rate_per_min=PRICES.rate_per_min, least_saving=0.4, first=tipped
    )
    assert found.words == "While it is on its back"
    assert found.checks[0] == tipped
    there = reaching.arrived(state, tipped.check.needs)
    assert len(found.checks) >= 2
    assert all(not reaching.reach(there, step.check.needs).steps for step in found.checks)
    assert found.minutes == sum(step.check.minutes for step in found.checks)


def test_a_question_on_the_phone_makes_no_round(shelf, model, f7):
    state = MachineState(power="off", water="in")
    plan = steps_for(shelf, model, says(f7, "says_trips"), state)
    asked = next(step for step in plan.steps if step.check.who == "customer")
    assert (
        round_of(
            f7,
            plan,
            state,
            Reaching(f7, shelf.tables),
            rate_per_min=0.9,
            least_saving=0.4,
            first=asked,
        )
        is None
    )
