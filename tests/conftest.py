"""Shared fixtures: the shipped library, an in-memory workshop with a clock of its own, a job on
it."""

import fcntl
import os
import shutil
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from uuid import uuid4

import pytest

from bottega.app.call.call import Call, Words, open_job
from bottega.app.demo import fill
from bottega.app.workshop import Workshop, open_workshop
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
from bottega.store.database import FILE
from bottega.store.shop import Member


class Clock:
    """A clock that goes on a minute each time it is read."""

    def __init__(self) -> None:
        self.at = datetime(2031, 5, 14, 9, 0, tzinfo=UTC)

    def __call__(self) -> datetime:
        self.at += timedelta(minutes=1)
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
    made.keep_member(Member("Ilaria Venn", "owner"))
    yield made
    made.close()


@pytest.fixture
def houseboat(workshop: Workshop) -> str:
    """A job as taken on the phone: it hums and does not drain. Returns its number."""
    opened = Call(
        machine="nembrio-f7", age_years=7, place="Houseboat Ondina", power="off", water="in"
    )
    text = "The water stays in the drum and it hums."
    return open_job(workshop, opened, Words(text), "Ilaria Venn", new_id()).number


@pytest.fixture(scope="session")
def filled(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the demo shop, filled once for all processes that run tests; copied or
    only looked at."""
    base = tmp_path_factory.getbasetemp()
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    folder, filling = shared / "filled", shared / "filling"
    with open(shared / "filled.lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not folder.exists():
            made = open_workshop(filling, Clock())
            fill(made)
            made.close()
            filling.rename(folder)
    return folder


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
