"""One job from call to report with the mouse, one with the keyboard alone, and the houseboat job of
the demo."""

import re

import pytest
from playwright.sync_api import Page, Route, expect
from tests.e2e.waits import listens, stands_anew, stands_still

pytestmark = pytest.mark.e2e


def heading(page: Page):
    return page.locator("#main h1")


def ledger(page: Page):
    return page.locator("[aria-label=Ledger]")


def say_what_it_asks(page: Page) -> None:
    """Fill in what the first step wants: the volts that were measured, that a live test may be."""
    volts = page.locator("[data-reach] input[name=measured_v]")
    if volts.count():
        volts.fill("3")
    may = page.locator("[data-reach] [name=ticked]")
    if may.count():
        may.check()


def reach(page: Page) -> None:
    """Do everything that has to come before the step, one button after the other."""
    buttons = page.locator("[data-reach] li:first-child [data-key=k]")
    while buttons.count():
        rows = page.locator("[data-reach] [data-key=k]").count()
        seq = page.locator("input[name=seen]").first.input_value()
        assert rows == 1
        say_what_it_asks(page)
        buttons.first.click()
        stands_anew(page, seq)


def answer(page: Page, label: str) -> None:
    seq = page.locator("input[name=seen]").first.input_value()
    page.get_by_role("button", name=re.compile(label)).first.click()
    stands_anew(page, seq)


def take_call(
    page: Page, machine: str, words: str, age: str = "7", *, place: str = "Boathouse"
) -> str:
    """Open a job by the call page and return its number."""
    page.goto("/call")
    page.locator("select[name=machine]").select_option(machine)
    page.locator("#words").fill(words)
    page.locator("input[name=age_years]").fill(age)
    page.locator("input[name=place]").fill(place)
    expect(page.locator("#maybe")).to_contain_text("the visit comes to")
    page.get_by_role("button", name="Open the job").click()
    expect(page).to_have_url(re.compile(r"/jobs/\d+/"))
    return page.locator("#job").get_attribute("data-number")


def settle_debts(page: Page) -> None:
    """Settle what is owed: put back, repeat, clear, watch."""
    page.locator('[data-station="8"]').click()
    expect(page.locator("[aria-current=step]")).to_contain_text("Close up")
    stands_still(page)
    steps = re.compile("It is back|It stands upright|It is tipped back")
    while page.get_by_role("button", name=steps).count():
        answer(page, steps.pattern)
    page.locator('[data-station="9"]').click()
    expect(page.locator("[aria-current=step]")).to_contain_text("Prove repair")
    expect(heading(page)).to_contain_text("owed")
    while page.locator("[data-debt=open]").count():
        first = page.locator("[data-debt=open]").first
        if first.get_by_role("button", name="The plug is out").count():
            answer(page, "The plug is out")
        elif first.get_by_role("button", name="It is plugged in").count():
            answer(page, "It is plugged in")
        elif first.locator("input[name=insulation_mohm]").count():
            first.locator("input[name=insulation_mohm]").fill("20")
            first.locator("input[name=earth_ohm]").fill("0.12")
            answer(page, "^Well$")
        elif first.get_by_role("button", name="Well", exact=True).count():
            answer(page, "^Well$")
        elif first.get_by_role("button", name="The codes are cleared").count():
            answer(page, "The codes are cleared")
        elif first.locator("input[name=on]").count():
            seq = page.locator("input[name=seen]").first.input_value()
            first.locator("input[name=on]").fill(
                first.locator("input[name=on]").get_attribute("min")
            )
            first.get_by_role("button", name="Look again then").click()
            expect(page.locator("input[name=seen]").first).not_to_have_value(seq)
        elif first.get_by_role("button", name="Note it").count():
            first.locator("input[name=answer]").fill("Looked into: nothing else found.")
            answer(page, "Note it")
        else:
            seq = page.locator("input[name=seen]").first.input_value()
            first.get_by_text("Waive it").click()
            first.locator("input[name=reason]").fill("Repeated by eye while fitting.")
            first.get_by_role("button", name="Waive", exact=True).click()
            expect(page.locator("input[name=seen]").first).not_to_have_value(seq)


