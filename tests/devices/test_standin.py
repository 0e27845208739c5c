"""The stand-in for a meter behaves as a meter does."""

from queue import Queue

import pytest
from tests.devices.test_meter import heard

from bottega.devices.link import Link, MeterSample
from bottega.devices.meter import Meter
from bottega.devices.standin import ACCURACY, IDENTITY, Display, StandIn


def settled(display: Display, clock: list[float]) -> float | None:
    for _ in range(30):
        clock[0] += 0.1
        shown = display.read()
    return shown


@pytest.mark.parametrize("quantity", ["resistance", "insulation", "ac_volts", "capacitance"])
def test_it_reads_each_function_in_the_unit_of_the_quantity(quantity, touched):
    clock = [0.0]
    display = Display(touched, clock=lambda: clock[0])
    server = StandIn(display).start()
    meter = Meter(server.resource)
    meter.read(quantity)
    settled(display, clock)
    assert meter.identity == IDENTITY
    assert meter.read(quantity) == pytest.approx(touched[quantity], rel=2 * ACCURACY)
    meter.close()
    server.stop()


def test_it_settles_in_time_trembles_within_its_accuracy_and_changes_range(touched):
    clock = [0.0]
    display = Display(touched, clock=lambda: clock[0])
    clock[0] = 0.05
    first = display.read()
    assert first is not None
    assert first < 100
    shown = {settled(display, clock) for _ in range(5)}
    assert len(shown) > 1
    assert all(abs(one - 184) < 184 * 2 * ACCURACY for one in shown)
    touched["resistance"] = None
    assert display.read() is None
    touched["resistance"] = 1e12
    assert display.read() is None


def test_the_error_of_one_instrument_stays_and_another_has_another(touched):
    clock = [0.0]
    ends = []
    for seed in (1, 1, 2):
        clock[0] = 0.0
        ends.append(settled(Display(touched, seed, clock=lambda: clock[0]), clock))
    assert ends[0] == ends[1] != ends[2]


def test_a_line_goes_back_to_a_meter_that_was_away(touched):
    server = StandIn(Display(touched)).start()
    samples: Queue[MeterSample] = Queue()
    link = Link(server.resource)
    link.listen("resistance", samples.put)
    heard(samples, lambda s: s.amount is not None and s.amount > 180)
    server.trouble = "drop"
    assert "no answer" in heard(samples, lambda s: s.trouble).trouble
    server.trouble = ""
    heard(samples, lambda s: s.amount is not None)
    link.leave(samples.put)
    server.stop()
