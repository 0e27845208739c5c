"""Which checks may come next, and what is dangerous."""

from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.core.job.events import SetAside

WHO = "Ilaria Venn"


def test_a_dangerous_fault_that_is_likely_says_stop(workshop):
    opened = Call(machine="nembrio-f7", age_years=9, place="Villa", power="off", water="out")
    answer = open_job(workshop, opened, Words("It trips the breaker when it heats."), WHO, new_id())
    assert answer.danger is not None
    assert answer.machine.faults[answer.danger[0]].severity == "dangerous"
    assert open_job(workshop, opened, Words("It roars in the spin."), WHO, new_id()).danger is None


def test_a_missing_tool_sets_aside_every_check_that_wants_it(workshop, houseboat):
    machine = diagnose(workshop, houseboat).machine
    metered = {
        check.id
        for check in machine.checks.values()
        if check.tool == machine.checks["measure_pump_coil"].tool
    }
    aside = SetAside(check="measure_pump_coil", why="tool_missing")
    answer = record(workshop, houseboat, aside, WHO, new_id())
    assert len(metered) > 5
    assert not metered & {step.check.id for step in answer.plan.steps}


def test_the_next_offer_respects_what_could_not_be_reached(workshop, houseboat):
    before = diagnose(workshop, houseboat)
    shut = set(before.machine.checks["turn_rotor"].needs.off)
    behind = {c.id for c in before.machine.checks.values() if shut & set(c.needs.off)}
    aside = SetAside(check="turn_rotor", why="no_access")
    answer = record(workshop, houseboat, aside, WHO, new_id())
    assert {"turn_rotor", "look_impeller"} <= behind
    assert not behind & {step.check.id for step in answer.plan.steps}
