"""What the engine offers and admits, in a real browser: rounds, refusals, conflict, withdrawing,
causes, marks, company."""

import re

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.e2e.test_jobs import answer, heading, ledger, reach, take_call

pytestmark = pytest.mark.e2e


def do(page: Page, number: str, check: str, label: str) -> None:
    """Go to a check by its address, bring the machine there, and answer it."""
    page.goto(f"/jobs/{number}/prove?check={check}")
    reach(page)
    answer(page, label)


def test_a_check_that_cannot_be_done_makes_room_for_the_next(page: Page):
    number = take_call(page, "nembrio-f7", "The water stays in the drum and it hums.")
    page.goto(f"/jobs/{number}/prove")
    first = heading(page).inner_text()
    page.get_by_text("Cannot do this").click()
    answer(page, "No access")
    expect(heading(page)).not_to_have_text(first)
    expect(ledger(page)).to_contain_text("cannot be done: no access")
    page.goto(f"/jobs/{number}/prove?find={first.split()[-1]}")
    expect(page.locator("#main .list", has_text=first)).to_have_count(0)


def test_a_round_stays_while_the_machine_stands_so(page: Page):
    number = take_call(page, "nembrio-f7", "Water on the floor.")
    page.goto(f"/jobs/{number}/prove?check=look_sump_joint")
    expect(page.locator("[data-round] summary")).to_have_text(
        re.compile(r"While it is on its back: \d checks, \d+ min")
    )
    reach(page)
    page.locator("[data-round] summary").click()
    others = page.locator("[data-round] li a")
    assert others.count() >= 1
    name = others.first.inner_text()
    others.first.click()
    expect(heading(page)).to_have_text(name)
    assert page.locator("[data-reach]").count() == 0


def test_findings_that_contradict_are_named_and_the_repeat_settles_it(page: Page):
    number = take_call(page, "nembrio-f7", "The water stays in the drum and it hums.")
    odd = page.locator("[data-conflict]")
    do(page, number, "watch_emptying", "A full stream")
    expect(odd).to_contain_text("repeat this one")
    do(page, number, "watch_emptying", "Nothing comes")
    expect(odd).to_have_count(0)


def test_withdrawing_takes_a_finding_out_of_the_ranking_and_leaves_it_struck_through(page: Page):
    number = take_call(page, "nembrio-f7", "It roars in the spin.")
    before = page.locator(".n-chance").first.text_content()
    do(page, number, "turn_drum", "Free and silent")
    expect(page.locator(".lrow", has_text="Turn the empty drum")).to_contain_text("dB")
    page.goto(f"/jobs/{number}/prove")
    seq = page.locator("input[name=seen]").first.input_value()
    page.keyboard.press("w")
    expect(page.locator("input[name=seen]").first).not_to_have_value(seq)
    expect(page.locator(".lrow.line-through", has_text="Turn the empty drum")).to_have_count(1)
    expect(page.locator(".n-chance").first).to_have_text(before)


def test_what_it_took_with_it_holds_the_hand_over_until_it_is_looked_at(page: Page):
    number = take_call(page, "nembrio-f7", "It rattles when it drains and water stays in the drum.")
    do(page, number, "look_pump_chamber", "Something lies in it")
    page.goto(f"/jobs/{number}/decide")
    page.locator("[data-option]", has_text="out of the pump").get_by_role(
        "button", name="Decide this"
    ).click()
    expect(page.locator("#main")).to_contain_text("Decided:")
    page.goto(f"/jobs/{number}/fit")
    reach(page)
    answer(page, "It is done")
    page.goto(f"/jobs/{number}/handover")
    page.get_by_role("button", name="Hand it over").click()
    expect(page.get_by_role("alert")).to_contain_text("still owed")
    page.goto(f"/jobs/{number}/proof")
    impeller = page.locator(
        "[data-debt]", has_text="Did it take this with it? drain pump, impeller broken"
    )
    impeller.get_by_role("link", name="Look at the impeller").click()
    answer(page, "All there, tight")
    page.goto(f"/jobs/{number}/proof")
    expect(page.locator("[data-debt=done]", has_text="impeller")).to_have_count(1)


