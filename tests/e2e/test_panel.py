"""The panel read in a real browser: tapped in rhythm with keys and with a thumb."""

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import ledger, take_call

pytestmark = pytest.mark.e2e
BEAT_MS = 260


def tap(page: Page, *keys: str) -> None:
    """Strike the keys, a beat each."""
    for key in keys:
        page.keyboard.press(key, delay=BEAT_MS)


def test_a_train_tapped_in_rhythm_is_heard_taken_and_moves_the_ranking(page: Page):
    number = take_call(page, "nembrio-f7", "It stops midway.")
    page.goto(f"/jobs/{number}/panel")
    before = page.locator(".n-chance").all_text_contents()
    heard = page.locator("[data-heard]")
    tap(page, "f", "f", "j")
    tap(page, "f", "f", "j", "j")
    expect(heard).to_contain_text("counted differently")
    expect(heard).to_contain_text("Tap another round")
    tap(page, "f", "f", "j", "j")
    expect(heard.locator("[data-counts]").first).to_have_text("2-2")
    expect(heard).not_to_contain_text("Tap another round")
    heard.locator("[data-counts]").first.click()
    expect(page.get_by_label("amber flashes, first code")).to_have_value("2")
    expect(page.get_by_label("white flashes, first code")).to_have_value("2")
    expect(heard).to_be_empty()
    page.get_by_role("button", name="Keep these codes").click()
    expect(ledger(page)).to_contain_text("2-2")
    assert page.locator(".n-chance").all_text_contents() != before


def test_what_is_no_code_is_said_and_begun_anew(page: Page):
    number = take_call(page, "nembrio-f7", "It stops midway.")
    page.goto(f"/jobs/{number}/panel")
    heard = page.locator("[data-heard]")
    tap(page, "f")
    expect(heard).to_contain_text("expected at least one for each of: amber then white")
    page.get_by_role("button", name="Begin anew").click()
    expect(heard).to_be_empty()
