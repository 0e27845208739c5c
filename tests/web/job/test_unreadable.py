"""A job whose log does not fit takes down nothing but itself: it is shown with the reason, goes out
as a file, and what does not fit can be withdrawn."""

import json
import shutil
import sqlite3

import pytest
from tests.conftest import Clock, new_id
from tests.web.conftest import HOSTS, Browser

from bottega.app.job.record import new_event
from bottega.app.job.summary import refresh_stale
from bottega.app.workshop import open_workshop
from bottega.benchmark.hostile import SPOILT
from bottega.core.diagnosis.courses import MOST_REPAIRS
from bottega.core.job.events import Checked, Decided, Repaired, SetAside
from bottega.core.job.stations import STATIONS
from bottega.store.database import FILE
from bottega.web.application import create_app


@pytest.fixture(params=["infinite weights", "an unknown kind"])
def broken(request, filled, tmp_path):
    """A shop in which something got into a log that cannot be worked out."""
    shutil.copy(filled / FILE, tmp_path / FILE)
    job = {"events": [{"body": {}}], "number": "0412"}
    SPOILT[request.param](job)
    body = job["events"][-1]["body"]
    with sqlite3.connect(tmp_path / FILE) as raw:
        owner = raw.execute("SELECT id FROM jobs WHERE number = '0412'").fetchone()[0]
        last = raw.execute("SELECT max(seq) FROM events WHERE job_id = ?", (owner,)).fetchone()[0]
        raw.execute(
            "INSERT INTO events (job_id, seq, event_id, at, author, kind, version, body)"
            " VALUES (?, ?, 'hostile-0001', '2031-05-14 09:00:00', 'Eve', ?, 1, ?)",
            (owner, last + 1, body["kind"], json.dumps(body)),
        )
    raw.close()
    workshop = open_workshop(tmp_path, Clock())
    yield workshop
    workshop.close()


@pytest.fixture
def client(broken):
    with Browser(create_app(broken, "test", HOSTS)) as opened:
        yield opened


def test_the_start_and_the_bench_stand(broken, client):
    assert refresh_stale(broken) == 1
    bench = client.get("/")
    assert bench.status_code == 200
    assert "0412" in bench.text
    assert client.get("/jobs/0414/panel").status_code == 200


def test_it_is_shown_with_the_reason_and_goes_out_as_a_file(client):
    page = client.get("/jobs/0412/prove")
    assert page.status_code == 200
    assert "is kept, but cannot be worked out" in page.text
    assert "hostile-0001" in page.text
    file = client.get("/api/v1/jobs/0412/export")
    assert file.status_code == 200
    assert file.json()["events"][-1]["id"] == "hostile-0001"


def test_what_does_not_fit_is_withdrawn_and_the_job_is_back(broken, client):
    before = broken.log.seq("0412")
    answer = client.form("/jobs/0412/prove/event", before, kind="noted", text="in vain")
    assert answer.status_code >= 400
    assert broken.log.seq("0412") == before
    done = client.form("/jobs/0412/prove/withdraw", event="hostile-0001")
    assert done.status_code == 303
    page = client.get("/jobs/0412/prove")
    assert 'id="job"' in page.text
    assert broken.log.seq("0412") == before + 1


def test_two_that_do_not_fit_are_withdrawn_one_after_the_other(client, tmp_path):
    with sqlite3.connect(tmp_path / FILE) as raw:
        raw.execute(
            "INSERT INTO events (job_id, seq, event_id, at, author, kind, version, body)"
            " SELECT job_id, seq + 1, 'hostile-0002', at, author, kind, version, body"
            " FROM events WHERE event_id = 'hostile-0001'"
        )
    raw.close()
    for event in ("hostile-0001", "hostile-0002"):
        assert 'id="job"' not in client.get("/jobs/0412/prove").text
        client.form("/jobs/0412/prove/withdraw", event=event)
    assert 'id="job"' in client.get("/jobs/0412/prove").text


def test_a_job_too_much_to_reason_over_says_so(browser, demo):
    for _ in range(MOST_REPAIRS + 1):
        repaired = Repaired(repair="drain_pump.part", part_number="NB-1")
        event = new_event(demo, repaired, "Pia", new_id())
        demo.log.append("0412", event, demo.log.seq("0412"))
    page = browser.get("/jobs/0412/prove")
    assert page.status_code == 200
    assert "too much to reason over" in page.text
    assert browser.get("/").status_code == 200


def test_a_repair_too_many_is_refused_in_its_place_and_the_job_stays(browser, demo):
    for _ in range(MOST_REPAIRS):
        repaired = Repaired(repair="drain_pump.part", part_number="NB-1")
        event = new_event(demo, repaired, "Pia", new_id())
        demo.log.append("0412", event, demo.log.seq("0412"))
    seen = demo.log.seq("0412")
    assert 'id="job"' in browser.get("/jobs/0412/fit").text
    fields = {"kind": "repaired", "repair": "drain_pump.part", "part_number": "NB-4410-7"}
    page = browser.form("/jobs/0412/fit/event", seen, **fields)
    assert page.status_code in (409, 422)
    assert 'id="job"' in page.text
    assert demo.log.seq("0412") == seen
    assert "is kept, but cannot be worked out" not in browser.get("/jobs/0412/fit").text


def test_a_screen_that_stands_is_loaded_anew_when_its_job_cannot_be_read(client):
    part = client.get("/jobs/0412/prove", headers={"hx-request": "true"})
    assert part.headers["hx-redirect"] == "/jobs/0412"
    assert "cannot be worked out" in client.get("/jobs/0412").text


def test_a_job_that_names_what_the_library_has_lost_opens_at_every_station(browser, demo):
    lost = (
        Checked(check="no_such_check", outcome="good"),
        Checked(check="turn_rotor", outcome="no_such_outcome"),
        Decided(choice="repair", repair="no_such_repair"),
        Repaired(repair="no_such_repair"),
        SetAside(check="no_such_check", why="no_access"),
    )
    for body in lost:
        demo.log.append("0412", new_event(demo, body, "Pia", new_id()), demo.log.seq("0412"))
    for station in STATIONS:
        page = browser.get(f"/jobs/0412/{station}")
        assert page.status_code == 200
        assert "no_such_check (no longer in the library)" in page.text
    for page in ("report", "thinking", "compare"):
        assert browser.get(f"/jobs/0412/{page}").status_code == 200
    assert browser.get("/").status_code == 200