def test_a_cause_in_its_use_is_decided_without_a_part_and_nothing_wrong_is_not_offered(page: Page):
    number = take_call(page, "nembrio-f7", "Suds stay in it after the rinse.", age="3")
    do(page, number, "ask_dose", "More than the line")
    do(page, number, "look_suds", "Suds left standing")
    do(page, number, "watch_emptying", "A full stream")
    page.goto(f"/jobs/{number}/decide")
    offered = page.locator("[data-option]")
    expect(offered.filter(has_text=re.compile("nothing wrong", re.I))).to_have_count(0)
    explained = offered.filter(has_text="Explain the dose")
    expect(explained).to_contain_text("No part")
    explained.get_by_role("button", name="Decide this").click()
    expect(ledger(page)).to_contain_text("Decided: explain the dose")
    page.goto(f"/jobs/{number}/report")
    expect(page.locator("main")).to_contain_text("too much detergent")
    expect(page.locator("main")).to_contain_text("suds left standing")


def test_a_mark_on_the_drawing_is_a_finding_where_it_was_tapped(page: Page):
    number = take_call(page, "nembrio-f7", "Water on the floor.")
    page.goto(f"/jobs/{number}/prove?part=drain_pump")
    page.get_by_role("link", name="Mark", exact=True).click()
    expect(heading(page)).to_have_text("Where was it?")
    page.locator("#part-drain_pump").click()
    expect(heading(page)).to_have_text("Drain pump")
    page.locator("input[name=what][value=water]").check()
    page.locator("input[name=age][value=live]").check()
    page.locator("select[name=phase]").select_option("drain")
    answer(page, "Mark it")
    mark = page.locator('[data-mark="water"]')
    expect(mark).to_have_count(1)
    expect(mark.locator("title")).to_contain_text("Seen: water at the drain pump")
    expect(page.locator("#part-drain_pump")).to_have_class(re.compile("is-(narrow|cross|solid)"))
    expect(page.locator(".lrow", has_text="Seen: water at the drain pump")).to_contain_text("dB")


def test_why_first_why_not_and_how_it_thinks(page: Page):
    number = take_call(page, "nembrio-f7", "The water stays in the drum and it hums.")
    page.goto(f"/jobs/{number}/prove")
    page.get_by_text("Why is this first?").click()
    expect(page.locator("[data-why]")).to_contain_text("Without another check")
    page.locator("a.runner").last.click()
    page.get_by_text("Why not this one first?").click()
    expect(page.locator("[data-why]")).to_contain_text("would save")
    page.get_by_role("link", name="How it thinks").click()
    expect(page.locator(".thought")).to_have_count(2)
    expect(page.locator(".thought").last).to_contain_text("water stays in the drum")
    page.goto(f"/jobs/{number}/compare?against=0412")
    expect(page.locator("main table")).to_contain_text("Job 0412")
    page.goto(f"/jobs/{number}/open?view=layers")
    expect(page.locator(".layers [data-operation=filter_flap]:visible")).to_have_count(1)


@pytest.fixture
def second(chromium: Browser, address: str):
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
    yield context.new_page()
    context.close()


def test_two_people_see_each_other_without_a_reload(page: Page, second: Page):
    number = take_call(page, "nembrio-f7", "It roars in the spin.")
    page.goto(f"/jobs/{number}/prove")
    second.goto(f"/jobs/{number}/prove")
    do(page, number, "turn_drum", "Rumbles")
    expect(ledger(second)).to_contain_text("Turn the empty drum by hand")
    second.goto(f"/jobs/{number}/handover")
    second.locator("textarea[name=advice]").fill("half a sentence")
    do(page, number, "lift_edge", "Play")
    expect(ledger(second)).to_contain_text("Lift the front edge of the drum")
    expect(second.locator("#othersnoted")).to_be_visible()
    expect(second.locator("textarea[name=advice]")).to_have_value("half a sentence")
