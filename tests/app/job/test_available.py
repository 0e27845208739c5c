"""Which checks may come next, and what is dangerous."""

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose, step_for
from bottega.app.job.record import record
from bottega.core.job.events import SetAside

WHO = "Ilaria Venn"


def test_a_dangerous_fault_that_is_likely_says_stop(workshop):
    opened = Call(machine="nembrio-f7", age_years=9, place="Villa", power="off", water="out")
    answer = open_job(
        workshop, opened, Words("It trips the breaker when it heats."), WHO, event_id=new_id()
    )
    assert answer.danger is not None
    assert answer.machine.faults[answer.danger[0]].severity == "dangerous"
    assert (
        open_job(workshop, opened, Words("It roars in the spin."), WHO, event_id=new_id()).danger
        is None
    )


def test_a_missing_tool_sets_aside_every_check_that_wants_it(workshop, houseboat):
    machine = diagnose(workshop, houseboat).machine
    metered = {
        check.id
        for check in machine.checks.values()
        if check.tool == machine.checks["measure_pump_coil"].tool
    }
    aside = SetAside(check="measure_pump_coil", why="tool_missing")
    answer = record(workshop, houseboat, aside, WHO, event_id=new_id())
    assert len(metered) > 5
    assert not metered & {step.check.id for step in answer.plan.steps}


def test_what_was_set_aside_is_worth_what_it_was_among_the_others(workshop, houseboat):
    """It is weighed beside what is open, not as if there were nothing else to be done."""
    before = diagnose(workshop, houseboat)
    check = next(s for s in before.plan.steps[1:] if s.worth > 1 and s.check.who == "anyone")
    aside = SetAside(check=check.check.id, why="not_now")
    answer = record(workshop, houseboat, aside, WHO, event_id=new_id())
    assert check.check.id not in {step.check.id for step in answer.plan.steps}
    again = step_for(workshop, answer, check.check.id)
    assert again.worth == pytest.approx(check.worth)
    assert again.saving == pytest.approx(check.saving)
    assert [o.outcome for o in again.outcomes] == [o.id for o in check.check.outcomes]


def test_the_next_offer_respects_what_could_not_be_reached(workshop, houseboat):
    before = diagnose(workshop, houseboat)
    shut = set(before.machine.checks["turn_rotor"].needs.off)
    behind = {c.id for c in before.machine.checks.values() if shut & set(c.needs.off)}
    aside = SetAside(check="turn_rotor", why="no_access")
    answer = record(workshop, houseboat, aside, WHO, event_id=new_id())
    assert {"turn_rotor", "look_impeller"} <= behind
    assert not behind & {step.check.id for step in answer.plan.steps}


def test_what_the_complaint_has_said_is_not_asked(workshop):
    opened = Call(machine="nembrio-f7", age_years=7, place="Villa")
    silent = open_job(workshop, opened, Words("It stops midway."), WHO, event_id=new_id())
    spoken = open_job(
        workshop, opened, Words("It stops midway, the drum does not turn."), WHO, event_id=new_id()
    )
    turning = [c.id for c in silent.machine.checks.values() if c.effect == "turning"]
    asked = {c for c in turning if silent.machine.checks[c].who == "customer"}
    assert asked & {step.check.id for step in silent.plan.steps}
    assert not asked & {step.check.id for step in spoken.plan.steps}
    assert set(turning) - asked <= {step.check.id for step in spoken.plan.steps}
    assert step_for(workshop, spoken, next(iter(asked))).check.who == "customer"
