"""A job of a long history: shown in parts, and worked out in time that grows with its length."""

import json
import re

import pytest
from tests.conftest import Clock, new_id
from tests.web.conftest import HOSTS, Browser

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.file import export_job, import_job
from bottega.app.workshop import open_workshop
from bottega.web.application import create_app

NOTES = 450
CALL = Call(machine="nembrio-f7", place="Laundry", age_years=7, power="on")


def grown(bodies):
    """Return a workshop with one job that has these entries, brought in by a file."""
    first, second = open_workshop(None, Clock()), open_workshop(None, Clock())
    number = open_job(first, CALL, Words(text="it hums"), "Ida", event_id=new_id()).number
    file = json.loads(export_job(first, number).model_dump_json())
    last = file["events"][-1]
    file["events"] += [
        {**last, "id": f"grown-{n:06d}", "body": body, "version": 1}
        for n, body in enumerate(bodies)
    ]
    assert import_job(second, json.dumps(file).encode()).number == number
    first.close()
    return second, number


@pytest.fixture(scope="module")
def long():
    bodies = [{"kind": "noted", "text": f"note {n}."} for n in range(NOTES)]
    workshop, number = grown(bodies)
    with Browser(create_app(workshop, "test", list(HOSTS))) as browser:
        yield browser, number
    workshop.close()


def test_the_ledger_is_shown_in_parts_and_every_entry_is_in_one(long):
    browser, number = long
    address, seen, pages = f"/jobs/{number}/prove", set(), 0
    while address:
        page = browser.get(address).text
        seen |= {int(n) for n in re.findall(r"note (\d+)\.", page)}
        older = re.search(r'data-older\s+href="([^"]+)"', page)
        address = older.group(1).replace("&amp;", "&") if older else ""
        pages += 1
    assert seen == set(range(NOTES))
    assert pages == 3


@pytest.mark.parametrize("before", ["1", "2", "452", "999999"])
def test_any_part_may_be_asked_for(long, before):
    browser, number = long
    assert browser.get(f"/jobs/{number}/prove", params={"before": before}).status_code == 200
    assert browser.get(f"/jobs/{number}/thinking", params={"upto": before}).status_code == 200


def test_how_it_thinks_is_told_in_parts_each_moved_from_the_one_before(monkeypatch):
    monkeypatch.setattr("bottega.app.thinking.history.WORK", 1)
    monkeypatch.setattr("bottega.app.thinking.history.FEWEST_EVENTS", 2)
    checks = [
        {"kind": "checked", "check": "ask_draining", "outcome": "hums"},
        {"kind": "checked", "check": "hear_draining", "outcome": "silent"},
        {"kind": "checked", "check": "turn_rotor", "outcome": "free"},
    ]
    workshop, number = grown(checks)
    with Browser(create_app(workshop, "test", list(HOSTS))) as browser:
        newest = browser.get(f"/jobs/{number}/thinking").text
        assert "Entries 4 to 5 of 5." in newest
        assert "where it starts" not in newest
        first = browser.get(f"/jobs/{number}/thinking?upto=2").text
        assert "Entries 1 to 2 of 5." in first
        assert "where it starts" in first
    workshop.close()


def test_many_readings_of_a_panel_come_in_and_are_shown():
    read = {"kind": "panel_read", "result": "codes", "codes": ["1-1"]}
    workshop, number = grown([read] * 250)
    with Browser(create_app(workshop, "test", list(HOSTS))) as browser:
        for page in ("prove", "panel", "thinking", "report"):
            assert browser.get(f"/jobs/{number}/{page}").status_code == 200
    workshop.close()