def test_the_houseboat_by_following_the_next_sheet(page: Page):
    page.goto("/")
    page.locator("[name=q]").fill("0412")
    page.keyboard.press("Enter")
    page.locator(".pin", has_text="0412").click()
    expect(heading(page)).to_have_text("Turn the pump rotor by hand")
    page.goto("/jobs/0412/prove?check=measure_pump_coil")
    reach(page)
    page.locator("input[name=typed]").fill("184 V")
    page.get_by_role("button", name="Keep this reading").click()
    expect(page.locator("[data-field-error]")).to_contain_text("expected Ω")
    expect(page.locator("input[name=typed]")).to_have_value("184 V")
    page.locator("input[name=typed]").fill("0.184 k")
    answer(page, "Keep this reading")
    expect(ledger(page)).to_contain_text("184 Ω, in band (165 to 205 Ω, sheet)")
    page.goto("/jobs/0412/prove")
    expect(heading(page)).to_have_text("Turn the pump rotor by hand")
    answer(page, "Turns freely, no steps")
    expect(page.locator("#part-drain_pump")).to_have_class(re.compile("is-solid"))
    expect(page.locator("#main")).to_contain_text("Nothing left is worth checking")
    page.get_by_role("link", name="Decide", exact=True).click()
    expect(heading(page)).to_contain_text("rotor slips, no detents")
    answer(page, "Decide this")
    page.get_by_role("link", name="On to opening up").click()
    expect(page.get_by_role("table", name="The ways compared")).to_contain_text("by the front")
    reach(page)
    expect(ledger(page)).to_contain_text("Take the drain pump out")
    page.locator("input[name=part_number]").fill("NB-4410")
    answer(page, "It is fitted")
    settle_debts(page)
    expect(heading(page)).to_have_text("Ready to hand over")
    answer(page, "Hand it over")
    page.get_by_role("link", name="The report").click()
    report = page.locator("main")
    expect(report).to_contain_text("Drain pump: rotor slips, no detents")
    expect(report).to_contain_text("184 Ω")
    expect(report).to_contain_text("Fit a new drain pump")
    expect(report).to_contain_text("NB-4410")


def test_a_whole_job_with_the_keyboard_alone(desk: Page):
    page = desk
    page.goto("/")
    page.keyboard.press("c")
    expect(page.locator("h1").first).to_have_text("Take a call")
    page.locator("select[name=machine]").focus()
    page.keyboard.type("Nembrio")
    page.keyboard.press("Tab")
    page.keyboard.type("It does not drain and the pump rattles")
    page.keyboard.press("Tab")
    for text in ("6", "Quay house"):
        page.keyboard.press("Tab")
        page.keyboard.type(text)
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/jobs/\d+/"))
    listens(page)

    def press(key: str) -> None:
        seq = page.locator("input[name=seen]").first.input_value()
        page.keyboard.press(key)
        stands_anew(page, seq)

    page.keyboard.press("n")
    expect(page.locator("[aria-current=step]")).to_contain_text("Prove")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    wanted = {
        "Shine a light into the pump chamber": "Something lies",
        "Turn the pump rotor by hand": "Stuck fast",
        "Listen while it drains": "Rattles",
        "Open the pump filter and look": "Clear",
    }
    for _ in range(8):
        if "Nothing left" in page.locator("#main").inner_text():
            break
        while page.locator("[data-reach] li button").count():
            volts = page.locator("[data-reach] input[name=measured_v]")
            if volts.count():
                page.keyboard.press("m")
                page.keyboard.type("5")
                press("Enter")
            else:
                press("k")
        if page.locator("input[name=typed]").count():
            page.keyboard.press("m")
            page.keyboard.type("30")
            press("Enter")
            page.keyboard.press("Escape")
            continue
        labels = page.locator("button.outcome [data-says]").all_inner_texts()
        text = wanted.get(heading(page).inner_text(), labels[0])
        press(str(1 + next(n for n, label in enumerate(labels) if label.startswith(text))))
    page.keyboard.press("w")
    expect(ledger(page).locator(".line-through")).to_have_count(1)
    press("w")
    expect(ledger(page).locator(".line-through")).to_have_count(2)
    page.keyboard.press("g")
    page.keyboard.press("5")
    expect(page.locator("[aria-current=step]")).to_contain_text("Decide")
    press("1")
    page.keyboard.press("g")
    page.keyboard.press("7")
    expect(page.locator("[aria-current=step]")).to_contain_text("Fit")
    while page.locator("[data-reach] li button").count():
        press("k")
    press("k")
    expect(page.locator("[aria-current=step]")).to_contain_text("Close up")
    while page.get_by_role("button", name="It is back").count():
        if page.get_by_text("First, while it is still open").count():
            page.keyboard.press("k")
            expect(page.locator("[aria-current=step]")).to_contain_text("Prove")
            press("1")
            expect(page.locator("[aria-current=step]")).to_contain_text("Prove repair")
            page.keyboard.press("g")
            page.keyboard.press("8")
            expect(page.locator("[aria-current=step]")).to_contain_text("Close up")
        else:
            press("k")
    page.keyboard.press("g")
    page.keyboard.press("9")
    expect(page.locator("[aria-current=step]")).to_contain_text("Prove repair")
    owed = page.locator("[data-debt=open]").first
    while owed.locator('[data-key="1"]').count():
        press("1")
    page.keyboard.press("g")
    page.keyboard.press("0")
    expect(page.locator("[aria-current=step]")).to_contain_text("Hand over")


