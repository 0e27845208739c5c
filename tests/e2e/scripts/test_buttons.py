"""Buttons the browser answers by itself."""

from playwright.sync_api import expect


def test_print_keys_and_a_field_that_sends_its_form(written):
    page = written(
        """<div x-data="keys" x-on:keydown.window="press">
        <p role="dialog" hidden x-bind:hidden="closed">Keys</p>
        <button data-print>Print</button><button data-help>Keys</button>
        <form onsubmit="event.preventDefault(); this.dataset.sent = 1"><select data-submit>
        <option>a</option><option>b</option></select></form></div>"""
    )
    page.evaluate("() => { window.print = () => { window.printed = true; }; }")
    page.locator("[data-print]").click()
    assert page.evaluate("window.printed") is True
    page.locator("[data-help]").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    page.locator("select").select_option("b")
    expect(page.locator("form")).to_have_attribute("data-sent", "1")
