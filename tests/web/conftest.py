"""A client that speaks real HTTP semantics to the application, with its session's token at hand."""

import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from tests.conftest import Clock, new_id

from bottega.app.workshop import Workshop, open_workshop
from bottega.store.database import FILE
from bottega.web.application import create_app

HOSTS = ("testserver",)
"""As whom the test client asks."""


def seq(workshop: Workshop, number: str = "0412") -> int:
    """Return how many events a job has."""
    return workshop.log.seq(number)


class Browser(TestClient):
    """A test client that fills in what every form carries."""

    known = ""
    """The token of this browser's session, once it was read."""

    def token(self) -> str:
        page = self.get("/shop").text
        return re.search(r'name="token" value="([^"]+)"', page).group(1)

    def form(self, address: str, seen: int | None = None, **fields):
        self.known = self.known or self.token()
        data = {"token": self.known, "event_id": new_id(), **fields}
        if seen is not None:
            data["seen"] = str(seen)
        return self.post(address, data=data, follow_redirects=False)


@pytest.fixture
def demo(filled: Path, tmp_path: Path) -> Iterator[Workshop]:
    shutil.copy(filled / FILE, tmp_path / FILE)
    opened = open_workshop(tmp_path, Clock())
    yield opened
    opened.close()


@pytest.fixture(scope="session")
def reader(shop: Workshop) -> Iterator["Browser"]:
    """A browser that only looks."""
    with Browser(create_app(shop, "test", HOSTS)) as client:
        yield client


@pytest.fixture
def browser(demo: Workshop) -> Iterator[Browser]:
    with Browser(create_app(demo, "test", HOSTS)) as client:
        yield client


@pytest.fixture
def empty(workshop: Workshop) -> Iterator[Browser]:
    with Browser(create_app(workshop, "test", HOSTS)) as client:
        yield client