def test_the_phone_does_it_with_three_tabs(phone: Page):
    phone.goto("/jobs/0410/prove")
    expect(phone.locator(".nextsheet")).to_be_visible()
    expect(phone.locator("[aria-label=Ledger]")).to_be_hidden()
    phone.get_by_role("tab", name="Drawing").tap()
    expect(phone.locator("svg.section").first).to_be_visible()
    expect(phone.locator(".nextsheet")).to_be_hidden()
    phone.get_by_role("tab", name="Ledger").tap()
    expect(phone.locator("[aria-label=Ledger]")).to_be_visible()
    phone.get_by_role("tab", name="Next").tap()
    for button in phone.locator("button:visible, a.btn:visible").all():
        box = button.bounding_box()
        assert box is None or box["height"] >= 44, button.inner_text()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_everything_on_the_job_screen_is_seen_without_scrolling_the_page(page: Page):
    page.goto("/jobs/0412/prove")
    assert page.evaluate("document.documentElement.scrollHeight") <= 800
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280


def test_set_aside_and_something_else(page: Page):
    page.goto("/jobs/0410/prove")
    first = heading(page).inner_text()
    page.get_by_text("Cannot do this").click()
    page.get_by_role("textbox", name="Why it cannot be done").fill("no key")
    answer(page, "Set aside")
    expect(heading(page)).not_to_have_text(first)
    page.get_by_role("link", name="Something else").click()
    page.locator("input[name=find]").fill("hinge")
    page.get_by_role("button", name="Search").click()
    page.wait_for_url("**find=hinge**")
    page.get_by_role("link", name="Lift the open door at its edge").click()
    expect(heading(page)).to_have_text("Lift the open door at its edge")


TARGETS = """() => [...document.querySelectorAll("a, button, input, select, summary, textarea")]
  .filter((e) => !e.closest("svg") && e.type !== "hidden" && e.checkVisibility())
  .map((e) => [e, (["checkbox", "radio"].includes(e.type) ? e.closest("label") : e)])
  .map(([e, held]) => [e.innerText || e.name, held.getBoundingClientRect()])
  .filter(([, box]) => box.right > 0 && box.height < 43.5)
  .map(([name, box]) => `${name}: ${Math.round(box.height)}`)"""


def test_a_thumb_finds_everything(phone: Page):
    """Every target of the job screens is at least 44 px high on a phone."""
    small = {}
    for place in ("safe", "panel", "prove", "prove?mark=", "decide", "proof", "prove?part=belt"):
        phone.goto(f"/jobs/0412/{place}")
        for tab in ("Next", "Drawing", "Ledger"):
            phone.get_by_role("tab", name=tab).tap()
            small |= {(place, tab, name): name for name in phone.evaluate(TARGETS)}
    assert small == {}


def test_a_locked_answer_says_why_to_a_key_and_leads_to_what_comes_first(page: Page):
    page.goto("/jobs/0417/prove?check=turn_rotor")
    expect(page.locator("button.outcome").first).to_be_disabled()
    page.keyboard.press("1")
    first = page.locator("[data-reach] li").first
    words = first.locator("span").first.inner_text().split("\n")[0].strip()
    expect(page.locator("#trouble")).to_contain_text("First:")
    expect(page.locator("#trouble")).to_contain_text(words.rsplit(" ", 2)[0])
    expect(first.locator("button").first).to_be_focused()


