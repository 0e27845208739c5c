"""Waits for the page, each for the thing a person would wait for."""

from playwright.sync_api import Page, expect


def listens(page: Page) -> None:
    """Wait until the page hears keys: a new page does once its scripts have run."""
    expect(page.locator("html[data-listens]")).to_have_count(1)


def stands_anew(page: Page, seq: str) -> None:
    """Wait until something was noted since ``seq`` and all of the page shows it."""
    expect(page.locator("input[name=seen]").first).not_to_have_value(seq)
    stands_still(page)


def stands_still(page: Page) -> None:
    """Wait until nothing is on its way that would take the place of what is pressed next."""
    listens(page)
    expect(page.locator(".htmx-request")).to_have_count(0)
