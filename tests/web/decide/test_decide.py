"""Deciding by the screen: on two things together, and below the shop's mark of proof."""

import re
from dataclasses import replace
from html import unescape

import pytest
from tests.app.steps import take_out
from tests.conftest import new_id
from tests.web.conftest import seq
from tests.web.job.test_watch import taken

from bottega.app.decide.decision import choices, proving
from bottega.app.decide.verdict import verdict_of
from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.events import Checked, Repaired

BOTH = "belt.part,drain_pump.part"


def words(page):
    return re.sub(r"\s+", " ", unescape(re.sub(r"<[^>]+>", " ", page)))


def see(demo, number, fault):
    check, outcome = diagnose(demo, number).machine.sight_of(fault)
    body = Checked(check=check.id, outcome=outcome.id)
    demo.log.append(number, new_event(demo, body, "Ilaria Venn", new_id()), seq(demo, number))


@pytest.fixture
def two(demo):
    """A job on which a torn pump coil and a worn belt were both seen."""
    number = taken(demo, "FB")
    see(demo, number, "pump_coil_open")
    see(demo, number, "belt_slipping")
    return number


def decide(browser, demo, number, **fields):
    return browser.form(f"/jobs/{number}/decide/decide", seq(demo, number), **fields)


def test_two_things_are_decided_on_with_the_first_button_and_made_one_after_the_other(
    browser, demo, two
):
    page = browser.get(f"/jobs/{two}/decide").text
    assert re.search(r'btn-first[^>]*name="repair"\s+value="([^"]+)"', page).group(1) == BOTH
    assert decide(browser, demo, two, repair=BOTH).status_code == 303
    job = diagnose(demo, two).job
    assert job.decided.repairs == ("belt.part", "drain_pump.part")
    assert job.to_make == job.decided.repairs
    assert "Decided: fit a new belt and fit a new drain pump" in words(
        browser.get(f"/jobs/{two}/decide").text
    )
    went = []
    for repair, name in (("belt.part", "Fit a new belt"), ("drain_pump.part", "Fit a new drain")):
        assert name in words(browser.get(f"/jobs/{two}/open").text)
        assert name in words(browser.get(f"/jobs/{two}/fit").text)
        take_out(demo, two, repair)
        made = {"kind": "repaired", "repair": repair}
        noted = browser.form(f"/jobs/{two}/fit/event", seq(demo, two), **made)
        went.append(noted.headers["location"].rsplit("/", 1)[-1])
    assert went == ["open", "close"]
    assert diagnose(demo, two).job.to_make == ()
    verdict = verdict_of(diagnose(demo, two), 0.85)
    assert verdict.title == "Fit a new belt and fit a new drain pump"
    assert len(verdict.faults) == 2


def test_one_of_two_alone_is_not_handed_over(browser, demo, two):
    decide(browser, demo, two, repair=BOTH)
    made = new_event(demo, Repaired(repair="belt.part"), "Ilaria Venn", new_id())
    demo.log.append(two, made, seq(demo, two))
    refused = browser.form(f"/jobs/{two}/handover/event", seq(demo, two), kind="handed_over")
    assert refused.status_code == 409
    assert "Decided together, and not made yet: Fit a new drain pump" in words(refused.text)


def test_below_the_mark_a_part_asks_a_reason_and_keeps_the_page(browser, demo):
    refused = decide(browser, demo, "0412", repair="drain_pump.part")
    assert refused.status_code == 409
    assert "is not proved" in words(refused.text)
    assert diagnose(demo, "0412").job.decided is None
    assert decide(browser, demo, "0412", repair="drain_pump.part", reason=" ").status_code == 409
    agreed = decide(browser, demo, "0412", repair="drain_pump.part", reason="He wants it.")
    assert agreed.status_code == 303
    assert diagnose(demo, "0412").job.decided.reason == "He wants it."


def test_a_shop_that_swaps_cheap_parts_is_asked_no_reason(browser, demo):
    demo.change_settings(lambda kept: replace(kept, school="swap_cheap"))
    assert decide(browser, demo, "0412", repair="drain_pump.part").status_code == 303


def test_what_needs_no_part_asks_no_reason(browser, demo):
    free = re.search(
        r'value="(\w+\.(?:clean|remove|reseat))"', browser.get("/jobs/0412/decide").text
    )
    assert decide(browser, demo, "0412", repair=free.group(1)).status_code == 303


def test_before_a_part_is_bought_the_check_that_pays_stands_first(browser, demo):
    page = browser.get("/jobs/0412/decide").text
    check = diagnose(demo, "0412").plan.next.check
    assert f"check={check.id}" in re.search(
        r'<a class="btn btn-first"\s+href="([^"]+)"', page
    ).group(1)
    assert "Make this check first" in page


def test_a_check_that_costs_more_than_the_part_in_vain_is_not_asked_for(demo, two):
    answer = diagnose(demo, two)

    (both, *_) = choices(demo, answer)
    assert proving(demo, answer, both) is None


def test_another_number_is_asked_about_and_nothing_typed_is_lost(browser, demo):
    """The tick that it was compared stands there once another number was typed, and with it goes
    in."""
    decide(browser, demo, "0412", repair="drain_pump.part", reason="agreed")
    take_out(demo, "0412", "drain_pump.part")
    assert 'name="compared"' not in browser.get("/jobs/0412/fit").text
    made = {"kind": "repaired", "repair": "drain_pump.part", "part_number": "XX-77"}
    made["note"] = "burnt at the coil"
    asked = browser.form("/jobs/0412/fit/event", seq(demo), **made)
    assert asked.status_code == 409
    assert "this machine's own. Compare plug, fixing and size" in words(asked.text)
    assert 'value="XX-77"' in asked.text
    assert 'value="burnt at the coil"' in asked.text
    assert 'name="compared"' in asked.text
    fitted = browser.form("/jobs/0412/fit/event", seq(demo), **made, compared="true")
    assert fitted.status_code == 303
    assert "another number, compared with the old one" in words(
        browser.get("/jobs/0412/prove").text
    )


def test_a_repair_that_ends_two_proved_faults_names_both(demo):
    """The bearing and the seal it had ruined, by one set."""
    made = new_event(demo, Repaired(repair="tub_bearing.part"), "Ilaria Venn", new_id())
    demo.log.append("0394", made, seq(demo, "0394"))
    verdict = verdict_of(diagnose(demo, "0394"), 0.85)
    assert verdict.state == "to prove"
    assert verdict.customer.startswith("Tub bearing: worn. Centre-post seal: leaking.")