def test_keeping_by_a_key_while_a_field_is_typed_in(page: Page):
    page.goto("/jobs/0398/prove?check=measure_element")
    typed = page.locator("#main input[name=typed]")
    typed.fill("28.9 Ω")
    page.keyboard.press("Control+Enter")
    expect(ledger(page).get_by_text("28.9 Ω").first).to_be_visible()


def test_the_dark_room(page: Page):
    page.goto("/")
    page.get_by_role("button", name="Dark room").click()
    expect(page.locator("html")).to_have_attribute("data-theme", "cellar")
    page.goto("/jobs/0403/prove")
    expect(page.locator("html")).to_have_attribute("data-theme", "cellar")


def test_a_sheet_for_the_machine_on_the_bench(page: Page):
    """From the job: a new sheet's value in a few fields, back on the job, which says that the sheet
    has changed."""
    page.goto("/jobs/0403/prove?check=measure_brushes")
    page.locator(".titleblock .cell-worth a").click()
    page.locator("form[action$='/value'] select[name=key]").select_option("brush_mm")
    page.locator("form[action$='/value'] input[name=low]").fill("14")
    page.locator("form[action$='/value'] input[name=high]").fill("40")
    page.locator("form[action$='/value'] input[name=unit]").fill("millimeter")
    page.get_by_role("button", name="Keep the value").click()
    expect(page).to_have_url(re.compile("/jobs/0403/"))
    expect(page.locator("#main")).to_contain_text("The sheet has been changed since")
    answer(page, "Use it")
    expect(page.locator("#main")).not_to_contain_text("The sheet has been changed since")


def test_which_machine_is_it(page: Page):
    page.goto("/library/which")
    for trait, key in (("It opens at the front", "1"), ("belt is seen", "2")):
        expect(page.locator("#main")).to_contain_text(trait)
        first = page.locator("#main h2").first
        while trait not in first.inner_text():
            page.keyboard.press("2")
            page.wait_for_load_state()
        page.keyboard.press(key)
        page.wait_for_load_state()
    expect(page.locator("#main")).to_contain_text("direct drive")


def test_the_report_prints(page: Page):
    page.goto("/jobs/0391/report")
    page.evaluate("window.print = () => { document.title = 'printed'; }")
    page.get_by_role("button", name="Print it").click()
    expect(page).to_have_title("printed")


def test_a_server_that_does_not_answer_is_said_and_what_was_typed_stays(page: Page):
    """Stopped, then back again: the same press goes through."""
    page.goto("/jobs/0398/prove?check=measure_element")
    trouble, typed = page.locator("#trouble"), page.locator("#main input[name=typed]")
    expect(trouble).to_be_hidden()
    typed.fill("31.5 ohm")
    page.route("**/jobs/**", lambda route: route.abort("connectionrefused"))
    typed.press("Enter")
    expect(trouble).to_contain_text("Bottega does not answer")
    expect(typed).to_have_value("31.5 ohm")
    page.unroute("**/jobs/**")
    typed.press("Enter")
    expect(trouble).to_be_hidden()


def test_a_slow_answer_is_seen_to_be_on_its_way(page: Page):
    """The page's own requests and the forms a browser sends by itself."""
    page.goto("/jobs/0398/prove")
    held: list[Route] = []
    page.route("**/jobs/0398/decide*", lambda route: held.append(route))
    page.locator('[data-station="5"]').click()
    expect(page.locator("#busy")).to_be_visible()
    held[0].continue_()
    expect(page.locator("#busy")).to_be_hidden()
    page.goto("/shop")
    sent = "new Event('submit', {bubbles: true})"
    page.evaluate(f"document.querySelector('main form[method=post]').dispatchEvent({sent})")
    expect(page.locator("#busy")).to_be_visible()


def test_the_answer_pressed_shows_it_until_the_next_step_stands_there(phone: Page):
    number = take_call(phone, "nembrio-f7", "The door does not lock, it clicks.")
    phone.goto(f"/jobs/{number}/prove")
    held: list[Route] = []
    phone.route("**/prove/event*", lambda route: held.append(route))
    pressed = phone.locator("button.outcome:enabled").last
    says = pressed.locator("[data-says]").inner_text()
    pressed.tap()
    expect(pressed).to_have_attribute("aria-busy", "true")
    expect(phone.locator("[aria-busy=true]")).to_have_count(1)
    while not held:
        phone.evaluate("0")
    held[0].continue_()
    expect(phone.locator("[aria-busy=true]")).to_have_count(0)
    expect(phone.locator("[data-latest]")).to_contain_text(says)
    phone.locator("[data-latest]").get_by_role("button", name="Take it back").tap()
    expect(phone.locator("[data-latest]")).not_to_contain_text(says)


