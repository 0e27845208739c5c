"""A client that speaks real HTTP semantics to the application, with its session's token at hand."""

import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from tests.conftest import Clock, new_id

from bottega.app.demo import fill
from bottega.app.workshop import Workshop, open_workshop
from bottega.store.database import FILE
from bottega.web.application import create_app


class Browser(TestClient):
    """A test client that fills in what every form carries."""

    def token(self) -> str:
        page = self.get("/shop").text
        return re.search(r'name="token" value="([^"]+)"', page).group(1)

    def form(self, address: str, seen: int | None = None, **fields):
        data = {"token": self.token(), "event_id": new_id(), **fields}
        if seen is not None:
            data["seen"] = str(seen)
        return self.post(address, data=data, follow_redirects=False)


@pytest.fixture(scope="session")
def filled(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the demo shop, filled once."""
    folder = tmp_path_factory.mktemp("filled")
    made = open_workshop(folder, Clock())
    fill(made)
    made.close()
    return folder


@pytest.fixture
def demo(filled: Path, tmp_path: Path) -> Iterator[Workshop]:
    shutil.copy(filled / FILE, tmp_path / FILE)
    opened = open_workshop(tmp_path, Clock())
    yield opened
    opened.close()


@pytest.fixture(scope="session")
def reader(filled: Path) -> Iterator["Browser"]:
    """A browser that only looks."""
    opened = open_workshop(filled, Clock())
    with Browser(create_app(opened, "test")) as client:
        yield client
    opened.close()


@pytest.fixture
def browser(demo: Workshop) -> Iterator[Browser]:
    with Browser(create_app(demo, "test")) as client:
        yield client


@pytest.fixture
def empty(workshop: Workshop) -> Iterator[Browser]:
    with Browser(create_app(workshop, "test")) as client:
        yield client
