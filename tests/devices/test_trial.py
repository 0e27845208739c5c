"""The line of a meter tried out: who answers, what it shows, and an end to it."""

from bottega.devices.meter import Meter
from bottega.devices.trial import Trial, readable


def test_a_meter_says_who_it_is_and_what_it_shows(stand_in):
    trial = Trial(stand_in.resource, ("resistance", "ac_volts")).start(Meter)
    assert trial.wait(10)
    assert trial.over
    assert trial.trouble == ""
    assert trial.identity
    assert [quantity for quantity, _ in trial.shows] == ["resistance", "ac_volts"]
    assert all(amount is not None for _, amount in trial.shows)


def test_a_line_with_nobody_on_it_ends_in_a_sentence():
    trial = Trial("TCPIP0::127.0.0.1::9::SOCKET", ("resistance",)).start(Meter)
    assert trial.wait(10)
    assert trial.shows == []
    assert trial.trouble


def test_only_what_can_be_asked_for_by_wire_is_tried():
    assert readable(["length", "resistance", "flow", "ac_volts"]) == ("resistance", "ac_volts")
