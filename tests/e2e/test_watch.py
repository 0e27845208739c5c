"""A run through every function, answered by keys alone and by thumb: well, and not well."""

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import heading, ledger, reach, take_call

pytestmark = pytest.mark.e2e
NAME = "Run a short programme and watch every function in turn"


def to_the_run(page: Page) -> str:
    number = take_call(page, "nembrio-f7", "It stops in the middle.")
    page.goto(f"/jobs/{number}/prove?check=watch_all")
    expect(heading(page)).to_have_text(NAME)
    reach(page)
    return number


def test_by_keys_alone_what_showed_is_ticked_and_kept(page: Page):
    to_the_run(page)
    page.keyboard.press("2")
    wet = page.get_by_label("The laundry comes out soaking")
    expect(wet).to_be_visible()
    wet.focus()
    page.keyboard.press("Space")
    expect(wet).to_be_checked()
    page.keyboard.press("k")
    expect(ledger(page)).to_contain_text("the laundry comes out soaking")


def test_by_keys_alone_all_was_well(page: Page):
    to_the_run(page)
    page.keyboard.press("1")
    expect(ledger(page)).to_contain_text("Every function does its part")


def test_by_thumb_nothing_ticked_is_asked_for_and_a_tick_stays(phone: Page):
    to_the_run(phone)
    phone.get_by_text("Something is not right").tap()
    phone.get_by_role("button", name="This showed").tap()
    expect(phone.get_by_text("Say what showed").locator("visible=true").first).to_be_visible()
    phone.get_by_label("It hums when it should drain").tap()
    phone.get_by_role("button", name="This showed").tap()
    expect(phone.get_by_text("Something is not right: it hums").first).to_be_attached()
