"""Small files: whole, known again by their tag, and served while every hand is at work."""

from concurrent.futures import ThreadPoolExecutor

import anyio
import pytest
from anyio import to_thread

from bottega.web.application import STATIC
from bottega.web.kit.static import StaticFiles

FILES = sorted(file.relative_to(STATIC).as_posix() for file in STATIC.rglob("*") if file.is_file())


@pytest.mark.parametrize("name", FILES)
def test_every_file_is_served_whole_and_known_again(reader, name):
    answer = reader.get(f"/static/{name}")
    assert answer.status_code == 200
    assert answer.content == (STATIC / name).read_bytes()
    tag = answer.headers["etag"]
    for asked in (tag, f'"x", W/{tag}'):
        again = reader.get(f"/static/{name}", headers={"if-none-match": asked})
        assert (again.status_code, again.content) == (304, b"")
    assert reader.get(f"/static/{name}", headers={"if-none-match": '"x"'}).status_code == 200
    head = reader.head(f"/static/{name}")
    assert (head.status_code, head.content) == (200, b"")


@pytest.mark.parametrize("name", ["no.css", "", "../application.py", "%2e%2e/application.py", "//"])
def test_nothing_else_is(reader, name):
    assert reader.get(f"/static/{name}").status_code == 404


def test_below_its_edition_a_file_is_kept_for_good(reader):
    files = StaticFiles(STATIC)
    page = reader.get("/").text
    assert f"/static/{files.edition}/scripts/main.js" in page
    kept = reader.get(f"/static/{files.edition}/scripts/main.js")
    assert "immutable" in kept.headers["cache-control"]
    assert reader.get("/static/scripts/main.js").headers["cache-control"] == "no-cache"


def test_a_page_from_before_a_release_gets_todays_file_and_asks_again(reader):
    old = reader.get(f"/static/{'0' * 16}/app.css")
    assert (old.status_code, old.headers["cache-control"]) == (200, "no-cache")


def test_another_file_is_another_edition(tmp_path):
    (tmp_path / "one.js").write_text("1")
    before = StaticFiles(tmp_path).edition
    assert StaticFiles(tmp_path).edition == before
    (tmp_path / "one.js").write_text("2")
    assert StaticFiles(tmp_path).edition != before
    (tmp_path / "one.js").rename(tmp_path / "other.js")
    assert StaticFiles(tmp_path).edition != before


def test_nobody_writes_one(reader):
    assert reader.post("/static/app.css").status_code in (403, 405)


def test_a_file_is_served_while_every_hand_is_at_work():
    """No thread may be had, and still the file comes."""
    files, sent = StaticFiles(STATIC), []

    async def send(message):
        sent.append(message)

    async def asked():
        limiter = to_thread.current_default_thread_limiter()
        limiter.total_tokens = 1
        with anyio.fail_after(5):
            await limiter.acquire_on_behalf_of(object())
            scope = {"type": "http", "method": "GET", "path": "/app.css", "headers": []}
            await files(scope, None, send)

    with ThreadPoolExecutor(1) as thread:
        thread.submit(anyio.run, asked).result()
    assert sent[0]["status"] == 200
    assert sent[1]["body"] == (STATIC / "app.css").read_bytes()
