"""What others noted is shown at once, unless something is being typed."""

import pytest
from playwright.sync_api import expect

BODY = """<div id="job"><input type="hidden" name="seen" value="3">
  <main id="main"><input name="typed" value=""></main>
  <aside id="aside" hx-get="/aside" hx-trigger="refresh">old</aside>
  <p id="othersnoted" hidden>News</p>
  <div id="live" hx-get="/job" hx-target="#main" hx-swap="innerHTML" hx-trigger="moved"></div>
</div>"""
MOVED = "htmx.trigger('#live', 'moved')"


def opened(written, seen):
    page = written(BODY, {"/aside": "new"})
    page.route(
        "**/job",
        lambda route: route.fulfill(
            body="<h1>Anew</h1>", content_type="text/html", headers={"Bottega-Seen": str(seen)}
        ),
    )
    return page


def test_the_whole_job_is_shown_anew(written):
    page = opened(written, seen=4)
    page.evaluate(MOVED)
    expect(page.locator("#main h1")).to_have_text("Anew")


def test_what_is_not_newer_changes_nothing(written):
    page = opened(written, seen=3)
    with page.expect_response("**/job"):
        page.evaluate(MOVED)
    expect(page.locator(".htmx-request")).to_have_count(0)
    expect(page.locator("[name=typed]")).to_be_visible()


@pytest.mark.parametrize("typed", ["2", "25 ohm"])
def test_a_sheet_that_is_typed_on_waits_and_the_rest_is_shown(written, typed):
    page = opened(written, seen=4)
    page.locator("[name=typed]").fill(typed)
    page.evaluate(MOVED)
    expect(page.locator("#aside")).to_have_text("new")
    expect(page.locator("#othersnoted")).to_be_visible()
    expect(page.locator("[name=typed]")).to_have_value(typed)
