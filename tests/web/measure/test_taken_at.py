"""A reading at the temperature the part has, over HTTP."""

import pytest
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose

JOB, THERMISTOR = "0412", "measure_thermistor"


def ready(browser, demo):
    """Bring the machine to where the probes can be put on."""
    answer = diagnose(demo, JOB)
    needs = answer.machine.checks[THERMISTOR].needs
    for step in answer.reaching.reach(answer.job.state, needs).steps:
        wanted = {"what": step.what, "to": step.to, "waited_min": "30"}
        assert browser.form(f"/jobs/{JOB}/service/ready", seq(demo, JOB), **wanted)


def last(demo):
    """Return the last reading of the thermistor; None before there is any."""
    found = [b for _, b in diagnose(demo, JOB).job.checked() if b.check == THERMISTOR]
    return found[-1] if found else None


def kept(browser, demo, typed, at):
    ready(browser, demo)
    return browser.form(
        f"/jobs/{JOB}/prove/reading",
        seq(demo, JOB),
        check=THERMISTOR,
        typed=typed,
        unit="",
        at=at,
        sure="yes",
    )


@pytest.mark.parametrize(
    ("typed", "at", "units", "outcome"),
    [
        ("10700", "20", "metric", "on its curve"),
        ("10700", "68", "us", "on its curve"),
        ("10700", "20 °C", "us", "on its curve"),
        ("10700", "68 °F", "metric", "on its curve"),
        ("10700", "40", "metric", "drifted"),
        ("4670", "40", "metric", "on its curve"),
        ("4670", "20", "metric", "drifted"),
    ],
)
def test_the_water_decides_what_is_right(browser, demo, typed, at, units, outcome):
    browser.form("/shop", units=units)
    assert kept(browser, demo, typed, at).status_code == 303
    body = last(demo)
    assert body.outcome == outcome
    assert body.reading.at_unit == "degC"
    page = browser.get(f"/jobs/{JOB}/prove").text
    assert ("at 68 °F" if units == "us" else f"at {body.reading.at:g} °C") in page


def test_a_temperature_that_cannot_be_is_said_in_its_field_and_nothing_is_lost(browser, demo):
    page = kept(browser, demo, "10700", "200").text
    assert "expected -40 to 150" in page or "expected 5 to 90" in page
    assert 'value="200"' in page
    assert 'value="10700"' in page
    assert "expected a number" in kept(browser, demo, "10700", "warm").text
    assert last(demo) is None


def test_nobody_has_to_know_the_temperature(browser, demo):
    assert kept(browser, demo, "10700", "").status_code == 303
    body = last(demo)
    assert (body.reading.at, body.reading.low) == (None, 6400)
