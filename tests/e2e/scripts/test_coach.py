"""The way in is led step by step, in its beat."""

from playwright.sync_api import expect

BODY = """<svg class="face"><g data-part="knob" data-degrees="90"></g>
  <g data-part="start"></g><g data-part=""></g><g data-pointer="10 10"></g></svg>
  <div x-data="coach"><ol><li data-step data-at="knob" data-beat="" data-times="1"></li>
  <li data-step data-at="start" data-beat="0.5" data-times="3" data-clicks="0" data-within="4"></li>
  <li data-step data-at="" data-beat="" data-times="1"></li></ol>
  <button id="next" x-on:click="next">Next</button>
  <button id="slower" x-on:click="slower">Slower</button>
  <p data-said></p></div>"""


def at(page):
    steps = page.locator("[data-step]")
    return [n for n in range(3) if steps.nth(n).get_attribute("aria-current")]


def test_a_step_without_a_beat_waits_and_one_with_it_goes_on(written):
    page = written(BODY, clock=True)
    said = page.locator("[data-said]")
    page.locator("#next").click()
    assert at(page) == [0]
    expect(page.locator("[data-pointer]")).to_have_attribute("transform", "rotate(90 10 10)")
    page.clock.run_for(60_000)
    assert at(page) == [0]
    page.locator("#next").click()
    page.clock.run_for(550)
    expect(said).to_have_text("1 of 3")
    expect(page.locator("[data-part=start]")).to_have_class("is-asked is-struck")
    page.clock.run_for(1500)
    assert at(page) == [2]
    expect(said).to_have_text("Press Next step when it is done.")
    page.locator("#next").click()
    assert at(page) == []


def test_a_slower_beat_takes_longer_and_lateness_is_said(written):
    page = written(BODY, clock=True)
    page.locator("#slower").click()
    expect(page.locator("[data-said]")).to_have_text("The beat is 80 % of the sheet's.")
    for _ in range(8):
        page.locator("#slower").click()
    page.locator("#next").click()
    page.locator("#next").click()
    page.clock.run_for(600)
    expect(page.locator("[data-said]")).to_have_text("0 of 3")
    page.clock.run_for(5_000)
    page.locator("#next").click()
    expect(page.locator("[data-said]")).to_contain_text("of 4: begin anew.")
