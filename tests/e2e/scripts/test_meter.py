"""A reading by wire is shown, and kept once."""

import pytest
from playwright.sync_api import expect

BODY = """<form onsubmit="event.preventDefault(); this.dataset.sent = 1">
  <div x-data="meter" {more} data-stream="/stream"><b data-figure></b><i data-symbol></i>
  <u data-words></u><s data-verdict></s><p data-trouble></p>
  <button type="button" data-keep x-on:click="keep">Keep</button>
  <svg><path data-trace></path></svg></div>
  <input name="one" data-probe><input name="two" data-probe><input type="hidden" name="wire">
  <figure data-pins></figure><button data-keeps>Send</button></form>"""
HEAR = """(reading) => Alpine.$data(document.querySelector("[x-data]")).hear(reading)"""


def reading(**changed):
    whole = {
        "figure": "25.1",
        "symbol": "Ω",
        "words": "",
        "verdict": "as it should be",
        "trouble": "",
    }
    return {
        **whole,
        "state": "settled",
        "typed": "25.1 ohm",
        "good": True,
        "keep": False,
        **changed,
    }


@pytest.fixture
def meter(written):
    return written(BODY.format(more=""), {"/stream": ""})


def test_it_shows_and_keeps_into_each_probe_once(meter):
    meter.evaluate(HEAR, reading())
    expect(meter.locator("[data-figure]")).to_have_text("25.1")
    meter.locator("[data-keep]").click()
    expect(meter.locator("[name=one]")).to_have_value("25.1 ohm")
    expect(meter.locator("[name=wire]")).to_have_value("yes")
    expect(meter.locator("[data-pins]")).to_have_attribute("data-at", "1")
    assert meter.locator("form").get_attribute("data-sent") is None
    meter.evaluate(HEAR, reading(typed="24.8 ohm"))
    meter.locator("[data-keep]").click()
    expect(meter.locator("[name=two]")).to_have_value("24.8 ohm")
    expect(meter.locator("form")).to_have_attribute("data-sent", "1")


def test_the_meters_own_key_keeps_one_reading_not_the_same_again(meter):
    meter.evaluate(HEAR, reading())
    meter.evaluate(HEAR, reading(keep=True))
    meter.evaluate(HEAR, reading(keep=True))
    expect(meter.locator("[name=one]")).to_have_value("25.1 ohm")
    expect(meter.locator("[name=two]")).to_have_value("")


def test_no_reading_cannot_be_kept(meter):
    meter.evaluate(HEAR, reading(state="lifted", typed="", figure="no reading"))
    expect(meter.locator("[data-keep]")).to_be_disabled()
    expect(meter.locator("[data-trace]")).to_have_attribute("d", "")


def test_typing_over_it_is_no_reading_by_wire(meter):
    meter.evaluate(HEAR, reading())
    meter.locator("[data-keep]").click()
    meter.locator("[name=one]").fill("30 ohm")
    expect(meter.locator("[name=wire]")).to_have_value("")


def test_touching_the_next_points_keeps_the_last(written):
    page = written(BODY.format(more="data-walk"), {"/stream": ""})
    page.evaluate(HEAR, reading())
    page.evaluate(HEAR, reading(state="lifted"))
    expect(page.locator("[name=one]")).to_have_value("25.1 ohm")


def test_the_trace_fills_its_height_whatever_the_span(written):
    ends = written("").evaluate(
        """async () => { const { pathOf } = await import("/static/scripts/meter.js");
        return [pathOf([5, 9, 7]), pathOf([5, 5]), pathOf([])]; }"""
    )
    assert ends == ["M0.0 36.0L3.8 4.0L7.6 20.0", "M0.0 36.0L3.8 36.0", ""]
