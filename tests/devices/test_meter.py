"""The meter's client against its stand-in on a real socket, sound and ailing."""

from queue import Queue

import pytest

from bottega.devices.link import Link, MeterSample
from bottega.devices.meter import Meter
from bottega.devices.sources import SourceError, fixed_source, rig_source


def heard(samples: "Queue[MeterSample]", wanted) -> MeterSample:
    while True:
        sample = samples.get(timeout=10)
        if wanted(sample):
            return sample


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
