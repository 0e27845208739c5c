"""Every function in turn: all well, or what showed; on every kind of machine."""

import pytest
from tests.conftest import new_id
from tests.core.job.test_rules import KINDS
from tests.web.conftest import seq

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.ledger import ledger

NUMBER = "0412"
CHECK = "watch_all"


def taken(demo, kind, said="It stops in the middle.", meant=("says_stops",)):
    """A job on a machine of a kind that stands ready to be run."""
    call = Call(
        machine=kind, age_years=6, place="Quay", power="on", taps="open", water="out", door="shut"
    )
    words = Words(said, exact=meant)
    return open_job(demo, call, words, "Ilaria Venn", event_id=new_id()).number


def watch(browser, demo, number, **fields):
    address = f"/jobs/{number}/prove/event?check={CHECK}"
    return browser.form(address, seq(demo, number), kind="checked", check=CHECK, **fields)


def outcomes(answer):
    return [outcome.id for outcome in answer.machine.checks[CHECK].outcomes]


@pytest.mark.parametrize("kind", KINDS)
def test_a_run_in_which_all_is_well_speaks_for_a_sound_machine(browser, demo, kind):
    number = taken(demo, kind)
    before = diagnose(demo, number)
    done = watch(browser, demo, number, outcome=outcomes(before)[0])
    assert done.status_code == 303, done.text[:400]
    after = diagnose(demo, number)
    assert after.belief.healthy > 1.5 * before.belief.healthy
    run = [f for f in after.evidence.findings if f.source.kind == "run"]
    assert {f.effect for f in run} == set(after.machine.noticeable)
    assert {f.answer for f in run} == {"well"}


@pytest.mark.parametrize("kind", KINDS)
def test_what_showed_is_said_and_everything_else_was_well(browser, demo, kind):
    number = taken(demo, kind)
    machine = diagnose(demo, number).machine
    seen = next(c for c in machine.complaints.values() if c.effect != "stops")
    done = watch(browser, demo, number, outcome=outcomes(diagnose(demo, number))[1], showed=seen.id)
    assert done.status_code == 303, done.text[:400]
    answer = diagnose(demo, number)
    bad = {f.effect for f in answer.evidence.findings if f.answer == "badly"}
    assert bad == {seen.effect}
    (row,) = [r for r in ledger(answer) if r.what == machine.checks[CHECK].name]
    assert seen.record.says.lower() in row.detail.lower()


def test_not_well_without_a_word_is_refused_beside_the_ticks(browser, demo):
    number = taken(demo, "FB")
    before = seq(demo, number)
    amiss = outcomes(diagnose(demo, number))[1]
    page = watch(browser, demo, number, outcome=amiss)
    assert page.status_code >= 400
    assert "Say what showed" in page.text
    assert seq(demo, number) == before


def test_ticks_are_not_lost_with_a_form_that_is_refused(browser, demo):
    number = taken(demo, "FB")
    amiss = outcomes(diagnose(demo, number))[1]
    page = watch(browser, demo, number, outcome=amiss, showed=["says_hums", "says_nonsense"])
    assert page.status_code >= 400
    assert "says_nonsense" in page.text
    tick = page.text[page.text.index('value="says_hums"') :]
    assert "checked" in tick[: tick.index(">")]


def test_a_run_is_not_answered_while_the_plug_is_out(browser, demo):
    well = outcomes(diagnose(demo, NUMBER))[0]
    refused = watch(browser, demo, NUMBER, outcome=well)
    assert refused.status_code >= 400
    assert CHECK not in diagnose(demo, NUMBER).job.done_now()
