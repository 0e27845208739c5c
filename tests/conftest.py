"""Shared fixtures: the shipped library, an in-memory workshop with a clock of its own, a job on it."""

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from uuid import uuid4

import pytest

from bottega.app.taking import open_job
from bottega.app.workshop import Workshop, open_workshop
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
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
    made.shop.keep_member(Member("Ilaria Venn", "owner"))
    yield made
    made.close()


@pytest.fixture
def houseboat(workshop: Workshop) -> str:
    """A job as taken on the phone: it hums and does not drain. Returns its number."""
    opened = {"sheet": "nembrio-f7", "age_years": 7, "place": "Houseboat Ondina", "power": "off", "water": "in"}
    text = "The water stays in the drum and it hums."
    return open_job(workshop, opened, text, [], "Ilaria Venn", new_id()).number


def new_id() -> str:
    return str(uuid4())
