"""The door: whose names are served, how much is read, who changes what."""

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
