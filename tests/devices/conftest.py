"""A stand-in for a meter on a socket, and the probes of it."""

from collections.abc import Iterator

import pytest

from bottega.devices.standin import Display, StandIn


class Touched(dict[str, float | None]):
    """What the probes touch, changed by the test."""

    def __call__(self, quantity: str) -> float | None:
        return self.get(quantity)


@pytest.fixture
def touched() -> Touched:
    return Touched(resistance=184.0, insulation=33.0, ac_volts=230.0, capacitance=16.0)


@pytest.fixture
def stand_in(touched: Touched) -> Iterator[StandIn]:
    server = StandIn(Display(touched)).start()
    yield server
    server.stop()
