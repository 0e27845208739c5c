"""Opening and closing in a real browser: a photo, a soak that ends while other work goes on, two
lengths in one step, a left-hand thread, a screw left in the tray."""

import io
import re
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import answer, ledger, say_what_it_asks, take_call

JOB = "0403"
DECIDE = """async (number) => {
  const form = document.querySelector('form input[name=seen]').closest('form');
  const body = new URLSearchParams(new FormData(form));
  const kept = ['token', 'event_id', 'seen'];
  for (const key of [...body.keys()]) if (!kept.includes(key)) body.delete(key);
  body.set('repair', 'bearings.part');
  body.set('reason', 'as agreed');
  await fetch(`/jobs/${number}/decide/decide`, { method: 'POST', body });
}"""
"""Decides on the bearings, whatever is offered."""


def step(page: Page) -> str:
    return page.locator("[data-reach] li").first.inner_text()


def go_on(page: Page, until: str) -> None:
    """Do what stands first until it is the step of these words."""
    page.goto(f"/jobs/{JOB}/open")
    while not re.search(until, step(page)):
        say_what_it_asks(page)
        before = page.locator("input[name=seen]").first.input_value()
        page.locator("[data-reach] [data-key=k]").click()
        expect(page.locator("input[name=seen]").first).not_to_have_value(before)


def picture(folder: Path) -> Path:
    raw = io.BytesIO()
    Image.new("RGB", (80, 60), "grey").save(raw, "JPEG")
    kept = folder / "belt.jpg"
    kept.write_bytes(raw.getvalue())
    return kept


def test_a_job_is_opened_with_a_photo_and_a_soak_that_ends_meanwhile(page: Page, tmp_path: Path):
    page.clock.install()
    go_on(page, "Roll the belt off")
    page.get_by_text("A photo, a tag, a word").click()
    page.locator("input[name=photo]").set_input_files(picture(tmp_path))
    page.locator("select[name=tag]").select_option("keep")
    answer(page, "It is off")
    expect(ledger(page)).to_contain_text("what came off is kept")
    expect(page.get_by_role("region", name="Tray")).to_be_visible()
    go_on(page, "Oil it now, to take the drum pulley off")
    answer(page, "It is oiled")
    soaks = page.locator("[data-minutes]")
    expect(soaks).to_contain_text("soaks")
    expect(page.locator("[data-reach] li").first).not_to_contain_text("drum pulley")
    page.clock.fast_forward("11:00")
    expect(soaks).to_contain_text("it has soaked")
    go_on(page, "Take the front panel off")
    first = page.locator("[data-reach] li").first
    expect(first).to_contain_text("4.2 x 13")
    expect(first).to_contain_text("4.2 x 25")
    expect(first).to_contain_text("It drops when the last screw goes")
    page.keyboard.press("Space")
    expect(page.locator("[data-cell=front_panel] text")).to_have_count(2)
    page.goto(f"/jobs/{JOB}/close")
    cell = page.locator("form", has=page.locator("input[name=left]")).first
    cell.locator("input[name=left]").fill("1")
    before = page.locator("input[name=seen]").first.input_value()
    cell.get_by_role("button", name="It is back").click()
    expect(page.locator("input[name=seen]").first).not_to_have_value(before)
    expect(page.locator("#main")).to_contain_text("The tray is not empty: 1 left over")
    page.goto(f"/jobs/{JOB}/handover")
    expect(page.locator("#main")).to_contain_text("left over")
    page.get_by_role("button", name="Hand it over").click()
    expect(page.get_by_role("alert").first).to_contain_text(re.compile("[Nn]ot|owed|back"))


def test_a_left_hand_thread_is_a_large_arrow(page: Page):
    number = take_call(page, "torvane-alta-10", "It roars in the spin like a plane.")
    page.goto(f"/jobs/{number}/decide")
    page.evaluate(DECIDE, number)
    page.goto(f"/jobs/{number}/open")
    while "Lift the basket out" not in step(page):
        say_what_it_asks(page)
        before = page.locator("input[name=seen]").first.input_value()
        page.locator("[data-reach] [data-key=k]").click()
        expect(page.locator("input[name=seen]").first).not_to_have_value(before)
    arrow = page.get_by_role("img", name="Left-hand thread: it opens with the clock")
    expect(arrow).to_be_visible()
    assert arrow.bounding_box()["width"] >= 48
    expect(page.locator("[data-reach]")).to_contain_text("Two people.")


def test_the_whole_of_it_by_thumb(phone: Page):
    phone.goto(f"/jobs/{JOB}/open")
    button = phone.locator("[data-reach] [data-key=k]")
    assert button.bounding_box()["height"] >= 44
    phone.goto(f"/jobs/{JOB}/hub")
    expect(phone.get_by_role("button", name="This one goes in").first).to_be_visible()
