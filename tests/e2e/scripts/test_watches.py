"""Watches and counters keep the time and the count."""

import pytest
from playwright.sync_api import expect

WATCH = """<form><div id="{id}" x-data="stopwatch" {more}>
  <button type="button" data-watch x-on:click="press">Start</button><span data-shown>0:00</span>
  <input name="{id}_s" data-seconds></div>{other}</form>"""


def test_seconds_go_into_the_field_and_too_long_is_said(written):
    page = written(WATCH.format(id="one", more='data-limit="60"', other=""), clock=True)
    page.locator("[data-watch]").click()
    expect(page.locator("[data-watch]")).to_have_text("Stop the watch")
    page.clock.run_for(58_000)
    assert page.locator("#one").get_attribute("data-over") is None
    page.clock.run_for(7_000)
    page.locator("[data-watch]").click()
    expect(page.locator("[data-shown]")).to_have_text("1:05")
    expect(page.locator("[name=one_s]")).to_have_value("65")
    expect(page.locator("#one")).to_have_attribute("data-over", "")
    page.clock.run_for(9_000)
    expect(page.locator("[name=one_s]")).to_have_value("65")
    expect(page.locator("[data-watch]")).to_have_text("Start")


def test_one_tap_at_a_time(written):
    inner = '<div id="b" x-data="stopwatch" data-tap="hot"><button type="button" data-watch ' + (
        'x-on:click="press">Hot</button><i data-shown></i><input data-seconds></div>'
    )
    page = written(WATCH.format(id="a", more='data-tap="cold"', other=inner))
    cold, hot = page.locator("#a [data-watch]"), page.locator("#b [data-watch]")
    cold.click()
    hot.click()
    expect(page.locator("#b [data-shown]")).to_have_text("First shut the cold tap")
    cold.click()
    hot.click()
    expect(hot).to_have_text("Shut the hot tap")


@pytest.mark.parametrize(
    ("after_s", "told"), [(10, "soaks 2 min yet."), (70, "less than a minute")]
)
def test_a_soak_counts_down(written, after_s, told):
    page = written('<p x-data="soak" data-minutes="2"><i data-shown></i></p>', clock=True)
    page.clock.run_for(1000 * after_s)
    expect(page.locator("[data-shown]")).to_contain_text(told)
    page.clock.run_for(120_000)
    expect(page.locator("[data-shown]")).to_have_text("it has soaked.")
    expect(page.locator("p")).to_have_attribute("data-over", "")


def test_presses_are_counted_on_from_what_stands_there(written):
    page = written(
        """<div x-data="counter"><input data-count value="4">
        <button x-on:click="press">+</button></div>"""
    )
    page.locator("button").click(click_count=2)
    expect(page.locator("input")).to_have_value("6")


def test_words_are_said_aloud(written):
    page = written(
        '<p x-data="aloud" data-words="Pull the plug"><button x-on:click="say">Say</button></p>'
    )
    page.evaluate("() => { speechSynthesis.speak = (said) => { window.said = said.text; }; }")
    page.locator("button").click()
    assert page.evaluate("window.said") == "Pull the plug"
