"""Every exception becomes a page or a problem: also of the store, also the unexpected."""

import shutil
import sqlite3

import pytest
from tests.conftest import Clock, new_id
from tests.web.conftest import HOSTS, Browser

from bottega.app.workshop import open_workshop
from bottega.store import database
from bottega.store.database import FILE, StoreUnavailable
from bottega.store.log import EventLog
from bottega.web.application import create_app

NOTE = {"kind": "noted", "text": "what I typed"}


@pytest.mark.parametrize(
    ("trouble", "status", "words"),
    [
        ("busy", 503, "Send it again"),
        ("read-only", 503, "cannot be written to"),
        ("full", 507, "The disk is full"),
        ("broken", 500, "bottega check"),
    ],
)
def test_a_store_in_trouble_is_said_to_people_and_to_programs(
    browser, demo, monkeypatch, trouble, status, words
):
    def refuse(*_given, **_named):
        raise StoreUnavailable(trouble, "as SQLite says")

    seen = demo.log.seq("0412")
    monkeypatch.setattr(EventLog, "append", refuse)
    page = browser.form("/jobs/0412/prove/event", seen, kind="set_aside", note="what I typed")
    assert page.status_code == 422
    page = browser.form(
        "/jobs/0412/decide/decide", seen, repair="drain_pump.part", reason="what I typed"
    )
    assert page.status_code == status
    assert "what I typed" in page.text
    assert 'id="job"' in page.text
    monkeypatch.setattr(EventLog, "seq", refuse)
    shown = browser.get("/jobs/0412/prove")
    problem = browser.get("/api/v1/jobs/0412/diagnosis")
    for answer in (page, shown, problem):
        assert answer.status_code == status
        assert words in answer.text
        assert "as SQLite says" not in answer.text
    assert problem.headers["content-type"] == "application/problem+json"
    assert problem.json()["status"] == status


@pytest.mark.parametrize(
    ("address", "fields", "kept"),
    [
        ("/call", {"machine": "nembrio-f7", "age_years": "7", "text": "what I typed"}, "call"),
        ("/shop", {"name": "what I typed"}, "settings"),
        ("/library/new", {"maker": "what I typed", "model": "Uno", "archetype": "FI"}, "sheet"),
        ("/library/FB/nembrio-f7/note", {"note": "what I typed"}, "note"),
    ],
    ids=lambda value: value if isinstance(value, str) and "/" not in value else "",
)
def test_every_form_keeps_what_was_typed_when_the_disk_is_full(
    browser, monkeypatch, address, fields, kept
):
    place = {"place": "Quay"} if kept == "call" else {}
    token = browser.token()

    def refuse(_self):
        raise StoreUnavailable("full", "as SQLite says")

    monkeypatch.setattr("bottega.store.database.Database.writing", refuse)
    data = {"token": token, "event_id": new_id(), **place, **fields}
    page = browser.post(address, data=data, follow_redirects=False)
    assert page.status_code == 507
    assert "The disk is full" in page.text
    assert "what I typed" in page.text


def test_an_error_stands_beside_the_page_htmx_asked_from(reader):
    part = reader.get("/jobs/9999/prove", headers={"hx-request": "true"})
    assert part.status_code == 404
    assert part.headers["hx-retarget"] == "#trouble"
    assert part.headers["hx-push-url"] == "false"
    assert "<html" not in part.text
    assert "Found no job" in part.text
    again = {"hx-request": "true", "hx-history-restore-request": "true"}
    assert "<html" in reader.get("/jobs/9999/prove", headers=again).text


def test_a_locked_database_is_a_503_and_nothing_is_written(filled, tmp_path, monkeypatch):
    monkeypatch.setattr(database, "BUSY_MS", 50)
    shutil.copy(filled / FILE, tmp_path / FILE)
    workshop = open_workshop(tmp_path, Clock())
    before = workshop.log.seq("0412")
    with Browser(create_app(workshop, "test", HOSTS)) as client:
        other = sqlite3.connect(tmp_path / FILE)
        other.execute("BEGIN IMMEDIATE")
        answer = client.form("/jobs/0412/prove/event", before, **NOTE)
        assert answer.status_code == 503
        assert client.get("/jobs/0412/prove").status_code == 200
        other.rollback()
        other.close()
        assert workshop.log.seq("0412") == before
        assert client.form("/jobs/0412/prove/event", before, **NOTE).status_code == 303
    workshop.close()


def test_the_unexpected_has_a_number_the_log_knows(browser, monkeypatch, caplog):
    def fall(*_given, **_named):
        raise RuntimeError("a secret of the house")

    monkeypatch.setattr(EventLog, "seq", fall)
    problem = browser.get("/api/v1/jobs/0412/diagnosis")
    page = browser.get("/jobs/0412/prove")
    assert (problem.status_code, page.status_code) == (500, 500)
    number = problem.json()["reference"]
    assert number in caplog.text
    assert "a secret of the house" in caplog.text
    assert "secret" not in problem.text + page.text
    assert "content-security-policy" in page.headers


@pytest.mark.parametrize(
    ("method", "address", "status"),
    [
        ("GET", "/api/v1/nowhere", 404),
        ("DELETE", "/api/v1/library", 405),
        ("GET", "/api/v1/jobs/9999/diagnosis", 404),
        ("GET", "/nowhere", 404),
        ("GET", "/jobs/9999/prove", 404),
        ("GET", "/jobs/0412/kitchen", 404),
        ("GET", "/?lane=attic", 404),
        ("GET", "/?skip=many", 422),
    ],
)
def test_a_wrong_address_says_so_in_its_readers_form(reader, method, address, status):
    answer = reader.request(method, address)
    assert answer.status_code == status
    kind = "application/problem+json" if address.startswith("/api") else "text/html"
    assert answer.headers["content-type"].startswith(kind)


def test_an_address_that_refuses_a_method_names_those_it_takes(reader):
    """RFC 9110, 15.5.6."""
    answer = reader.request("DELETE", "/api/v1/library")
    assert answer.status_code == 405
    assert answer.headers["allow"] == "GET"
