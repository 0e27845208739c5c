"""After the page changed the focus is where the work goes on."""

import pytest
from playwright.sync_api import expect

FORM = """<div id="job"><main id="main">
  <form hx-post="/noted" hx-target="#main" hx-swap="innerHTML">
  <button data-again="tap cold">Open the tap</button></form></main>
  <details open data-stays="list"><summary>List</summary></details></div>"""


def test_a_repeated_button_keeps_the_focus_and_what_it_became_has_it_else(written):
    become = '<form hx-post="/noted"><button data-again="tap hot">Shut the tap</button></form>'
    page = written(FORM.replace("<form ", '<form data-again="x" '), {"/noted": become})
    page.locator("form").evaluate("f => f.removeAttribute('data-again')")
    page.get_by_role("button").click()
    expect(page.get_by_role("button", name="Shut the tap")).to_be_focused()


@pytest.mark.parametrize(
    ("noted", "focused"),
    [
        (
            '<p role="alert" tabindex="-1">Refused</p><h1 data-focus></h1>',
            "[role=alert]",
        ),
        ('<h1 data-focus tabindex="-1">Next</h1>', "h1"),
        ("<label><input></label><b data-field-error>Not a number</b>", "input"),
        (
            '<p role="alertdialog"><button class="btn-first">Yes</button></p><h1 data-focus></h1>',
            "button.btn-first",
        ),
    ],
)
def test_it_goes_to_a_question_a_refusal_or_the_next_step(written, noted, focused):
    page = written(FORM.replace("data-again", "data-none"), {"/noted": noted})
    page.get_by_role("button").click()
    expect(page.locator(focused)).to_be_focused()