def test_a_figure_typed_where_a_reading_is_asked_begins_it(page: Page):
    page.goto("/jobs/0398/prove?check=measure_element")
    expect(page.locator("#main input[name=typed]")).not_to_be_focused()
    page.keyboard.type("28.9")
    expect(page.locator("#main input[name=typed]")).to_have_value("28.9")
    number = take_call(page, "nembrio-f7", "The door does not lock, it clicks.")
    page.goto(f"/jobs/{number}/prove")
    seq = page.locator("input[name=seen]").first.input_value()
    page.keyboard.press("1")
    expect(page.locator("input[name=seen]").first).not_to_have_value(seq)


def test_an_answer_lost_on_the_way_and_sent_again_is_stored_once(page: Page):
    page.goto("/jobs/0398/prove?check=measure_element")
    typed = page.locator("#main input[name=typed]")
    typed.fill("28.5 Ω")
    arrived: list[int] = []

    def lose_the_answer(route: Route) -> None:
        arrived.append(route.fetch(max_redirects=0).status)
        route.abort("connectionrefused")

    page.route("**/prove/reading*", lose_the_answer)
    typed.press("Enter")
    expect(page.locator("#trouble")).to_contain_text("Bottega does not answer")
    assert arrived == [303]
    page.unroute("**/prove/reading*")
    typed.press("Enter")
    expect(ledger(page).get_by_text("28.5 Ω")).to_have_count(1)


def test_an_error_of_the_server_stands_beside_what_was_typed(phone: Page):
    phone.goto("/jobs/0398/prove?check=measure_element")
    typed = phone.locator("#main input[name=typed]")
    typed.fill("31.5 ohm")
    headers = {"HX-Retarget": "#trouble", "HX-Reswap": "innerHTML", "HX-Reselect": "unset"}
    answer = {"status": 413, "headers": headers, "body": "<strong>Too large.</strong> 4f00"}
    phone.route("**/prove/reading*", lambda route: route.fulfill(**answer))
    typed.press("Enter")
    expect(phone.locator("#trouble")).to_contain_text("4f00")
    expect(typed).to_have_value("31.5 ohm")


def test_the_keys_can_be_seen_by_a_tap_and_the_call_has_its_own(page: Page):
    page.goto("/jobs/0412/prove")
    page.get_by_role("button", name="Keys").click()
    expect(page.get_by_role("dialog")).to_contain_text("take a call")
    page.keyboard.press("Escape")
    page.goto("/")
    page.keyboard.press("c")
    expect(page).to_have_url(re.compile("/call$"))


def test_the_ranking_stands_while_age_and_place_are_empty(page: Page):
    page.goto("/call")
    page.select_option("[name=machine]", "nembrio-f7")
    page.fill("#words", "It trips the RCD every time")
    page.keyboard.press("Tab")
    expect(page.locator("#maybe")).to_contain_text("It trips the breaker")
    expect(page.locator("#maybe")).to_contain_text("It happens every time.")
    page.locator("#maybe").get_by_label("It trips the breaker").uncheck()
    expect(page.locator("#maybe")).to_contain_text("Nothing was made out")
    page.locator("#maybe").get_by_label("It smells burnt").check()
    expect(page.locator("#maybe svg").first).to_be_visible()
    page.fill("#words", "It trips the RCD every time!")
    page.keyboard.press("Tab")
    expect(page.locator("#maybe").get_by_label("It smells burnt")).to_be_checked()


def test_the_phone_has_its_top_bar_in_one_row(phone: Page):
    phone.goto("/")
    expect(phone.locator("header.topbar")).to_be_visible()
    assert phone.locator("header.topbar").bounding_box()["height"] <= 66
    expect(phone.get_by_role("link", name="Library")).to_be_hidden()
    phone.locator("label[for=menu]").click()
    expect(phone.get_by_role("link", name="Library")).to_be_visible()
