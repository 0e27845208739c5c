"""What a hostile afternoon sent: none of it is a server error, and the shop goes on."""

import json

import pytest
from tests.conftest import new_id

from bottega.benchmark import hostile

F7 = "/library/FB/nembrio-f7"
JSON = {"content-type": "application/json"}


def sent(browser, address, body):
    browser.get("/shop")
    raw = json.dumps(body).encode("utf-8", "surrogatepass")
    return browser.post(address, content=raw, headers=JSON)


def whole(browser):
    return browser.get("/").status_code, browser.get("/jobs/0412/prove").status_code


@pytest.mark.parametrize("name", hostile.CALLS)
def test_a_call_that_cannot_be_is_refused(browser, demo, name):
    before = demo.log.numbers()
    answer = sent(browser, "/api/v1/jobs", {"event_id": new_id(), "opened": hostile.CALLS[name]})
    assert answer.status_code in (400, 422)
    assert demo.log.numbers() == before
    assert whole(browser) == (200, 200)


@pytest.mark.parametrize("name", hostile.EVENTS)
def test_an_event_that_cannot_be_is_refused(browser, demo, name):
    before = demo.log.seq("0412")
    body = {"id": new_id(), "body": hostile.EVENTS[name]}
    answer = sent(browser, "/api/v1/jobs/0412/events", body)
    assert 400 <= answer.status_code < 500
    assert demo.log.seq("0412") == before
    assert whole(browser) == (200, 200)


@pytest.mark.parametrize("name", hostile.SHEETS)
def test_a_sheet_that_cannot_be_is_not_kept(browser, demo, name):
    text = hostile.SHEETS[name]
    for answer in (
        browser.form(f"{F7}/raw", seen=0, text=text),
        browser.form("/library/import", text=text),
    ):
        assert 400 <= answer.status_code < 500
    assert demo.sheets.of("nembrio-f7") == []
    assert whole(browser) == (200, 200)


@pytest.mark.parametrize("name", hostile.FORMS)
def test_a_form_that_cannot_be_changes_nothing(browser, demo, name):
    answer = browser.form(f"{F7}/{name}", **hostile.FORMS[name])
    assert 400 <= answer.status_code < 500
    assert demo.sheets.of("nembrio-f7") == []


def test_a_complaint_without_end_is_refused_in_its_place(browser, demo):
    before = demo.log.numbers()
    fields = {"machine": "nembrio-f7", "age_years": "7", "place": "Quay", "text": "hums " * 9000}
    answer = browser.form("/call", **fields)
    assert answer.status_code == 422
    assert demo.log.numbers() == before


def test_what_was_typed_stands_when_the_job_has_moved_on(browser, demo):
    seen = demo.log.seq("0412")
    browser.form("/jobs/0412/prove/event", seen, kind="noted", text="somebody else was faster")
    fields = {"what": "oil", "at": "drain_pump", "phase": "any", "age": "live"}
    answer = browser.form(
        "/jobs/0412/decide/decide", seen, repair="drain_pump.part", reason="a long typed reason"
    )
    assert answer.status_code == 409
    assert "a long typed reason" in answer.text
    assert browser.form("/jobs/0412/prove/event", seen, kind="marked", **fields).status_code == 409
