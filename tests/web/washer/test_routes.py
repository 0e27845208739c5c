"""One washer over all its jobs: found by the shop's number or the serial, however it is typed."""

import pytest
from tests.web.job.test_routes import seq

from bottega.app.job.answer import diagnose
from bottega.core.job.job import Job
from bottega.core.job.washer import plain_mark, washer_keys


def identify(browser, demo, number, **marks):
    address = f"/jobs/{number}/call/event"
    return browser.form(address, seq(demo, number), kind="identified", **marks)


def test_two_jobs_of_one_washer_stand_on_its_page_with_their_codes(browser):
    page = browser.get("/washers/W0387").text
    assert page.index("Job 0397") < page.index("Job 0387"), "the newest first"
    assert page.count("3-2 emptying took too long") == 2
    assert "Fitted" in page or "Repaired" in page or "pump" in page
    assert "serial F9-204417" in page
    assert page.count("<svg") >= 2, "its code is drawn"


@pytest.mark.parametrize("mark", ["w0387", "W-0387", "fb-f9204417"])
def test_it_is_found_however_it_is_typed(browser, mark):
    assert "Washer W0387" in browser.get(f"/washers/{mark}").text


def test_a_job_that_knows_only_the_serial_is_joined_by_one_that_knows_both(browser, demo):
    assert identify(browser, demo, "0398", serial="f9 204417").status_code == 303
    page = browser.get("/washers/W0387").text
    assert "Job 0398" in page
    panel = browser.get("/jobs/0398/panel").text
    assert "Read on this washer before" in panel
    call = browser.get("/jobs/0398/call").text
    assert "Job 0397" in call


def test_an_unknown_washer_and_an_empty_mark_are_refused(browser, demo):
    gone = browser.get("/washers/W9999")
    assert gone.status_code == 404
    assert "expected a number or serial" in gone.text
    empty = identify(browser, demo, "0398", label=" - ")
    assert empty.status_code == 409
    assert "Found no number" in empty.text
    long = identify(browser, demo, "0398", label="x" * 41)
    assert long.status_code == 422


def test_a_withdrawn_mark_joins_nothing(browser, demo):
    number = "0412"
    assert identify(browser, demo, number, label="W0387").status_code == 303
    assert f"Job {number}" in browser.get("/washers/W0387").text
    assert browser.form(f"/jobs/{number}/call/undo", seq(demo, number)).status_code == 303
    assert diagnose(demo, number).job.label == ""
    assert f"Job {number}" not in browser.get("/washers/W0387").text


def test_the_same_serial_of_another_kind_is_another_washer(demo):
    job: Job = diagnose(demo, "0387").job
    assert washer_keys(job, "FB") == ("w0387", "fb-f9204417")
    assert washer_keys(job, "TS")[1] == "ts-f9204417"
    assert plain_mark(" W-0387 / ") == "w0387"
