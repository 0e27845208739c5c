"""The machine on the rig in a real browser: it runs by itself, is opened, felt and measured, and
a job works at it."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import ledger

pytestmark = pytest.mark.e2e


def drawn(page: Page, machine: str = "nembrio-f7") -> str:
    """Draw a machine and stand in front of it; return its address."""
    page.goto("/rigs")
    page.get_by_label("Which machine").select_option(machine)
    page.get_by_role("button", name="Draw one").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("on the rig")
    return page.url


def test_time_goes_on_by_itself_and_acts_are_told(page: Page):
    drawn(page)
    page.get_by_role("button", name="60 times").click()
    page.get_by_role("button", name="Pour a bucket in").click()
    live = page.locator("#standing")
    expect(live).to_contain_text("A bucket of five litres poured in")
    before = live.locator("p").first.text_content()
    expect(live.locator("p").first).not_to_have_text(before or "", timeout=10_000)


def test_it_is_opened_by_keys_alone_and_its_rotor_is_felt(page: Page):
    drawn(page)
    for name in ("Pull the plug",):
        page.get_by_role("button", name=name).focus()
        page.keyboard.press("Enter")
    expect(page.locator("#standing")).to_contain_text("The plug is out")
    for step in ("Open the flap at the lower front", "Unscrew the pump filter"):
        off = page.get_by_text("What comes off")
        if not page.locator("details[open]", has=off).count():
            off.focus()
            page.keyboard.press("Enter")
        line = page.locator("li", has_text=step)
        line.get_by_role("button", name="Take it off").focus()
        page.keyboard.press("Enter")
        expect(page.locator("#standing")).to_contain_text(step)
    page.get_by_role("button", name="Turn the pump's rotor").click()
    expect(page.get_by_role("img", name=re.compile("Pump rotor: torque"))).to_be_visible()


def test_a_job_is_worked_at_the_machine(page: Page):
    page.goto("/jobs/0418/prove?check=hear_draining")
    page.get_by_role("button", name="Do it at the machine on the rig").click()
    expect(ledger(page)).to_contain_text("hums")
    page.goto("/rigs/ondina01")
    expect(page.get_by_role("link", name="Job 0418")).to_be_visible()


def test_two_people_at_one_machine_are_told(page: Page):
    address = drawn(page)
    other = page.context.new_page()
    other.goto(address)
    page.get_by_role("button", name="Shut the taps").click()
    expect(page.locator("#standing")).to_contain_text("The taps are shut")
    other.get_by_role("button", name="Pull the plug").click()
    expect(other.get_by_role("alert")).to_contain_text("Somebody else did something")
