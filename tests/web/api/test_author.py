"""Who noted something is said by the session or a token, never by the body."""

import pytest
from tests.conftest import new_id

from bottega.app.job.answer import diagnose


def note(**more):
    return {"id": new_id(), "body": {"kind": "noted", "text": "by a program"}, **more}


def events_of(workshop, number="0412"):
    return diagnose(workshop, number).job.events


def test_a_session_says_who_notes(browser, demo):
    member = demo.members[-1].name
    browser.form("/shop/author", author=member, back="/")
    assert browser.post("/api/v1/jobs/0412/events", json=note()).status_code == 201
    assert events_of(demo)[-1].author == member


@pytest.mark.parametrize("said", [{"author": "Somebody Else"}, {"at": "2001-01-01T00:00:00Z"}])
def test_a_body_that_names_its_author_or_its_time_is_refused(browser, demo, said):
    before = len(events_of(demo))
    browser.get("/shop")
    answer = browser.post("/api/v1/jobs/0412/events", json=note(**said))
    assert answer.status_code == 422
    assert next(iter(said)) in answer.json()["detail"]
    assert len(events_of(demo)) == before


@pytest.mark.parametrize(
    "authorization", [None, "Bearer", "Bearer forged.token", "Basic eDp5", "Bearer ²".encode()]
)
def test_nobody_is_told_how_to_say_who_asks(browser, demo, authorization):
    before = len(events_of(demo))
    headers = {"authorization": authorization} if authorization else {}
    answer = browser.post("/api/v1/jobs/0412/events", json=note(), headers=headers)
    assert answer.status_code == 401
    assert "bottega token" in answer.json()["detail"]
    assert len(events_of(demo)) == before


def test_the_same_id_with_another_body_is_refused_and_said(browser, demo):
    browser.get("/shop")
    first = note()
    other = {**first, "body": {"kind": "noted", "text": "something else"}}
    assert browser.post("/api/v1/jobs/0412/events", json=first).status_code == 201
    assert browser.post("/api/v1/jobs/0412/events", json=first).status_code == 201
    count = len(events_of(demo))
    answer = browser.post("/api/v1/jobs/0412/events", json=other)
    assert answer.status_code == 409
    elsewhere = browser.post("/api/v1/jobs/0414/events", json=first)
    assert elsewhere.status_code == 409
    assert len(events_of(demo)) == count
