"""A newcomer with the maker's paper: a value, a code and a part go into the sheet by words and
choices alone, and what came of it stands there."""

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.e2e

FIELDS_AT_MOST = 16
"""At seven seconds a field that is two minutes."""


def test_a_value_a_code_and_a_part_in_a_few_fields(desk: Page):
    page = desk
    page.goto("/library/FB/nembrio-f7/edit")
    done = 0

    def form(title: str):
        return page.locator("form.sheet", has=page.get_by_role("heading", name=title, exact=True))

    def fill(title: str, words: str, text: str) -> None:
        nonlocal done
        done += 1
        form(title).get_by_role("textbox", name=words).fill(text)

    def choose(title: str, words: str, option: str) -> None:
        nonlocal done
        done += 1
        form(title).get_by_label(words).select_option(label=option)

    def keep(button: str, *changed: str) -> None:
        nonlocal done
        done += 1
        page.get_by_role("button", name=button).click()
        for words in changed:
            expect(page.locator("[data-changed]")).to_contain_text(words)

    choose("A value off the paper", "What it is of", "Measure the element")
    fill("A value off the paper", "From", "27")
    fill("A value off the paper", "To", "31")
    keep("Keep the value", "27", "31")
    fill("A code", "Its name", "4-4")
    fill("A code", "What shows", "4-4")
    fill("A code", "What the board saw", "The drum did not turn")
    choose("A code", "What it points to", "drum turning in the wash")
    choose("A code", "none", "usually")
    keep("Keep the code", "The drum did not turn")
    choose("A part number", "Which part", "belt")
    fill("A part number", "Its number", "NB-7001")
    fill("A part number", "Price", "14")
    keep("Keep the part", "NB-7001")
    assert done <= FIELDS_AT_MOST
    page.goto("/library/FB/nembrio-f7")
    expect(page.locator("main")).to_contain_text("The drum did not turn")
    expect(page.locator("main")).to_contain_text("NB-7001")
