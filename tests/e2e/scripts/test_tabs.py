"""The open tab stays open."""

from playwright.sync_api import expect

BODY = """<div id="job" x-data="job">
  <button role="tab" data-tab="next" x-on:click.prevent="tab">Next</button>
  <button role="tab" data-tab="drawing" x-on:click.prevent="tab">Drawing</button>
  <a data-next-tab href="#x">A part</a></div>"""


def test_a_tab_is_open_until_another_is(written):
    page = written(BODY)
    frame = page.locator("#job")
    page.evaluate("sessionStorage.clear()")
    page.reload()
    expect(frame).to_have_attribute("data-tab", "next")
    page.get_by_role("tab", name="Drawing").click()
    expect(page.get_by_role("tab", name="Drawing")).to_have_attribute("aria-selected", "true")
    page.reload()
    expect(frame).to_have_attribute("data-tab", "drawing")
    page.get_by_text("A part").click()
    page.reload()
    expect(frame).to_have_attribute("data-tab", "next")


def test_the_address_may_ask_for_a_tab(written):
    page = written(BODY)
    page.goto("/page?tab=ledger")
    expect(page.locator("#job")).to_have_attribute("data-tab", "ledger")


def test_the_strip_shows_where_the_job_stands(written):
    items = "".join(
        f'<li style="flex: 0 0 120px" {"data-here" if n == 7 else ""}>{n}</li>' for n in range(10)
    )
    strip = f'<ol data-strip style="display: flex; width: 300px; overflow: auto">{items}</ol>'
    page = written(f'<div id="job" x-data="job">{strip}</div>')
    page.goto("/page?tab=next")
    box = page.locator("[data-here]").bounding_box()
    frame = page.locator("[data-strip]").bounding_box()
    assert abs(box["x"] + box["width"] / 2 - frame["x"] - frame["width"] / 2) <= 1
