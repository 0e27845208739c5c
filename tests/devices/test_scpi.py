"""The words a meter is asked in, and its answers."""

import pytest

from bottega.devices.meter import Meter
from bottega.devices.scpi import FUNCTIONS, Garbage, NoMeter, WrongFunction, number_of


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


def test_every_function_has_its_own_words():
    nodes = [function.node for function in FUNCTIONS.values()]
    assert len(set(nodes)) == len(nodes)
