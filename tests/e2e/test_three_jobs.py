"""Three whole jobs from the call to the report by the mouse, one by a thumb, one by keys alone:
only what the screen leads with is pressed, and every press is counted."""

from dataclasses import dataclass, field
from re import compile as pattern

import pytest
from playwright.sync_api import Locator, Page, expect

from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import shipped_shelf

pytestmark = pytest.mark.e2e

MOST_STEPS = 60


@dataclass(frozen=True)
class Case:
    """What is rung up about, and what is wrong in truth."""

    kind: str
    words: str
    fault: str


CASES = {
    "leaks": Case(
        "FB",
        "It leaks in the wash, water at the front under the door.",
        "bellows_torn",
    ),
    "hums": Case("TS", "It hums and does not spin. The water is gone.", "capacitor_bad"),
    "trips": Case("FB", "The breaker trips when it heats.", "element_to_earth"),
}


@dataclass
class Hand:
    """Who presses: every press is kept by its words."""

    page: Page
    pressed: list[str] = field(default_factory=list)

    def press(self, target: Locator) -> None:
        """Press something that changes the page, and see it change."""
        stood = standing(self.page)
        self.pressed.append(words_of(target))
        self.reach_out(target)
        self.page.wait_for_function(CHANGED, arg=stood)

    def reach_out(self, target: Locator) -> None:
        target.click()

    def choose(self, field: Locator, option: str) -> None:
        """Choose from a list: open it, and take one."""
        self.pressed += ["the list", option]
        field.select_option(option)

    def enter(self, field: Locator, text: str) -> None:
        """Go into a field and type."""
        self.pressed.append(f"into {field.get_attribute('name')}")
        self.reach_out(field)
        self.page.keyboard.type(text)

    def keep(self, field: Locator, text: str, button: Locator) -> None:
        """Type what is asked for and keep it."""
        self.enter(field, text)
        self.press(button)


class Mouse(Hand):
    """A mouse beside a keyboard: what is typed where the work goes on needs no click."""

    def keep(self, field: Locator, text: str, button: Locator) -> None:
        stood = standing(self.page)
        if field.get_attribute("inputmode") is None:
            self.enter(field, text)
        else:
            self.page.keyboard.type(text)
        expect(field).to_have_value(text)
        self.page.keyboard.press("Enter")
        self.page.wait_for_function(CHANGED, arg=stood)


class Thumb(Hand):
    """A thumb on a phone, which has to tap a field before it can type."""

    def reach_out(self, target: Locator) -> None:
        target.tap()


class Keys(Hand):
    """Keys alone: whatever has to be pressed has its key."""

    def reach_out(self, target: Locator) -> None:
        key = target.get_attribute("data-key")
        assert key is not None, words_of(target)
        self.page.keyboard.press(key)

    def choose(self, field: Locator, option: str) -> None:
        field.focus()
        self.page.keyboard.type(field.locator(f"option[value='{option}']").inner_text())
        expect(field).to_have_value(option)

    def keep(self, field: Locator, text: str, button: Locator) -> None:
        stood = standing(self.page)
        self.enter(field, text)
        expect(field).to_have_value(text)
        self.page.keyboard.press("Enter")
        self.page.wait_for_function(CHANGED, arg=stood)


STANDING = """() => [location.href, document.querySelector("input[name=seen]")?.value,
  document.querySelector("h1")?.textContent].join(" ")"""
CHANGED = f"""(stood) => ({STANDING})() !== stood && !document.querySelector('.htmx-request')
  && 'listens' in document.documentElement.dataset"""


def standing(page: Page) -> str:
    """Return what tells one step from the next."""
    return str(page.evaluate(STANDING))


def words_of(target: Locator) -> str:
    return target.inner_text().split("\n")[0] or str(target.get_attribute("name"))


def answer_of(machine: MachineType, fault: str, check: str) -> str:
    """Return the outcome a fault would most often show, or a sound machine when there is none."""
    record = machine.checks[check]
    effects = machine.faults[fault].effects if fault else {}
    state = effects.get(record.effect) or machine.effects[record.effect].background
    shown = {o.id: zip(state, o.chances, strict=True) for o in record.outcomes}
    chances = {outcome: sum(p * q for p, q in pairs) for outcome, pairs in shown.items()}
    return max(chances, key=lambda outcome: chances[outcome])


