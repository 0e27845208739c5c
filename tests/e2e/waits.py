"""Waits for the page, each for the thing a person would wait for. The page itself looks at every
frame it draws, so that no time is lost between two looks."""

from playwright.sync_api import Page

LISTENS = "'listens' in document.documentElement.dataset"
STILL = f"{LISTENS} && !document.querySelector('.htmx-request')"
SEEN = "document.querySelector('input[name=seen]')?.value"


def listens(page: Page) -> None:
    """Wait until the page hears keys: a new page does once its scripts have run."""
    page.wait_for_function(f"() => {LISTENS}")


def stands_anew(page: Page, seq: str) -> None:
    """Wait until something was noted since ``seq`` and all of the page shows it."""
    page.wait_for_function(f"(seq) => {STILL} && ({SEEN} ?? seq) !== seq", arg=seq)


def stands_still(page: Page) -> None:
    """Wait until nothing is on its way that would take the place of what is pressed next."""
    page.wait_for_function(f"() => {STILL}")
