"""Take the pictures of docs/screenshots from a freshly filled demo shop."""

import socket
import sys
import tempfile
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from playwright.sync_api import Page, sync_playwright
from tests.e2e.conftest import ARGUMENTS, CHROMIUM

from bottega.benchmark.served import served

TO = Path(__file__).parents[1] / "docs" / "screenshots"
DESKTOP, PHONE = (1280, 800), (390, 844)


def call(page: Page) -> None:
    """Type a call until the ranking stands."""
    page.select_option("[name=machine]", "nembrio-f7")
    page.fill("[name=age_years]", "7")
    page.fill("[name=place]", "Boathouse")
    page.click("#words")
    page.keyboard.type("It does not drain, the water stays in it and it hums.")
    page.keyboard.press("Tab")
    page.wait_for_selector("#maybe svg")


def lit(page: Page) -> None:
    """Touch lamps on the drawn panel as they light, one of them unsure."""
    panel = page.get_by_role("group", name="Panel")
    for name in ("soak", "soak", "rinse", "dry", "dry", "dry"):
        panel.get_by_role("button", name=name).click()
    page.wait_for_selector("[data-written]")


def running(page: Page) -> None:
    """Let the machine run through its functions for a while."""
    page.get_by_role("button", name="60 times").click()
    page.get_by_role("button", name="Every function in turn").click()
    page.wait_for_selector("#standing p:has-text('water 1')")


def measured(page: Page) -> None:
    """Unplug the machine on the rig, lay the leads and wait until the meter has settled."""
    while page.locator("[data-reach]").count():
        volts = page.locator("[data-reach] [name=measured_v]")
        if volts.count():
            volts.fill("0")
        left = page.locator("[data-reach] li").count()
        page.locator("[data-reach] button").first.click()
        page.wait_for_function(
            "n => document.querySelectorAll('[data-reach] li').length !== n", arg=left
        )
    page.get_by_role("button", name="Listen to the meter").click()
    page.get_by_role("button", name="Lay the leads").click()
    page.wait_for_selector(".meter[data-state=settled]")


def opened(page: Page) -> None:
    """Open the machine up to its front panel, something soaking."""
    while "front panel" not in page.locator("[data-reach] li").first.inner_text():
        volts = page.locator("[data-reach] [name=measured_v]")
        if volts.count():
            volts.fill("0")
        seen = page.locator("input[name=seen]").first.input_value()
        page.locator("[data-reach] [data-key=k]").click()
        page.wait_for_function(
            "s => document.querySelector('input[name=seen]').value !== s", arg=seen
        )


SHOTS = [
    ("bench", "/", DESKTOP, None),
    ("call", "/call", DESKTOP, call),
    ("job", "/jobs/0412/prove", DESKTOP, None),
    ("rig", "/rigs/ondina01", DESKTOP, running),
    ("job-reading", "/jobs/0418/prove?check=measure_machine_insulation", DESKTOP, measured),
    ("job-proof", "/jobs/0406/proof", DESKTOP, None),
    ("job-phone", "/jobs/0412/prove", PHONE, None),
    ("service", "/jobs/0418/service?step=step_drain", PHONE, None),
    ("job-open", "/jobs/0403/open", DESKTOP, opened),
    ("hub", "/jobs/0403/hub", DESKTOP, None),
    ("thinking", "/jobs/0403/thinking", DESKTOP, None),
    ("decide", "/jobs/0403/decide", DESKTOP, None),
    ("report", "/jobs/0398/report", DESKTOP, None),
    ("library", "/library", DESKTOP, None),
    ("library-sheet", "/library/FD/calvessa-dritta-8?fault=position_sensor_bad", DESKTOP, None),
    ("library-edit", "/library/FB/nembrio-f7/edit?job=0412", DESKTOP, None),
    ("library-which", "/library/which?seen=-front,-knob", DESKTOP, None),
    ("job-top-loader", "/jobs/0408/prove", DESKTOP, None),
    ("panel", "/jobs/0413/panel", DESKTOP, lit),
]


def main() -> None:
    """Start the demo, take every picture, end it."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    TO.mkdir(parents=True, exist_ok=True)
    with (
        tempfile.TemporaryDirectory() as folder,
        served("demo", port, Path(folder) / "shop"),
        sync_playwright() as playwright,
    ):
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        for name, address, (width, height), before in SHOTS:
            page = browser.new_page(viewport={"width": width, "height": height})
            page.goto(f"http://127.0.0.1:{port}{address}")
            page.wait_for_load_state("networkidle")
            if before:
                before(page)
            page.screenshot(path=TO / f"{name}.png")
            page.close()
        browser.close()


if __name__ == "__main__":
    main()
