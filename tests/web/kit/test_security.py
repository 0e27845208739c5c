"""The door: whose names are served, how much is read, who changes what."""

import asyncio
from concurrent.futures import ThreadPoolExecutor

import pytest
from tests.conftest import new_id
from tests.web.conftest import HOSTS, Browser

from bottega.web.application import create_app
from bottega.web.kit.security import WITH_BUNDLE


@pytest.mark.parametrize(
    "host", ["evil.example", "evil.example:8017", "127.0.0.1.evil.example", ""]
)
def test_a_strangers_name_is_not_served(empty, host):
    answer = empty.get("/", headers={"host": host})
    assert answer.status_code == 400
    assert "Bench" not in answer.text


def test_names_that_were_told_are_served(workshop):
    with Browser(create_app(workshop, "test", [*HOSTS, "faro.local"])) as client:
        assert client.get("/", headers={"host": "faro.local:8017"}).status_code == 200


@pytest.mark.parametrize("address", ["/import", "/library/import", "/api/v1/jobs/import", "/call"])
def test_a_chunked_upload_too_large_is_413(empty, address):
    chunks = (b"x" * 100_000 for _ in range(40 if address not in WITH_BUNDLE else 320))
    kind = "application/json" if "api" in address else "application/x-www-form-urlencoded"
    empty.get("/shop")
    answer = empty.post(address, content=chunks, headers={"content-type": kind})
    assert answer.status_code == 413
    assert "at most 2.5 MB" in answer.text


@pytest.mark.parametrize("token", ["", "guessed", "²", "\u0661" * 40])
def test_a_token_that_is_not_the_sessions_is_refused(empty, workshop, token):
    empty.get("/shop")
    answer = empty.post("/shop/member", data={"token": token, "name": "Eve", "role": "thief"})
    assert answer.status_code == 403
    assert "Eve" not in [member.name for member in workshop.members]


def test_a_cookie_made_up_is_no_session(empty):
    token = empty.token()
    empty.cookies.clear()
    empty.cookies.set("bottega", "eyJ0b2tlbiI6ICJ4In0=.aaaa.bbbb")
    answer = empty.post("/shop/theme", data={"token": token, "theme": "cellar", "back": "/"})
    assert answer.status_code == 403


@pytest.mark.parametrize(
    ("site", "dest", "status"),
    [
        ("same-origin", "image", 200),
        ("none", "document", 200),
        ("cross-site", "document", 200),
        ("cross-site", "image", 403),
        ("cross-site", "iframe", 403),
        ("same-site", "script", 403),
        ("cross-site", "", 403),
    ],
)
def test_a_page_of_another_site_loads_nothing_of_this_one(empty, site, dest, status):
    """Four pictures of a costly address on a stranger's page froze the shop."""
    headers = {"sec-fetch-site": site} | ({"sec-fetch-dest": dest} if dest else {})
    asked = "/seals?shaft=35&bore=52&depth=60&bore_2=52.1&depth_2=60"
    assert empty.get(asked, headers=headers).status_code == status


MANY = 1_000_000 // 4


@pytest.mark.parametrize(
    "body",
    [
        b'{"event_id": "12345678", "said": [' + b"1,1," * MANY + b"1]}",
        b"{" + b",".join(b'"k%d":1' % n for n in range(60_000)) + b"}",
        b'{"opened": ' + b"[" * 300 + b"]" * 300 + b"}",
        b'{"opened": ' + b"[" * 100_000,
    ],
    ids=["wrong items", "wrong keys", "deep", "deeper, and cut"],
)
@pytest.mark.parametrize("address", ["/api/v1/jobs", "/api/v1/panel/decode"])
def test_a_body_without_bounds_is_refused_by_its_letters(empty, monkeypatch, address, body):
    def reached(*_):
        raise AssertionError("an item of it was validated")

    monkeypatch.setattr("bottega.web.api.routes.open_job", reached)
    answer = empty.post(address, content=body, headers={"content-type": "application/json"})
    assert answer.status_code in (400, 422)
    assert len(answer.text) < 1000


def test_looking_writes_nothing(browser, demo, monkeypatch):
    def refuse(self):
        raise AssertionError("a page that is looked at wrote")

    monkeypatch.setattr("bottega.store.database.Database.writing", refuse)
    for address in (
        "/",
        "/call",
        "/shop",
        "/library",
        "/jobs/0412/prove",
        "/jobs/0412/thinking",
        "/jobs/0412/report",
        "/api/v1/jobs/0412/diagnosis",
    ):
        assert browser.get(address).status_code == 200, address


def test_a_form_of_another_sort_is_told_what_is_missing(empty):
    empty.get("/shop")
    answer = empty.post("/shop/member", content=b"{}", headers={"content-type": "application/json"})
    assert answer.status_code == 403
    assert empty.form("/shop/nowhere", id=new_id()).status_code == 404


@pytest.mark.parametrize("address", ["/import", "/call", "/api/v1/jobs/import"])
def test_who_goes_away_in_the_middle_of_a_form_is_no_error(workshop, caplog, address):
    app = create_app(workshop, "test", HOSTS)
    said = answered(app, address, [b"--x\r\nContent-Disposition: form-data", None])
    assert said == []
    assert caplog.text == ""


def test_who_goes_away_in_the_middle_of_an_answer_is_no_error(workshop, caplog):
    app = create_app(workshop, "test", HOSTS)

    async def gone(message):
        if message["type"] == "http.response.body":
            raise RuntimeError("the handler is closed")

    assert answered(app, "/shop", [None], gone, method="GET") == []
    assert caplog.text == ""
    with pytest.raises(RuntimeError, match="closed"):
        answered(app, "/shop", [b""], gone, method="GET")


def answered(app, address, parts, send=None, *, method="POST"):
    """Ask as a server would: parts of the body, None where the client goes away. Returns what was
    answered."""
    said, parts = [], list(parts)

    async def receive():
        if not parts:
            await asyncio.Event().wait()
        part = parts.pop(0)
        if part is None:
            return {"type": "http.disconnect"}
        more = bool(parts) and method == "POST"
        return {"type": "http.request", "body": part, "more_body": more}

    async def keep(message):
        said.append(message)

    kind = b"application/json" if "api" in address else b"multipart/form-data; boundary=x"
    scope = {
        "type": "http",
        "method": method,
        "path": address,
        "raw_path": address.encode(),
        "query_string": b"",
        "headers": [(b"host", HOSTS[0].encode()), (b"content-type", kind)],
        "scheme": "http",
        "server": (HOSTS[0], 80),
        "client": ("127.0.0.1", 9),
        "http_version": "1.1",
    }
    with ThreadPoolExecutor(1) as thread:
        thread.submit(lambda: asyncio.run(app(scope, receive, send or keep))).result()
    return said
