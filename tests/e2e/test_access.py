"""Nothing on any view keeps people out: checked by axe in both themes, on the desktop and the
phone."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

PARTS = 4
"""Of the views, so that processes share them."""
AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_text(encoding="utf-8")
VIEWS = (
    "/",
    "/call",
    "/jobs/0412/call",
    "/jobs/0412/safe",
    "/jobs/0408/panel",
    "/panel/sestra-torre",
    "/washers/W0387",
    "/jobs/0412/prove",
    "/jobs/0398/prove?check=measure_element",
    "/jobs/0412/prove?find=",
    "/jobs/0412/prove?part=drain_pump",
    "/jobs/0412/prove?mark=",
    "/jobs/0403/decide",
    "/jobs/0403/open",
    "/jobs/0403/open?view=layers",
    "/jobs/0403/fit",
    "/jobs/0403/close",
    "/jobs/0406/proof",
    "/jobs/0406/handover",
    "/jobs/0398/report",
    "/jobs/0403/thinking",
    "/jobs/0397/compare",
    "/library",
    "/library/FD/calvessa-dritta-8",
    "/library/FB/nembrio-f7/edit",
    "/library/new",
    "/library/import",
    "/library/which",
    "/rigs",
    "/rigs/ondina01",
    "/how-good",
    "/measure",
    "/measure/drain_head",
    "/measure/bolt_torque",
    "/bearings?mark=62?5-2RS",
    "/seals?shaft=35&bore=52&depth=8&bore_2=65&depth_2=10",
    "/jobs/0403/hub",
    "/jobs/0403/strip",
    "/times",
    "/shop/gear",
    "/jobs/0418/service?step=step_spin_full",
    "/jobs/0418/walk",
    "/jobs/0412/prove?check=measure_windings",
    "/jobs/0412/prove?check=bucket_flow",
    "/shop",
    "/api",
    "/nowhere",
)
ONLY_COLOURS = {"runOnly": ["color-contrast"]}
"""What can differ in the other theme, and there no otherwise on a phone."""
BUT_COLOURS = {"rules": {"color-contrast": {"enabled": False}}}
"""What can differ on views whose colours others show, too."""
BY_SIZE = {
    "runOnly": [
        "aria-hidden-focus",
        "button-name",
        "label",
        "link-name",
        "nested-interactive",
        "scrollable-region-focusable",
        "target-size",
    ]
}
"""What can differ on a phone, where other parts are shown: all else is that of the desk."""
DRAWN = ("/panel", "/jobs/0412/prove", "/jobs/0403", "/library/which", "/shop")
"""How addresses begin of views that between them show every colour; the others are made of the same
few classes."""
SIZES = {"desktop": (1280, 800), "phone": (390, 844)}
AT_THE_DESK = ("/library", "/shop", "/api", "/nowhere")
"""Views that are laid out no otherwise on a phone."""


@pytest.fixture
def view(chromium: Browser, address: str) -> Iterator[Page]:
    """A page whose content policy lets the checker in."""
    context = chromium.new_context(base_url=address, bypass_csp=True)
    yield context.new_page()
    context.close()


def sized(view: Page, size: str) -> None:
    """Give a page the size of a screen."""
    width, height = SIZES[size]
    view.set_viewport_size({"width": width, "height": height})


def looks(address: str) -> Iterator[tuple[str, str, dict]]:
    """Yield how a view is looked at: size, theme and rules."""
    coloured = address.startswith(DRAWN) or address == "/"
    yield "desktop", "paper", {} if coloured else BUT_COLOURS
    if coloured:
        yield "desktop", "cellar", ONLY_COLOURS
    if not address.startswith(AT_THE_DESK):
        yield "phone", "paper", BY_SIZE


@pytest.mark.parametrize("part", range(PARTS))
def test_no_view_keeps_anybody_out(view: Page, part: int):
    found = []
    for address in VIEWS[part::PARTS]:
        sized(view, "desktop")
        view.goto(address)
        view.add_style_tag(content="* { transition: none !important }")
        view.evaluate(AXE)
        for size, theme, rules in looks(address):
            sized(view, size)
            view.evaluate("theme => document.documentElement.dataset.theme = theme", theme)
            result = view.evaluate(
                "rules => axe.run(document, {resultTypes: ['violations'], ...rules})", rules
            )
            found += [
                (address, size, theme, wrong["id"], wrong["nodes"][0]["html"][:200])
                for wrong in result["violations"]
            ]
    assert found == []


@pytest.mark.parametrize("size", SIZES)
def test_the_dark_room_is_chosen_and_stays(view: Page, size: str):
    sized(view, size)
    view.goto("/")
    if view.locator("label[for=menu]").is_visible():
        view.locator("label[for=menu]").click()
    view.get_by_role("button", name="Dark room").click()
    view.wait_for_selector("html[data-theme=cellar]")
    view.goto("/shop")
    view.wait_for_selector("html[data-theme=cellar]")
