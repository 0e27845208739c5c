"""Test gear over HTTP: written down, tried, lapsed, and what nobody can measure."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from bottega.app.job.answer import diagnose
from bottega.app.rig.bench_meter import start_bench_meter
from bottega.core.gear import Instrument
from bottega.devices.standin import IDENTITY, Display, StandIn

ALL = ["resistance", "insulation", "ac_volts", "dc_volts", "current", "power", "capacitance",
       "frequency", "temperature", "speed"]  # fmt: skip


def keep(browser, **typed):
    return browser.form("/shop/gear", **{"name": "Brown meter", "measures": ALL, **typed})


def test_an_instrument_is_written_down_and_struck_out(browser, demo):
    keep(browser, accuracy="0,5", calibrated="2026-01-10")
    instrument = next(one for one in demo.settings.gear if one.name == "Brown meter")
    assert instrument.accuracy == pytest.approx(0.005)
    assert instrument.calibrated == date(2026, 1, 10)
    assert "Brown meter" in browser.get("/shop/gear").text
    browser.form("/shop/gear/drop", name="Brown meter")
    assert "Brown meter" not in browser.get("/shop/gear").text
    assert browser.form("/shop/gear/drop", name="Brown meter").status_code == 404


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"name": ""}, "wants a name"),
        ({"measures": ["miles"]}, "expected what it measures"),
        ({"measures": []}, "expected what it measures"),
        ({"accuracy": "much"}, "expected a number"),
        ({"calibrated": "tomorrow"}, "expected a day"),
        ({"calibrated": "2199-01-01"}, "a day that is past"),
        ({"resource": "x" * 200}, "expected TCPIP::"),
        ({"resource": "ASRLspy:///dev/null?file=shop.db::INSTR"}, "expected TCPIP::"),
    ],
)
def test_what_cannot_be_is_said_and_stays(browser, demo, typed, says):
    page = keep(browser, **typed)
    assert says in page.text
    assert all(one.name != "Brown meter" for one in demo.settings.gear)


def test_what_nobody_can_measure_is_not_proposed_and_can_still_be_typed(browser, demo):
    keep(browser, measures=["ac_volts"])
    answer = diagnose(demo, "0412")
    measures = [step.check.measure for step in answer.plan.steps if step.check.measure]
    assert {m.quantity for m in measures} <= {"ac_volts", "length", "flow", "duration", "ratio"}
    page = browser.get("/jobs/0412/prove?check=measure_element").text
    assert "Nobody&#39;s instrument measures resistance" in page


def test_a_lapsed_calibration_is_said_at_the_check(browser, demo):
    old = demo.now().date() - timedelta(days=400)
    keep(browser, calibrated=old.isoformat())
    assert "lapsed" in browser.get("/shop/gear").text
    page = browser.get("/jobs/0412/prove?check=measure_element").text
    assert f"The calibration of Brown meter lapsed: it was on {old}" in page
    keep(browser, calibrated=(old + timedelta(days=300)).isoformat())
    assert "lapsed" not in browser.get("/jobs/0412/prove?check=measure_element").text


def tried(browser, demo):
    """Try the line of the brown meter and return the page once the trial is over."""
    address = browser.form("/shop/gear/try", name="Brown meter").headers["location"]
    line = next(one for one in demo.settings.gear if one.name == "Brown meter").resource
    assert demo.links.trial_of(line).wait(10)
    return browser.get(address).text


def test_a_line_is_tried_and_what_was_found_is_said(browser, demo):
    meter = StandIn(Display({"resistance": 184.0}.get)).start()
    keep(browser, resource=meter.resource, measures=["resistance", "ac_volts"])
    page = tried(browser, demo)
    assert f"It answers as {IDENTITY}" in page
    assert "OL" in page
    meter.stop()
    assert "Found no" in tried(browser, demo)
    assert browser.form("/shop/gear/try", name="Nobody").status_code == 404


def test_a_line_that_an_older_version_kept_and_that_is_opened_no_more_is_said(browser, demo):
    old = Instrument("Brown meter", ("resistance",), resource="ASRLspy:///dev/null?file=x::INSTR")
    demo.change_settings(lambda kept: replace(kept, gear=(old,)))
    assert "ASRLspy" in browser.get("/shop/gear").text
    assert "expected TCPIP::" in tried(browser, demo)


def test_the_settings_of_a_shop_without_gear_load(demo):
    assert demo.settings.gear == ()
    meter = start_bench_meter(demo)
    demo._settings = None
    assert demo.settings.gear[0].resource == meter.resource
    start_bench_meter(demo).stop()
    demo._settings = None
    assert len(demo.settings.gear) == 1
    meter.stop()
