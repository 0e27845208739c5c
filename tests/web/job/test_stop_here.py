"""Where nothing left is worth checking, the page says what is so: refer it and why, prove the
repair, or decide."""

import re

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq
from tests.web.job.test_watch import CHECK, outcomes, taken

from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.events import Checked, Repaired


def note(demo, number, body):
    demo.log.append(number, new_event(demo, body, "Ilaria Venn", new_id()), seq(demo, number))


def ran(demo, number, badly):
    """Note a run through every function that shows the complaint again, or nothing."""
    outcome = outcomes(diagnose(demo, number))[badly]
    note(demo, number, Checked(check=CHECK, outcome=outcome, showed=("says_stops",) * badly))


def looked_at_enough(demo, number):
    """Note one check more than anybody makes, each with its likeliest answer on a sound machine."""
    most = demo.shelf.tables.engine.most_checks
    machine = diagnose(demo, number).machine
    looks = [c for c in machine.checks.values() if c.who != "customer" and not c.watches]
    for check in looks[: most + 1]:
        usual = max(check.outcomes, key=lambda outcome: outcome.chances[0])
        note(demo, number, Checked(check=check.id, outcome=usual.id))
    return most


def page(browser, number, station="prove"):
    return re.sub(r"\s+", " ", browser.get(f"/jobs/{number}/{station}").text)


@pytest.mark.parametrize("repaired", [False, True])
def test_past_the_most_checks_it_is_referred_and_why(browser, demo, repaired):
    """After a repair too, where the machine fails again in two runs."""
    number = taken(demo, "FB")
    if repaired:
        note(demo, number, Repaired(repair="filter_blocked.clean"))
        ran(demo, number, badly=True)
    most = looked_at_enough(demo, number)
    ran(demo, number, badly=True)
    said = page(browser, number)
    count = int(re.search(r"Refer it, because (\d+) checks are done", said).group(1))
    assert count > most
    assert "The repair is made" not in said


def test_what_failed_in_two_runs_is_not_called_in_order(browser, demo):
    """Whatever is believed; who hands it back all the same says that it failed."""
    number = taken(demo, "FB")
    note(demo, number, Repaired(repair="filter_blocked.clean"))
    looked_at_enough(demo, number)
    once = page(browser, number, "decide")
    assert "Fitted" not in once
    assert "Clean the pump filter" in once
    assert "an honest result" not in once
    ran(demo, number, badly=True)
    ran(demo, number, badly=True)
    again = page(browser, number, "decide")
    assert "Still failing after: clean the pump filter" in again
    assert "A second fault that was there all along" in again
    assert ">Nothing wrong with the machine" not in again
    assert "an honest result" not in again
    answer = diagnose(demo, number)
    assert answer.belief.healthy > answer.ranking[0][1]


@pytest.mark.parametrize("runs", [(False,), (True, False)])
def test_a_repair_the_last_run_does_not_speak_against_is_proved_next(browser, demo, runs):
    number = taken(demo, "FB")
    note(demo, number, Repaired(repair="filter_blocked.clean"))
    looked_at_enough(demo, number)
    for badly in runs:
        ran(demo, number, badly)
    said = page(browser, number)
    assert "The repair is made" in said
    assert "Refer it" not in said
