"""Shared fixtures: the shipped library, an in-memory workshop with a clock of its own, a job on
it."""

import fcntl
import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from uuid import uuid4

import hypothesis
import pytest

from bottega.app.call.call import Call, Words, open_job
from bottega.app.demo import fill
from bottega.app.workshop import Workshop, open_workshop, ready_to_serve
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
from bottega.store.database import FILE

SHEETS_OF_EVERY_KIND = (
    "nembrio-f7",
    "calvessa-dritta-8",
    "virgola-asciutta-7",
    "torvane-alta-10",
    "ostrel-linea-t",
    "sestra-torre",
    "pellandra-400",
    "quernia-compatta-5",
)
"""A sheet of each kind of machine."""
hypothesis.settings.register_profile("untimed", deadline=None, database=None)
hypothesis.settings.load_profile("untimed")


def pytest_sessionstart() -> None:
    """Load the library and settle the process as the application does before it serves."""
    shipped_shelf()
    ready_to_serve()


class Clock:
    """A clock that goes on six minutes each time it is read: so every charge was waited for."""

    def __init__(self) -> None:
        self.at = datetime(2031, 5, 14, 9, 0, tzinfo=UTC)

    def __call__(self) -> datetime:
        self.at += timedelta(minutes=6)
        return self.at


@pytest.fixture(scope="session")
def shelf() -> Shelf:
    return shipped_shelf()


@pytest.fixture(scope="session")
def f7(shelf: Shelf) -> MachineType:
    return shelf.machine("FB", "nembrio-f7")


@pytest.fixture
def workshop() -> Iterator[Workshop]:
    made = open_workshop(None, Clock())
    made.change_member("Ilaria Venn", lambda _: "owner")
    yield made
    made.close()


@pytest.fixture
def houseboat(workshop: Workshop) -> str:
    """A job as taken on the phone: it hums and does not drain. Returns its number."""
    opened = Call(
        machine="nembrio-f7", age_years=7, place="Houseboat Ondina", power="off", water="in"
    )
    text = "The water stays in the drum and it hums."
    return open_job(workshop, opened, Words(text), "Ilaria Venn", event_id=new_id()).number


@pytest.fixture(scope="session")
def filled(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the demo shop, filled once for all processes that run tests; copied or
    only looked at."""
    with once_for_all(tmp_path_factory, "filled") as (folder, missing):
        if missing:
            filling = folder.with_name("filling")
            made = open_workshop(filling, Clock())
            fill(made)
            made.close()
            filling.rename(folder)
    return folder


@contextmanager
def once_for_all(factory: pytest.TempPathFactory, name: str) -> Iterator[tuple[Path, bool]]:
    """Give a folder that all processes that run tests share, and whether it is still missing; one
    of them at a time."""
    base = factory.getbasetemp()
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    with open(shared / f"{name}.lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield shared / name, not (shared / name).exists()


@pytest.fixture(scope="session")
def shop(filled: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Workshop]:
    """The demo shop; only looked at."""
    folder = tmp_path_factory.mktemp("shop")
    shutil.copy(filled / FILE, folder / FILE)
    made = open_workshop(folder, Clock())
    yield made
    made.close()


def new_id() -> str:
    return str(uuid4())
