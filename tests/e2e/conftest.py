"""The real application on a socket, with demo data, and a real Chromium."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright
from tests.conftest import once_for_all
from tests.e2e.shop import served

from bottega.app.demo import fill
from bottega.app.workshop import open_workshop

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--no-first-run",
    "--disable-sync",
    "--disable-component-update",
]
LIGHT, WHOLE = "/usr/bin/chromium-headless-shell", "/usr/bin/chromium"
CHROMIUM = LIGHT if Path(LIGHT).exists() else WHOLE
"""Debian's Chromium without a window, which takes less of the processor; else the whole of it."""
DESK = {"width": 1280, "height": 800}
POCKET = {"width": 390, "height": 844, "has_touch": True, "is_mobile": True}


@pytest.fixture(scope="module")
def address(demo_shop: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The demo shop, a copy for each module: what others did to its jobs weighs nothing in it."""
    folder = tmp_path_factory.mktemp("e2e") / "shop"
    shutil.copytree(demo_shop, folder)
    with served(folder, meter=True) as base:
        yield base


@pytest.fixture(scope="session")
def demo_shop(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder as the application's own first start fills it; once for all processes that run
    tests."""
    with once_for_all(tmp_path_factory, "demo_shop") as (folder, missing):
        if missing:
            filling = folder.with_name("demo_filling")
            workshop = open_workshop(filling)
            fill(workshop)
            workshop.close()
            filling.rename(folder)
    return folder


@pytest.fixture(scope="module")
def empty_shop(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """A shop of the module's own, without any job: what other tests did weighs nothing in it."""
    with served(tmp_path_factory.mktemp("empty")) as base:
        yield base


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        yield browser
        browser.close()


def expected(text: str) -> bool:
    """Return whether a console error is meant to be: an answer of 4xx, a server that was
    stopped for a test, or a request given up because the page went on."""
    given_up = ("htmx:afterRequest", "htmx:sendAbort", "htmx:sendError", "htmx:onLoadError")
    refused = "ERR_CONNECTION_REFUSED" in text
    return "status of 4" in text or refused or text.startswith(given_up)


def opened(chromium: Browser, address: str, width: int, height: int, **options) -> Iterator[Page]:
    context = chromium.new_context(
        viewport={"width": width, "height": height}, base_url=address, **options
    )
    page = context.new_page()
    problems: list[str] = []
    page.on("pageerror", lambda error: problems.append(str(error)))
    page.on(
        "console",
        lambda m: problems.append(m.text) if m.type == "error" and not expected(m.text) else None,
    )
    expect.set_options(timeout=15_000)
    yield page
    context.close()
    assert problems == []


@pytest.fixture
def page(chromium: Browser, address: str) -> Iterator[Page]:
    yield from opened(chromium, address, **DESK)


@pytest.fixture
def phone(chromium: Browser, address: str) -> Iterator[Page]:
    yield from opened(chromium, address, **POCKET)


@pytest.fixture
def desk(chromium: Browser, empty_shop: str) -> Iterator[Page]:
    """The desktop in a shop of its own."""
    yield from opened(chromium, empty_shop, **DESK)


@pytest.fixture
def pocket(chromium: Browser, empty_shop: str) -> Iterator[Page]:
    """The phone in a shop of its own."""
    yield from opened(chromium, empty_shop, **POCKET)
