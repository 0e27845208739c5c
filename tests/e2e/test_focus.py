"""Whatever is done, the focus is then where the work goes on, so that keys go on from there."""

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import take_call

pytestmark = pytest.mark.e2e


def change(page: Page, press) -> None:
    """Do something that changes the job, and find the focus in it again."""
    seen = page.locator("input[name=seen]").first
    before = seen.input_value()
    press()
    expect(seen).not_to_have_value(before)
    expect(page.locator("#main :focus")).to_have_count(1)


def went(page: Page, press, place: str) -> None:
    """Go somewhere, and find the focus there."""
    press()
    expect(page.locator(f"#main {place}")).to_be_focused()


def button(page: Page, name: str):
    return page.locator("#main").get_by_role("button", name=name, exact=True).first


def test_every_kind_of_change_leaves_the_focus_in_the_sheet(page: Page):
    number = take_call(page, "nembrio-f7", "The door does not lock, it clicks.")
    page.goto(f"/jobs/{number}/safe")
    for name in ("Pull the plug", "Plug it in"):
        change(page, button(page, name).click)
    page.get_by_role("textbox", name="Something temporary").fill("a prop")
    change(page, button(page, "Note it").click)
    change(page, button(page, "It is undone").click)
    went(page, page.locator("[data-station='4']").click, "h1")
    change(page, page.locator("button.outcome:enabled").first.click)
    change(page, lambda: page.keyboard.press("w"))
    page.get_by_text("Cannot do this").click()
    change(page, button(page, "No access").click)
    went(page, page.get_by_role("link", name="Something else").click, "input[name=find]")
    page.keyboard.type("no such check")
    page.keyboard.press("Enter")
    expect(page.get_by_text("No check that is left mentions")).to_be_visible()
    expect(page.locator("#main input[name=find]")).to_be_focused()
    went(page, page.locator("#part-motor").click, "h1")
    went(page, page.get_by_role("link", name="Mark").click, "h1")


def test_a_refused_reading_leaves_the_focus_in_its_field_and_a_refused_form_at_the_reason(
    page: Page,
):
    page.goto("/jobs/0398/prove?check=measure_element")
    page.locator("#main input[name=typed]").fill("12 apples")
    went(page, lambda: page.keyboard.press("Enter"), "input[name=typed]")
    expect(page.locator("[data-field-error]")).to_be_visible()
    page.goto("/jobs/0398/handover")
    went(page, button(page, "Hand it over").click, "[role=alert]")


def test_the_question_before_something_is_taken_back_has_the_focus_on_leaving_it(page: Page):
    page.goto("/jobs/0391/prove")
    page.keyboard.press("w")
    expect(page.get_by_role("link", name="Leave it")).to_be_focused()


def test_an_entry_withdrawn_on_the_phone_leaves_the_focus_in_the_ledger(phone: Page):
    number = take_call(phone, "nembrio-f7", "The door does not lock, it clicks.")
    phone.goto(f"/jobs/{number}/prove")
    phone.get_by_role("tab", name="Ledger").tap()
    seen = phone.locator("input[name=seen]").first
    before = seen.input_value()
    phone.locator("[aria-label=Ledger]").get_by_role("button", name="Withdraw:").first.tap()
    expect(seen).not_to_have_value(before)
    expect(phone.locator("[aria-label^=Entries]")).to_be_focused()
