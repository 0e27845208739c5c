"""A page of a test's own, with the application's scripts and no server behind it."""

from collections.abc import Callable, Iterator
from mimetypes import guess_type

import pytest
from playwright.sync_api import Browser, BrowserContext, Error, Page, Route

from bottega.web.application import STATIC

HOST = "http://scripts.test"
HEAD = """<!DOCTYPE html><html lang="en"><head>
<script src="/static/scripts/main.js" type="module"></script>
<script src="/static/vendor/htmx.min.js" defer></script>
<script src="/static/vendor/alpine-csp.min.js" defer></script></head>"""
FRAME = """<div id="busy"></div><div id="trouble" data-unanswered="No answer."></div>"""

Written = Callable[..., Page]


@pytest.fixture(scope="module")
def context(chromium: Browser) -> Iterator[BrowserContext]:
    context = chromium.new_context(base_url=HOST, viewport={"width": 800, "height": 600})
    context.route(f"{HOST}/static/**", _static)
    yield context
    context.close()


def _static(route: Route) -> None:
    file = STATIC / route.request.url.removeprefix(f"{HOST}/static/")
    kind = guess_type(file.name)[0] or "application/octet-stream"
    route.fulfill(body=file.read_bytes(), content_type=kind)


@pytest.fixture(scope="module")
def sheet_of_paper(context: BrowserContext) -> Page:
    """A page written upon again and again: opening one takes longer than most tests."""
    return context.new_page()


@pytest.fixture
def written(context: BrowserContext, sheet_of_paper: Page) -> Iterator[Written]:
    """Write a page with a body; ``answers`` are the server's answers by path. With ``clock`` the
    page's time is the test's to move on."""
    opened: list[Page] = []
    fell: list[str] = []

    def fallen(error: Error) -> None:
        fell.append(str(error))

    def write(body: str, answers: dict[str, str] | None = None, clock: bool = False) -> Page:
        page = context.new_page() if clock else sheet_of_paper
        if page not in opened:
            opened.append(page)
            page.on("pageerror", fallen)
        if clock:
            page.clock.install()
        for path, answer in (answers or {}).items():
            page.route(f"{HOST}{path}", _answering(answer))
        whole = f"{HEAD}<body>{FRAME}{body}</body></html>"
        page.route(f"{HOST}/page*", _answering(whole))
        page.goto("/page")
        page.wait_for_selector("html[data-listens]", state="attached")
        return page

    yield write
    for page in opened:
        page.remove_listener("pageerror", fallen)
        if page is sheet_of_paper:
            page.unroute_all()
            page.evaluate("sessionStorage.clear()")
        else:
            page.close()
    assert fell == []


def _answering(text: str) -> Callable[[Route], None]:
    return lambda route: route.fulfill(body=text, content_type="text/html")
