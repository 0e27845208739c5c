"""Why first, why not, what is not looked at, how it thinks, side by side, the shop's history, who is watching."""

import asyncio

import pytest
from tests.conftest import new_id

from bottega.app import demo
from bottega.app.comparing import before_and_after, side_by_side
from bottega.app.diagnosing import diagnose, step_for
from bottega.app.explaining import not_looked_at, why_first, why_not
from bottega.app.ledger import ledger
from bottega.app.recording import record
from bottega.app.taking import open_job
from bottega.app.thinking import thinking_of
from bottega.app.watching import Bell
from bottega.app.workshop import open_workshop
from bottega.core.job.events import Checked, SetAside, Withdrawn

WHO = "Ilaria Venn"


@pytest.fixture(scope="module")
def shop():
    made = open_workshop(None)
    demo.fill(made)
    yield made
    made.close()


def euros(amount):
    return f"{amount:.0f} €"


def test_why_first_says_what_it_takes_what_it_saves_and_what_comes_second(shop):
    answer = diagnose(shop, "0412")
    told = " ".join(why_first(answer, answer.plan.next, euros))
    assert "It takes 8 min, 6 of them to reach it." in told
    assert f"repairing costs {euros(answer.plan.expected_cost)} on average" in told
    assert "stands at" in told
    assert answer.plan.steps[1].check.name in told


def test_why_not_compares_with_the_first_and_is_silent_about_itself(shop):
    answer = diagnose(shop, "0412")
    assert why_not(answer, answer.plan.next, euros) == []
    far = next(step for step in answer.plan.steps if step.reach.minutes > answer.plan.next.reach.minutes + 1)
    told = why_not(answer, step_for(shop, answer, far.check.id), euros)
    assert answer.plan.next.check.name in told[0]
    assert any("Reaching it takes" in line for line in told)


def test_what_nobody_has_looked_at_names_the_open_check(shop):
    answer = diagnose(shop, "0412")
    gaps = {gap.effect: gap for gap in not_looked_at(answer, "rotor_slips")}
    named = answer.machine.checks[gaps["pump rotor"].check]
    assert named.effect == "rotor_feel"
    assert named.name == gaps["pump rotor"].check_name
    seen = {finding.effect for finding in answer.evidence.findings}
    assert "flow out" not in gaps
    assert "drain_flow" in seen


def test_how_it_thinks_begins_with_the_prior_and_ends_with_what_is_believed(shop):
    answer = diagnose(shop, "0403")
    thinking = thinking_of(shop, answer)
    assert thinking.stages[0].what == "Before anything was said"
    assert thinking.stages[0].shares[0] == pytest.approx(
        answer.belief.model.by_fault(answer.before)[answer.belief.model.fault_index(thinking.faults[0][0])]
    )
    now = dict(answer.ranking)
    assert thinking.stages[-1].shares == pytest.approx([now[fault] for fault, _ in thinking.faults])
    assert [stage.what for stage in thinking.stages][:3] == [
        "Before anything was said",
        "What the customer says",
        "Panel",
    ]
    assert "points" in thinking.stages[1].moved


def test_how_it_thinks_leaves_withdrawn_entries_out(workshop, houseboat):
    before = thinking_of(workshop, diagnose(workshop, houseboat))
    record(workshop, houseboat, Checked(check="ask_filter", outcome="clear"), WHO, "check-00002")
    assert len(thinking_of(workshop, diagnose(workshop, houseboat)).stages) == len(before.stages) + 1
    record(workshop, houseboat, Withdrawn(event="check-00002"), WHO, new_id())
    again = thinking_of(workshop, diagnose(workshop, houseboat))
    assert again.stages == before.stages


def test_before_and_after_hold_the_repeated_check_side_by_side(shop):
    found = before_and_after(diagnose(shop, "0397"))
    lines = {line.name: line for group in found.groups for line in group.lines}
    rotor = lines["Turn the pump rotor by hand"]
    assert rotor.differs
    assert rotor.left.startswith("Turns freely")
    assert rotor.right.startswith("Steps")
    assert lines["Likeliest fault"].right == "nothing stands out"


def test_two_machines_side_by_side_name_both(shop):
    found = side_by_side(diagnose(shop, "0403"), diagnose(shop, "0409"))
    assert (found.left, found.right) == ("Job 0403", "Job 0409")
    assert [group.name for group in found.groups][:2] == ["Verdict", "Codes"]
    codes = found.groups[1].lines[0]
    assert codes.left == "no code stored"
    assert "position signal" in codes.right
    assert codes.differs


def test_closed_jobs_feed_the_odds_of_later_ones_and_of_no_earlier_one(shop):
    assert diagnose(shop, "0387").job.opened.odds == {}
    assert diagnose(shop, "0412").job.opened.odds["rotor_slips"] > 1.1
    assert diagnose(shop, "0408").job.opened.odds == {}


def test_a_dangerous_fault_that_is_likely_says_stop(workshop):
    opened = {"sheet": "nembrio-f7", "age_years": 9, "place": "Villa", "power": "off", "water": "out"}
    answer = open_job(workshop, opened, "It trips the breaker when it heats.", [], WHO, new_id())
    assert answer.danger is not None
    assert answer.machine.faults[answer.danger[0]].severity == "dangerous"
    assert open_job(workshop, opened, "It roars in the spin.", [], WHO, new_id()).danger is None


def test_an_answer_given_again_supersedes_the_first_in_the_ledger(workshop, houseboat):
    for place, outcome in enumerate(("clear", "blocked")):
        record(workshop, houseboat, Checked(check="ask_filter", outcome=outcome), WHO, f"again-{place:04d}")
    rows = {row.event_id: row for row in ledger(diagnose(workshop, houseboat))}
    assert rows["again-0000"].superseded
    assert not rows["again-0001"].superseded


def test_the_bell_rings_for_whoever_watches_that_job_only():
    async def watch():
        bell = Bell()
        with bell.watch("0412") as one, bell.watch("0412") as two, bell.watch("0403") as other:
            await asyncio.to_thread(bell.ring, "0412", 7, "Pia")
            await asyncio.to_thread(bell.ring, "0412", 8, "Tomo")
            newest = await asyncio.wait_for(one.next(), 5)
            assert (await asyncio.wait_for(two.next(), 5)).seq >= 7
            assert other.rings.empty()
            assert bell.watchers("0412") == 2
        assert bell.watchers("0412") == 0
        return newest

    assert asyncio.run(watch()).author in ("Pia", "Tomo")


def test_noting_something_rings(workshop, houseboat):
    heard = []
    workshop.bell = replace_ring(heard)
    record(workshop, houseboat, Checked(check="ask_filter", outcome="clear"), "Pia", new_id())
    assert heard == [(houseboat, 3, "Pia")]


def replace_ring(heard):
    bell = Bell()
    bell.ring = lambda number, seq, author: heard.append((number, seq, author))
    return bell


def test_a_missing_tool_sets_aside_every_check_that_wants_it(workshop, houseboat):
    machine = diagnose(workshop, houseboat).machine
    metered = {check.id for check in machine.checks.values() if check.tool == machine.checks["measure_pump_coil"].tool}
    aside = SetAside(check="measure_pump_coil", why="cannot", reason="tool missing")
    answer = record(workshop, houseboat, aside, WHO, new_id())
    assert len(metered) > 5
    assert not metered & {step.check.id for step in answer.plan.steps}
    by_hand = SetAside(check="turn_rotor", why="cannot", reason="no access")
    answer = record(workshop, houseboat, by_hand, WHO, new_id())
    assert "look_impeller" in {step.check.id for step in answer.plan.steps}
