"""A key presses what carries it, and nothing else."""

from playwright.sync_api import expect

BODY = """<div x-data="keys" x-on:keydown.window="press">
  <div role="dialog" hidden x-bind:hidden="closed">Keys</div>
  <button data-key="1" onclick="this.dataset.hit = Number(this.dataset.hit || 0) + 1">One</button>
  <button data-key="2" disabled data-locked="First open the lid.">Two</button>
  <details><summary>More</summary><button data-key="3" onclick="this.dataset.hit = 1">Three</button>
  </details>
  <input name="typed" data-key="m" inputmode="decimal">
  <div data-reach><button id="lid">Open the lid</button></div>
  <a data-station="5" href="#five">Five</a>
  <div id="job" data-next="#next" data-safe="#safe"><a href="#next">Next</a></div>
</div>"""


def test_a_key_presses_its_button_and_a_held_key_once(written):
    page = written(BODY)
    page.keyboard.down("1")
    page.keyboard.down("1")
    page.keyboard.up("1")
    expect(page.locator("[data-key='1']")).to_have_attribute("data-hit", "1")


def test_a_locked_answer_says_why_and_leads_to_what_comes_first(written):
    page = written(BODY.replace('data-key="m"', ""))
    page.keyboard.press("2")
    expect(page.locator("#trouble")).to_have_text("First open the lid.")
    expect(page.locator("#lid")).to_be_focused()


def test_what_is_folded_away_is_not_pressed(written):
    page = written(BODY)
    page.keyboard.press("3")
    assert page.locator("[data-key='3']").get_attribute("data-hit") is None
    page.locator("summary").click()
    page.keyboard.press("3")
    expect(page.locator("[data-key='3']")).to_have_attribute("data-hit", "1")


def test_a_figure_begins_the_reading_unless_it_answers(written):
    page = written(BODY)
    page.keyboard.press("4")
    expect(page.locator("[name=typed]")).to_be_focused()
    expect(page.locator("[name=typed]")).to_have_value("4")
    page.keyboard.press("1")
    expect(page.locator("[name=typed]")).to_have_value("41")
    page.keyboard.press("Escape")
    page.keyboard.press("1")
    expect(page.locator("[name=typed]")).to_have_value("41")
    expect(page.locator("[data-key='1']")).to_have_attribute("data-hit", "1")


def test_stations_the_next_step_and_the_list_of_keys(written):
    page = written(BODY)
    page.keyboard.press("g")
    page.keyboard.press("5")
    expect(page).to_have_url("/page#five")
    page.keyboard.press("n")
    expect(page).to_have_url("/page#next")
    page.keyboard.press("s")
    expect(page).to_have_url("/page#safe")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()


def test_the_space_bar_is_a_foot_switch_only_where_one_is(written):
    keep = """<button data-key="k" onclick="this.dataset.hit = 1">Keep</button>"""
    page = written(f'<div x-data="keys" x-on:keydown.window="press">{keep}<p></p></div>')
    page.keyboard.press(" ")
    assert page.locator("[data-key=k]").get_attribute("data-hit") is None
    page.locator("p").evaluate("p => p.dataset.foot = ''")
    page.keyboard.press(" ")
    expect(page.locator("[data-key=k]")).to_have_attribute("data-hit", "1")


def test_control_and_enter_keep_while_typing(written):
    page = written(
        """<div x-data="keys" x-on:keydown.window="press"><textarea></textarea>
        <button data-key="k" onclick="this.dataset.hit = 1">Keep</button></div>"""
    )
    page.locator("textarea").press("Control+Enter")
    expect(page.locator("[data-key=k]")).to_have_attribute("data-hit", "1")
