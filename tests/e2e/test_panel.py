"""The panel read in a real browser: tapped in rhythm with keys, touched on its drawing, and its
service mode that nobody gets into."""

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.test_jobs import ledger, take_call

pytestmark = pytest.mark.e2e
SHORT_MS, LONG_MS, DARK_MS, LONG_DARK_MS = 100, 420, 190, 760


def strike(page: Page, *figures: int) -> None:
    """Tap along with a lamp that strikes five as one long flash: to the millisecond, as no hand and
    no machine under load can; how keys are timed is held in ``scripts/test_panel.py``."""
    flashes, at = [], 0
    for figure in figures:
        for long in [True] * (figure // 5) + [False] * (figure % 5):
            lit = LONG_MS if long else SHORT_MS
            flashes.append({"lamp": "0", "at": at, "lit": lit})
            at += lit + DARK_MS
        at += LONG_DARK_MS
    page.evaluate(TAPPED, flashes)


TAPPED = """(flashes) => {
  const panel = Alpine.$data(document.querySelector("[x-data=panel]"));
  panel.rounds[panel.rounds.length - 1].push(...flashes);
  panel.hear();
}"""


def panel_of_new_job(page: Page, sheet: str, words: str = "It stops midway.") -> None:
    """Take a call for a machine and go to its panel."""
    number = take_call(page, sheet, words)
    page.goto(f"/jobs/{number}/panel")


def test_a_train_tapped_in_rhythm_is_heard_taken_and_moves_the_ranking(page: Page):
    panel_of_new_job(page, "nembrio-f7")
    before = page.locator(".n-chance").all_text_contents()
    heard = page.locator("[data-heard]")
    strike(page, 6, 1)
    expect(heard).to_contain_text("6-1")
    page.keyboard.press("r")
    strike(page, 6, 2)
    expect(heard).to_contain_text("counted differently")
    expect(heard).to_contain_text("Tap another round")
    page.keyboard.press("r")
    strike(page, 6, 2)
    expect(heard).not_to_contain_text("Tap another round")
    page.keyboard.press("t")
    expect(page.get_by_label("First code")).to_have_value("6-2")
    expect(heard).to_be_empty()
    page.get_by_role("button", name="Keep these codes").click()
    expect(ledger(page)).to_contain_text("6-2")
    assert page.locator(".n-chance").all_text_contents() != before


def test_what_is_no_code_is_said_and_begun_anew(page: Page):
    panel_of_new_job(page, "nembrio-f7")
    heard = page.locator("[data-heard]")
    page.keyboard.press("f", delay=SHORT_MS)
    expect(heard).to_contain_text("expected at least one for each of: first figure then second")
    page.get_by_role("button", name="Begin anew").click()
    expect(heard).to_be_empty()


def test_lamps_are_read_on_the_drawing_by_thumb_and_by_key(page: Page):
    panel_of_new_job(page, "sestra-torre")
    drawing = page.get_by_role("group", name="Panel")
    heard = page.locator("[data-heard]")
    code = page.locator("details", has_text="All codes").locator("li span").first.text_content()
    states = [("-", "o", "*").index(sign) for sign in code.replace(".", "")]
    names = ("soak", "wash", "rinse", "spin", "dry", "done")
    for name, state in zip(names, states, strict=True):
        for _ in range(state):
            drawing.get_by_role("button", name=name).click()
    lit = names[states.index(max(states))]
    expect(drawing.get_by_role("button", name=lit)).to_have_attribute(
        "aria-label", f"{lit}: {('dark', 'lit', 'blinking')[max(states)]}"
    )
    expect(heard.locator("[data-written]").first).to_have_text(code)
    dark = names[states.index(0)]
    drawing.get_by_role("button", name=dark).focus()
    for _ in range(3):
        page.keyboard.press("Enter")
    expect(drawing.get_by_role("button", name=dark)).to_have_attribute(
        "aria-label", f"{dark}: unsure"
    )
    expect(heard.locator("[data-written]").first).to_have_text(code)
    heard.locator("[data-written]").first.click()
    expect(page.get_by_label("First code")).to_have_value(code)
    page.get_by_role("button", name="Keep these codes").click()
    expect(ledger(page)).to_contain_text(code)


def test_a_bar_and_a_display_are_read_on_their_segments(page: Page):
    page.goto("/panel/ostrel-linea-t")
    page.get_by_role("button", name="bar up to 4").click()
    page.get_by_role("button", name="Low tone").click()
    expect(page.locator("[data-heard]")).to_contain_text("low-4")
    page.goto("/panel/virgola-asciutta-7")
    for place, bars in enumerate(("acdfg", "bc"), start=1):
        for bar in bars:
            page.get_by_role("checkbox", name=f"place {place}, bar {bar}").dispatch_event("click")
    expect(page.locator("[data-heard]")).to_contain_text("no rise of temperature")


def test_an_entry_that_fails_four_times_is_a_finding(page: Page):
    panel_of_new_job(page, "nembrio-f7", "It does not start.")
    page.get_by_text("How to get in").click()
    before = page.locator(".n-chance").all_text_contents()
    for attempt in range(1, 5):
        page.get_by_role("button", name="It did not listen").click()
        expect(page.locator("#main")).to_contain_text(f"{attempt} attempt")
    expect(page.locator("#main")).to_contain_text("Stop here")
    page.get_by_role("button", name="Stop: it does not let anybody in").click()
    expect(ledger(page)).to_contain_text("could not be read in 4 attempts")
    assert page.locator(".n-chance").all_text_contents() != before


def test_the_coach_beats_and_points_on_the_drawn_panel(page: Page):
    panel_of_new_job(page, "nembrio-f7")
    page.get_by_text("How to get in").click()
    page.get_by_role("button", name="Next step").click()
    expect(page.locator(".face [data-part=door]").first).to_have_class("is-asked")
    expect(page.locator(".face [data-pointer]").first).to_have_attribute("data-at", "0")
    page.get_by_role("button", name="Next step").click()
    expect(page.locator("[data-step][aria-current]")).to_contain_text("Hold the outer key")
    for _ in range(4):
        page.get_by_role("button", name="Faster").click()
    page.get_by_role("button", name="Next step").click()
    expect(page.locator("[data-said]")).to_contain_text("1 of 3")
    expect(page.locator("[data-said]")).to_contain_text("2 of 3")
    page.get_by_role("button", name="From the start").click()
    expect(page.locator("[data-step][aria-current]")).to_have_count(0)


def test_the_lamp_test_is_answered_on_the_drawing(page: Page):
    panel_of_new_job(page, "sestra-torre")
    page.get_by_text("The lamp test at entry").click()
    test = page.locator("details", has_text="The lamp test at entry")
    plugged = test.get_by_role("button", name="It is plugged in")
    plugged.click()
    expect(plugged).to_have_count(0)
    page.get_by_text("The lamp test at entry").click()
    test.get_by_role("button", name="wash").click()
    expect(page.get_by_label("What stayed dark")).to_have_value("wash")
    test.get_by_role("button", name="One stays dark").click()
    expect(ledger(page)).to_contain_text("One stays dark · wash")


BLINKS = """
navigator.mediaDevices.getUserMedia = async () => {
  const lamp = Object.assign(document.createElement("canvas"), { width: 120, height: 120 });
  const pen = lamp.getContext("2d");
  const show = (lit) => {
    pen.fillStyle = lit ? "#fff6d0" : "#201810";
    pen.fillRect(0, 0, 120, 120);
  };
  show(false);
  let at = 600;
  const stroke = (long) => {
    setTimeout(show, at, true);
    at += long ? 900 : 220;
    setTimeout(show, at, false);
    at += 420;
  };
  [true, false].forEach(stroke);
  at += 1300;
  [false, false].forEach(stroke);
  return lamp.captureStream(60);
};
"""
"""A camera before which a lamp strikes six, then two."""


def test_a_camera_that_watches_the_lamp_reads_its_strokes(page: Page):
    page.add_init_script(BLINKS)
    page.goto("/panel/nembrio-f7")
    page.get_by_role("button", name="Let the camera watch the lamp").click()
    expect(page.locator("[data-heard]")).to_contain_text("6-2")
    expect(page.locator("[data-heard]")).to_contain_text("lock did not open")


def test_a_dial_turns_click_by_click_as_a_sheet_that_was_just_written_says(page: Page):
    page.goto("/library/TS/torvane-alta-10/edit")
    sheet = page.get_by_label("YAML")
    turn = "{say: Two clicks to the right., does: turn, at: [dial], clicks: 2, beat_s: 0.5}"
    sheet.fill(sheet.input_value().replace("  entry:\n", f"  entry:\n    - {turn}\n", 1))
    expect(page.locator("#panelpreview")).to_contain_text("Two clicks to the right.")
    page.get_by_role("button", name="Keep the sheet").click()
    panel_of_new_job(page, "torvane-alta-10")
    page.get_by_text("How to get in").click()
    pointer = page.locator(".face [data-pointer]").first
    pointer.evaluate(
        "one => new MutationObserver(() => (one.seen ??= []).push(one.dataset.at))"
        ".observe(one, {attributeFilter: ['data-at']})"
    )
    page.get_by_role("button", name="Next step").click()
    expect(pointer).to_have_attribute("data-at", "90")
    assert pointer.evaluate("one => one.seen.filter((at, n) => at !== one.seen[n - 1])") == [
        "45",
        "90",
    ]
    expect(page.locator("[data-step][aria-current]")).to_contain_text("Lid shut")
