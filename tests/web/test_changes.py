"""Every route that changes something is guarded, and every answer carries the policy."""

import pytest
from tests.web.conftest import seq

F7 = "/library/FB/nembrio-f7"


CHANGES = [
    f"{F7}/value",
    "/library/new",
    "/library/import",
    "/call",
    "/call/preview",
    "/import",
    "/shop",
    "/shop/member",
    "/shop/author",
    "/shop/theme",
    "/jobs/0412/prove/event",
    "/jobs/0412/prove/reading",
    "/jobs/0412/panel/flashes",
    "/jobs/0412/decide/decide",
    "/jobs/0412/prove/undo",
]


@pytest.mark.parametrize("address", CHANGES)
def test_changes_want_the_sessions_token_and_the_same_origin(browser, demo, address):
    before = seq(demo)
    browser.get("/")
    file = {"files": {"file": ("x", b"{}")}} if address == "/import" else {}
    assert browser.post(address, data={"token": "guessed"}, **file).status_code == 403
    token = browser.token()
    for headers in ({"Origin": "http://evil.example"}, {"Sec-Fetch-Site": "cross-site"}):
        assert (
            browser.post(address, data={"token": token}, headers=headers, **file).status_code == 403
        )
    assert seq(demo) == before


def test_every_answer_carries_the_content_policy(browser):
    for address in ("/", "/nowhere", "/api/v1/library", "/static/app.css"):
        policy = browser.get(address).headers["content-security-policy"]
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy


def test_a_body_over_the_limit_is_refused_before_it_is_read(browser):
    answer = browser.post(
        "/library/import",
        content=b"x" * 3_000_000,
        headers={"content-type": "application/octet-stream"},
    )
    assert answer.status_code == 413


def test_pages_hold_no_inline_script_or_style(browser):
    for address in (
        "/",
        "/call",
        f"{F7}/edit",
        "/library/which",
        "/jobs/0412/prove",
        "/jobs/0412/panel",
        "/jobs/0391/report",
        "/shop",
        "/library/FB",
    ):
        page = browser.get(address).text
        assert " style=" not in page
        assert "<style" not in page
        assert "<script>" not in page
        assert " onclick=" not in page