def reading_of(machine: MachineType, fault: str, check: str) -> str:
    """Return a figure on the meter that means that outcome."""
    measure, wanted = machine.checks[check].measure, answer_of(machine, fault, check)
    assert measure is not None
    window = machine.values.get(measure.value) or measure.generic
    assert window is not None
    bands = {outcome: band for band, outcome in reversed(measure.bands.items())}
    band = "in" if measure.bands.get("in") == wanted else bands[wanted]
    low, high = window.low, window.high
    figures = {"in": (low + high) / 2, "low": low / 3, "short": 0, "high": high * 3}
    return "OL" if band == "open" else f"{figures[band]:g}"


def take_the_call(hand: Hand, case: Case) -> None:
    page = hand.page
    page.goto("/")
    hand.press(page.locator("a[data-key=c]").first)
    if isinstance(hand, Thumb):
        hand.pressed.append("the words")
        page.locator("#words").tap()
    expect(page.locator("#words")).to_be_focused()
    page.keyboard.type(case.words)
    hand.choose(page.locator("select[name=machine]"), case.kind)
    place = page.locator("input[name=place]")
    if isinstance(hand, Keys):
        place.focus()
        page.keyboard.type("Quay house")
        page.keyboard.press("Enter")
        return
    hand.enter(place, "Quay house")
    expect(page.locator("#maybe svg").first).to_be_visible()
    hand.press(page.get_by_role("button", name="Open the job"))


def go_on(hand: Hand, machine: MachineType, fault: str) -> None:
    """Do what the screen leads with."""
    main = hand.page.locator("#main")
    reach = main.locator("[data-reach] button:enabled")
    if main.locator("[data-reach] input[name=measured_v]").count():
        hand.keep(main.locator("[data-reach] input[name=measured_v]"), "2", reach.first)
    elif main.locator("[data-reach] input[name=ticked]").count():
        main.locator("[data-reach] input[name=ticked]").check()
        hand.press(reach.first)
    elif reach.count():
        hand.press(reach.first)
    elif main.locator("button.outcome:enabled").count():
        outcome = answer_of(machine, fault, main.locator("input[name=check]").first.input_value())
        hand.press(main.locator(f"button.outcome[value='{outcome}']"))
    elif main.locator("input[name=typed]").count():
        check = main.locator("input[name=check]").first.input_value()
        keep = main.get_by_role("button", name="Keep this reading")
        hand.keep(main.locator("input[name=typed]"), reading_of(machine, fault, check), keep)
    elif main.locator("[data-debt=open]").count():
        settle(hand, main.locator("[data-debt=open]").first)
    else:
        first, only = (main.locator(f"[data-key='{key}']:visible") for key in "k1")
        hand.press(first.first if first.count() else only.first)


def settle(hand: Hand, debt: Locator) -> None:
    """Settle what is owed first."""
    measured, found = debt.locator("[name=insulation_mohm]"), debt.locator("[name=answer]")
    programme = debt.locator("[name=programme]")
    if programme.count() and not programme.input_value():
        programme.fill("Cotton 40")
        programme.blur()
    if measured.count():
        earth = debt.locator("[name=earth_ohm]")
        measured.fill("20")
        earth.focus()
        hand.keep(earth, "0.12", debt.get_by_role("button", name="Well", exact=True))
    elif debt.locator("[data-key='1']").count():
        hand.press(debt.locator("[data-key='1']"))
    else:
        hand.keep(found, "Nothing else.", debt.get_by_role("button", name="Note it"))


def do_the_job(hand: Hand, case: Case) -> None:
    machine, page = shipped_shelf().machine(case.kind), hand.page
    take_the_call(hand, case)
    expect(page).to_have_url(pattern(r"/jobs/\d+/"))
    fault = case.fault
    for _ in range(MOST_STEPS):
        if page.url.endswith("/report"):
            break
        if "/close" in page.url or "/proof" in page.url:
            fault = ""
        go_on(hand, machine, fault)
    expect(page).to_have_url(pattern("/report$"))
    report = page.locator("main")
    expect(report).to_contain_text(machine.component_of(case.fault).name)
    expect(report).to_contain_text(machine.faults[case.fault].name)
    expect(report).not_to_contain_text("aived")


def test_by_the_mouse(desk: Page):
    hand = Mouse(desk)
    do_the_job(hand, CASES["leaks"])
    assert len(hand.pressed) <= 30, hand.pressed


def test_by_a_thumb(pocket: Page):
    hand = Thumb(pocket)
    do_the_job(hand, CASES["trips"])
    assert len(hand.pressed) <= 40, hand.pressed


def test_by_keys_alone(desk: Page):
    do_the_job(Keys(desk), CASES["hums"])
