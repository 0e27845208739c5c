"""Machines of every way a panel shows what takes time: those of the sheets, and made-up ones."""

import pytest

from bottega.benchmark.panel import made_up


@pytest.fixture(scope="session")
def striker(shelf):
    """One lamp, long strokes for five."""
    return shelf.machine("FB", "nembrio-f7")


@pytest.fixture(scope="session")
def player(shelf):
    """High and low beeps."""
    return shelf.machine("FI", "quernia-compatta-5")


@pytest.fixture(scope="session")
def beeper(shelf):
    """Two groups of beeps."""
    return made_up(shelf.machine("FB", "nembrio-f7"), "beeps")


@pytest.fixture(scope="session")
def colours(shelf):
    """Two lamps of different colours."""
    return made_up(shelf.machine("FB", "nembrio-f7"), "flash_trains")


@pytest.fixture(scope="session")
def rhythmic(striker, player, beeper, colours):
    """All of them."""
    return [striker, player, beeper, colours]
