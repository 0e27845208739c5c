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
    page.get_by_text("What comes off").focus()
    page.keyboard.press("Enter")
    for step, again in (
        ("Open the flap at the lower front", "off filter_flap"),
        ("Unscrew the pump filter", "off filter_cap"),
    ):
        page.locator(f"button[data-again='{again}']").focus()
        page.keyboard.press("Enter")
        expect(page.locator("#standing")).to_contain_text(step)
    page.get_by_role("button", name="Turn the pump's rotor").click()
    expect(page.get_by_role("img", name=re.compile("Pump rotor: what"))).to_be_visible()


def test_the_service_mode_is_entered_by_its_own_keys(page: Page):
    page.goto("/rigs/ondina01")
    standing = page.locator("#standing")

    def press(group: str, name: str, told: str):
        row = page.get_by_role("group", name=group, exact=True)
        row.get_by_role("button", name=name, exact=True).click()
        expect(standing.locator("li").first).to_contain_text(told)

    expect(page.get_by_role("button", name="Ask its memory")).to_be_disabled()
    press("Dial to", "rest", "turn rest")
    page.get_by_role("button", name="Pull the plug").click()
    page.get_by_role("button", name="Plug it in").click()
    press("Hold", "outer", "hold outer")
    for _ in range(3):
        press("Door", "open", "open door")
        press("Door", "shut", "shut door")
    press("Let go", "outer", "Service mode. The lamp gives one long stroke")
    expect(page.get_by_role("button", name="Ask its memory")).to_be_enabled()


def test_what_is_pressed_by_keys_keeps_the_focus(page: Page):
    page.goto("/rigs/ondina01")
    door = page.get_by_role("group", name="Door", exact=True)
    door.get_by_role("button", name="open").focus()
    for told in ("open door", "shut door", "open door"):
        page.keyboard.press("Enter")
        expect(page.locator("#standing li").first).to_contain_text(told)
        expect(door.locator("button:focus")).to_have_count(1)
        page.keyboard.press("Tab" if told == "open door" else "Shift+Tab")
    page.get_by_role("button", name="Shut the taps").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Open the taps")).to_be_focused()


def test_a_drum_is_turned_with_the_pointer_and_with_keys(page: Page):
    drawn(page)
    expect(page.get_by_text("A hand turns what the motor may turn.")).to_be_visible()
    page.get_by_role("button", name="Pull the plug").click()
    drum = page.get_by_role("slider", name="Drum, turned by hand")
    drum.scroll_into_view_if_needed()
    box = drum.bounding_box()
    assert box is not None
    x, y, far = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, box["width"] / 3
    page.mouse.move(x, y - far)
    page.mouse.down()
    page.mouse.move(x + far * 0.7, y - far * 0.7)
    page.mouse.move(x + far, y)
    page.mouse.up()
    turned = int(drum.get_attribute("aria-valuenow") or 0)
    assert 45 <= turned <= 90
    drum.focus()
    for _ in range(8):
        page.keyboard.press("ArrowRight")
    assert int(drum.get_attribute("aria-valuenow") or 0) > turned


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
