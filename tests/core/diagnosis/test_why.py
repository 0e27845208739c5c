"""Why first, why not, and what is not looked at."""

from dataclasses import replace

from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose, step_for
from bottega.app.job.record import record
from bottega.core.diagnosis.why import not_looked_at, why_first, why_not
from bottega.core.diagnosis.words import step_reason
from bottega.core.job.events import Checked


def euros(amount):
    return f"{amount:.0f} €"


def first(answer, step=None):
    now = dict(answer.ranking)
    step = answer.foretold(step or answer.plan.next)
    return why_first(answer.machine, answer.plan, now, answer.evidence, step=step, money=euros)


def test_why_first_says_what_it_takes_what_it_saves_and_what_comes_second(shop):
    answer = diagnose(shop, "0412")
    told = " ".join(first(answer))
    assert "It takes 8 min, 6 of them to reach it." in told
    assert f"none telling of the next, costs {euros(answer.plan.ends.cost)} on average" in told
    assert "stands at" in told
    assert answer.plan.steps[1].check.name in told


def test_a_repair_whose_end_is_open_is_not_told_as_the_whole_job(shop):
    answer = diagnose(shop, "0412")
    begun = replace(answer.plan.ends, repairs=answer.plan.ends.repairs[:1], open_end=True)
    plan, now = replace(answer.plan, ends=begun), dict(answer.ranking)
    told = " ".join(
        why_first(answer.machine, plan, now, answer.evidence, step=plan.next, money=euros)
    )
    assert "begin with one repair, " in told
    assert f"to find out after it what is left: {euros(begun.cost)} on average." in told
    assert "one repair after the other" not in told


def test_why_not_compares_with_the_first_and_is_silent_about_itself(shop):
    answer = diagnose(shop, "0412")
    machine, plan, now = answer.machine, answer.plan, dict(answer.ranking)
    assert why_not(machine, plan, now, plan.next, money=euros) == []
    far = next(
        step
        for step in answer.plan.steps
        if step.reach.minutes > answer.plan.next.reach.minutes + 1
    )
    told = why_not(machine, plan, now, step_for(shop, answer, far.check.id), money=euros)
    assert answer.plan.next.check.name in told[0]
    assert any("Reaching it takes" in line for line in told)


def test_a_question_that_saves_less_is_said_to_come_first_because_it_needs_no_machine(shop):
    answer = diagnose(shop, "0415")
    machine, plan, now = answer.machine, answer.plan, dict(answer.ranking)
    asked, check = plan.next, next(s for s in plan.steps if s.check.who != "customer")
    assert asked.check.who == "customer"
    assert check.saving > asked.saving
    assert any(
        "needs no machine" in line for line in why_not(machine, plan, now, check, money=euros)
    )
    beside = replace(plan, steps=(asked, check))
    told = why_first(machine, beside, now, answer.evidence, step=asked, money=euros)
    assert "By money alone" in told[-1]
    assert "needs no machine" in told[-1]


def test_what_nobody_has_looked_at_names_the_open_check(shop):
    answer = diagnose(shop, "0412")
    model, steps = answer.belief.model, answer.plan.steps
    found = not_looked_at(model, answer.evidence, steps, "rotor_slips")
    gaps = {gap.effect: gap for gap in found}
    named = answer.machine.checks[gaps["pump rotor"].check]
    assert named.effect == "rotor_feel"
    assert named.name == gaps["pump rotor"].check_name
    seen = {finding.effect for finding in answer.evidence.findings}
    assert "flow out" not in gaps
    assert "drain_flow" in seen


def test_why_to_flex_and_to_repeat_is_said(workshop):
    stands = {"power": "on", "taps": "open"}
    call = Call(machine="calvessa-dritta-8", age_years=8, place="Quay", **stands)
    words = Words("It jerks and stops in the wash.", exact=("says_jerks",))
    number = open_job(workshop, call, words, "Ilaria Venn", event_id=new_id()).number
    flexed = step_for(workshop, diagnose(workshop, number), "start_ten_times")
    answer = diagnose(workshop, number)
    told = " ".join(first(answer, flexed))
    (fault, chance) = max(flexed.check.provokes, key=lambda p: dict(answer.ranking)[p[0]])
    shows = answer.machine.faults[fault].shows
    assert f"shows in {shows:.0%} of the runs by itself, and in {chance:.0%} while" in told
    assert "comes and goes" in step_reason(answer.machine, flexed)
    assert "answered before" not in told
    body = Checked(check="start_ten_times", outcome="smooth")
    answer = record(workshop, number, body, "Ilaria Venn", event_id=new_id())
    assert "It was answered before" in " ".join(
        first(answer, step_for(workshop, answer, "start_ten_times"))
    )
