"""A machine without a sheet: what a paper says its code means is noted, weighs as a code does, and
stays when a sheet is typed in."""

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.ledger import ledger
from bottega.app.job.record import record
from bottega.core.job.events import Rebased


def taken(demo, kind):
    call = Call(machine=kind, age_years=6, place="Quay", power="on", water="out")
    return open_job(demo, call, Words("It does not spin."), "Ilaria Venn", event_id=new_id()).number


def note(browser, demo, number, **fields):
    address = f"/jobs/{number}/panel/event"
    return browser.form(address, seq(demo, number), kind="panel_read", **fields)


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TS", "WD"])
def test_what_a_code_means_is_ticked_and_weighs(browser, demo, kind):
    number = taken(demo, kind)
    page = browser.get(f"/jobs/{number}/panel").text
    assert "Does a paper or a label say what its code means?" in page
    before = diagnose(demo, number)
    drained = [f.id for f in before.machine.faults.values() if "drain_flow" in f.effects]
    done = note(browser, demo, number, result="codes", codes="emptying")
    assert done.status_code == 303, done.text[:300]
    after = diagnose(demo, number)
    was, now = before.belief.fault_now(), after.belief.fault_now()
    assert sum(now[f] for f in drained) > 1.5 * sum(was[f] for f in drained)
    codes = {f.source.subject: f.answer for f in after.evidence.findings if f.source.kind == "code"}
    assert set(codes) == set(after.machine.meanings)
    (row,) = [
        row for row in ledger(after) if "emptying took too long" in f"{row.what} {row.detail}"
    ]
    assert "no longer in the library" not in row.detail


def test_a_mechanical_timer_stores_nothing(browser, demo):
    number = taken(demo, "TG")
    assert diagnose(demo, number).machine.meanings == {}
    assert "what its code means" not in browser.get(f"/jobs/{number}/panel").text


def test_none_ticked_is_refused_and_both_at_once_too_with_the_ticks_kept(browser, demo):
    number = taken(demo, "FB")
    empty = note(browser, demo, number, result="codes")
    assert (empty.status_code, "No code was entered" in empty.text) == (409, True)
    both = note(browser, demo, number, result="none", codes="emptying")
    assert both.status_code == 409
    box = both.text[both.text.index('value="emptying"') :]
    assert "checked" in box[: box.index(">")]
    assert diagnose(demo, number).job.panel is None


def test_a_sheet_typed_in_later_takes_nothing_of_it_away(browser, demo):
    number = taken(demo, "FB")
    note(browser, demo, number, result="codes", codes="emptying")
    machine = demo.machine("FB", "nembrio-f9")
    move = Rebased(revision=machine.revision, sheet="nembrio-f9")
    answer = record(demo, number, move, "Ilaria Venn", event_id=new_id())
    assert answer.machine is machine
    told = {f.source.subject for f in answer.evidence.findings if f.answer == "stored"}
    assert told == {"emptying"}
    assert "no longer in the library" not in browser.get(f"/jobs/{number}/panel").text
