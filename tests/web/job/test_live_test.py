"""What may not be now is refused where it would be offered, with the reason; a live test is
declared on the page of its check, with a name and a tick."""

import re

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq
from tests.web.job.test_watch import taken

from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.way import command_of
from bottega.core.machine.reach import Reaching


def live_check(machine):
    """A check that wants the plug in and a cover off."""
    return next(c for c in machine.checks.values() if c.needs.power == "on" and c.needs.off)


def opened_for(demo, number):
    """Bring the machine to where only its plug is missing; return the check."""
    answer = diagnose(demo, number)
    check = live_check(answer.machine)
    steps = Reaching(answer.machine, demo.shelf.tables).reach(answer.job.state, check.needs).steps
    assert steps[-1].what == "power"
    for step in steps[:-1]:
        body = command_of(step, measured_v=0)
        demo.log.append(number, new_event(demo, body, "Ilaria Venn", new_id()), seq(demo, number))
    return check


@pytest.mark.parametrize("kind", ["FB", "FI", "TD"])
def test_its_page_asks_who_makes_it_and_takes_it_with_name_and_tick(browser, demo, kind):
    number = taken(demo, kind)
    check = opened_for(demo, number)
    page = browser.get(f"/jobs/{number}/prove?check={check.id}")
    assert page.status_code == 200
    assert "A live test, made by" in page.text
    fields = {"kind": "state_changed", "what": "power", "to": "on", "for_check": check.id}
    address = f"/jobs/{number}/prove/event"
    bare = browser.form(address, seq(demo, number), **fields)
    assert bare.status_code >= 400
    assert diagnose(demo, number).job.state.power == "off"
    browser.form(address, seq(demo, number), qualified="Ilaria Venn", ticked="true", **fields)
    state = diagnose(demo, number).job.state
    assert (state.power, state.live_test) == ("on", check.id)


def test_make_safe_offers_nothing_that_would_be_refused(browser, demo):
    """Job 0412 stands with water in it: its door is not opened and it is not tipped."""
    page = re.sub(r"\s+", " ", browser.get("/jobs/0412/safe").text)
    held_back = re.findall(r"data-why-not>([^<]+)<", page)
    assert any(
        line.startswith("Open it, as for loading: not now. Water may stand") for line in held_back
    )
    change = r'name="what" value="(\w+)"> *<input[^>]*name="to" value="(\w+)"'
    offered = re.findall(change, page)
    assert offered
    for what, to in offered:
        fields = {"kind": "state_changed", "what": what, "to": to}
        done = browser.form("/jobs/0412/safe/event", seq(demo), **fields)
        assert done.status_code == 303 or what == "charge", (what, to, done.text[:300])
        browser.form("/jobs/0412/safe/undo", seq(demo))
