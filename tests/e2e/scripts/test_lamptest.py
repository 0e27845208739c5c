"""The lamps that stay dark in a lamp test are named in the note."""

from playwright.sync_api import expect

BODY = """<div x-data="lamptest"><svg class="face-read" width="100" height="30">
  <rect tabindex="0" data-name="spin" x-on:click="light"
  x-on:keydown="lighted" width="20" height="20"></rect>
  <rect tabindex="0" aria-label="lock" x="40" x-on:click="light" x-on:keydown="lighted"
  width="20" height="20"></rect></svg><input data-dark></div>"""


def test_all_are_lit_until_one_is_touched_and_again_after(written):
    page = written(BODY)
    lamps, note = page.locator("rect"), page.locator("[data-dark]")
    assert [lamps.nth(n).get_attribute("data-state") for n in (0, 1)] == ["1", "1"]
    lamps.nth(0).click()
    lamps.nth(1).press("Enter")
    expect(note).to_have_value("spin; lock")
    lamps.nth(0).press(" ")
    expect(note).to_have_value("lock")
    expect(lamps.nth(0)).to_have_attribute("data-state", "1")
