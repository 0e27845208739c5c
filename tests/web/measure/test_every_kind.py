"""The measuring pages on a machine of every sheet: nothing on them is fitted to one kind."""

import pytest
from tests.conftest import SHEETS_OF_EVERY_KIND
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose

SHEETS = (*SHEETS_OF_EVERY_KIND, "nembrio-f9")


@pytest.mark.parametrize("sheet", SHEETS)
def test_its_measurements_walk_and_service_run_are_there(browser, demo, sheet):
    words = "It does not drain, the water stays in it."
    opened = browser.form("/call", machine=sheet, age_years="6", place="Slip", words=words)
    number = opened.headers["location"].split("/")[2]
    machine = diagnose(demo, number).machine
    assert machine.sheet == sheet
    measured = [check for check in machine.checks.values() if check.measure]
    assert len(measured) > 8
    for check in measured:
        page = browser.get(f"/jobs/{number}/prove?check={check.id}")
        assert page.status_code == 200, check.id
        assert ('name="at"' in page.text) == (
            check.measure.copper or check.measure.value in machine.curves
        )
    assert browser.get(f"/jobs/{number}/walk").status_code == 200
    run = browser.get(f"/jobs/{number}/service").text
    assert ("No service steps are known" in run) == (not machine.service)
    for step in machine.service:
        led = browser.get(f"/jobs/{number}/service?step={step}")
        assert machine.service[step].name in led.text
    assert seq(demo, number) >= 1
