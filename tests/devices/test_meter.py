"""The meter's client against its stand-in on a real socket, sound and ailing."""

from collections.abc import Iterator
from queue import Queue

import pytest

from bottega.devices.link import Link, MeterSample
from bottega.devices.meter import Meter
from bottega.devices.scpi import FUNCTIONS, Garbage, NoMeter, WrongFunction, number_of
from bottega.devices.sources import SourceError, fixed_source, rig_source
from bottega.devices.standin import ACCURACY, IDENTITY, Display, StandIn


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


@pytest.mark.parametrize(
    ("trouble", "error", "says"),
    [
        ("garbage", Garbage, "expected a number"),
        ("function", WrongFunction, "set to DIOD, expected RES"),
        ("drop", NoMeter, "no answer"),
        ("slow", NoMeter, "takes too long"),
    ],
)
def test_what_ails_it_is_said(stand_in, trouble, error, says):
    meter = Meter(stand_in.resource, timeout_s=0.2)
    stand_in.trouble, stand_in.delay_s = trouble, 0.6
    with pytest.raises(error, match=says):
        meter.read("resistance")
    meter.close()


def test_a_meter_that_is_not_there_is_said():
    with pytest.raises(NoMeter, match="found no"):
        Meter("TCPIP::127.0.0.1::9::SOCKET", timeout_s=0.2)
    with pytest.raises(NoMeter, match="found 'a meter', expected TCPIP"):
        Meter("a meter")


@pytest.mark.parametrize("text", ["", "ohm", "NaN", "1,5"])
def test_what_is_no_number_is_refused(text):
    with pytest.raises(Garbage):
        number_of(text)
    assert number_of("9.9E37") is None
    assert number_of("-9.900000E+37") is None


def heard(samples: "Queue[MeterSample]", wanted) -> MeterSample:
    while True:
        sample = samples.get(timeout=10)
        if wanted(sample):
            return sample


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


def test_two_pages_hear_one_meter_and_who_wants_another_function_is_told(stand_in):
    link = Link(stand_in.resource)
    first: Queue[MeterSample] = Queue()
    second: Queue[MeterSample] = Queue()
    link.listen("resistance", first.put)
    heard(first, lambda s: s.amount is not None)
    link.listen("ac_volts", second.put)
    assert heard(second, lambda s: s.amount is not None).quantity == "ac_volts"
    assert "another page has set the meter to ac_volts" in heard(first, lambda s: s.trouble).trouble
    link.leave(second.put)
    heard(first, lambda s: not s.trouble and s.amount is not None)
    link.leave(first.put)


def test_two_clients_of_one_stand_in_are_both_answered(stand_in):
    one, two = Meter(stand_in.resource), Meter(stand_in.resource)
    assert one.read("resistance") is not None
    assert two.read("resistance") is not None
    one.close()
    two.close()


def test_probes_on_figures_and_on_a_machine():
    source = fixed_source(["resistance=184", "power=1900"])
    assert (source("resistance"), source("power"), source("current")) == (184, 1900, None)
    for wrong in (["ohms=3"], ["resistance=much"]):
        with pytest.raises(SourceError):
            fixed_source(wrong)
    with pytest.raises(SourceError):
        rig_source("ondina01")
    assert rig_source("http://127.0.0.1:9/rigs/none")("resistance") is None


def test_every_function_has_its_own_words():
    nodes = [function.node for function in FUNCTIONS.values()]
    assert len(set(nodes)) == len(nodes)
