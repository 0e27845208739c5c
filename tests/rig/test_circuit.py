"""The wiring: a bridge by hand, and what a meter shows of whole and broken parts."""

import pytest

from bottega.rig.circuit import (
    Contacts,
    NoSuchPoint,
    beside_live,
    direct,
    fed_of,
    net_of,
    resistance_ohm,
    volts_between,
)
from bottega.rig.specimen import Specimen


@pytest.fixture(scope="module")
def sound(f7):
    return Specimen(f7, "1").sound


@pytest.fixture(scope="module")
def net(f7):
    """Return the wiring of a machine as a net: for an ohmmeter while its plug is out."""

    def of(v, on=(), unplugged=None, plugged=False):
        stands = Contacts(frozenset(on), unplugged=unplugged, plugged=plugged)
        made = net_of(f7.wiring, v, stands)
        return beside_live(made, f7.wiring, 50.0) if plugged else direct(made, f7.wiring)

    return of


def test_an_unbalanced_bridge():
    # Star-delta by hand: 10, 20, 30, 40 Ω with 50 Ω across.
    bridge = [
        ("a", "b", 10.0),
        ("a", "c", 20.0),
        ("b", "d", 30.0),
        ("c", "d", 40.0),
        ("b", "c", 50.0),
    ]
    ab, ac, bc = 10 * 20 / 80, 0, 0
    star_a, star_b, star_c = 10 * 20 / 80, 10 * 50 / 80, 20 * 50 / 80
    expected = star_a + 1 / (1 / (star_b + 30) + 1 / (star_c + 40))
    assert resistance_ohm(bridge, "a", "d") == pytest.approx(expected, rel=1e-6)
    assert (ab, ac, bc)[0] == star_a


def test_a_coil_reads_itself_with_its_plug_off(sound, net):
    assert resistance_ohm(net(sound, unplugged="pump"), "pump.1", "pump.2") == pytest.approx(
        sound["pump_coil_ohm"], rel=1e-3
    )


def test_with_its_plug_on_other_ways_lie_beside_it(sound, net):
    alone = resistance_ohm(net(sound, unplugged="hot"), "hot.1", "hot.2")
    stuck = sound.but(hot_rest_ohm=0.05)
    beside = resistance_ohm(net(stuck), "hot.1", "hot.2")
    assert beside < alone


def test_an_open_coil_is_open(sound, net):
    assert (
        resistance_ohm(net(sound.but(pump_coil_ohm=1e9), unplugged="pump"), "pump.1", "pump.2")
        is None
    )


def test_supply_is_there_only_while_it_is_asked_for(sound, net):
    asked = volts_between(net(sound, on=["pump"], plugged=True), 230, "pump.pin", "pump.2")
    idle = volts_between(net(sound, plugged=True), 230, "pump.pin", "pump.2")
    assert asked == pytest.approx(230, rel=0.02)
    assert idle < 1


def test_no_supply_through_a_broken_wire(sound, net):
    broken = net(sound.but(pump_wire_ohm=1e9), on=["pump"], plugged=True)
    assert volts_between(broken, 230, "pump.pin", "pump.2") < 1


def test_a_point_there_is_not_is_named(sound, net):
    with pytest.raises(NoSuchPoint, match=r"found the test point 'pump\.9'"):
        resistance_ohm(net(sound), "pump.9", "pump.2")


def test_a_wire_that_hangs_in_the_air_shows_volts_that_drive_nothing(sound, net):
    """60 pF against live and as much against earth at 50 Hz, 53 Mohm each, and a meter of 10 Mohm:
    230 V · |Z| / |Z - 53j Mohm| with Z of the meter beside the other 53 Mohm, 41 V."""
    hangs = net(sound, unplugged="pump", plugged=True)
    assert volts_between(hangs, 230, "pump.pin", "board.N") == pytest.approx(41, abs=4)
    held = net(sound, plugged=True)
    assert volts_between(held, 230, "pump.pin", "board.N") < 1


def test_a_coil_s_volts_are_divided_by_impedances(f7, sound):
    """100 ohm in series with 170 ohm and 400 ohm of reactance: |170 + 400j| / |270 + 400j|."""
    v = sound.but(pump_wire_ohm=100.0, pump_coil_ohm=170.0, pump_reactance_ohm=400.0)
    share = fed_of(f7.wiring, v, Contacts(frozenset({"pump"}))).shares["pump"]
    assert share == pytest.approx(434.6 / 482.6, rel=1e-3)


def test_what_heats_and_turns_gets_nothing_while_the_lock_s_contact_is_open(f7, sound):
    asked = frozenset({"element", "motor", "pump"})
    open_, shut = (
        fed_of(f7.wiring, sound, Contacts(on, turns=True)).shares
        for on in (asked, asked | {"lock_contact"})
    )
    assert open_["pump"] == pytest.approx(shut["pump"], rel=0.01)
    for load in ("element", "motor"):
        assert open_[load] < 1e-4 < 0.9 < shut[load]


def test_an_ohmmeter_sees_no_capacitor(shelf):
    top = shelf.machine("TS")
    v = Specimen(top, "1").sound
    off = direct(net_of(top.wiring, v, Contacts(plugged=False, unplugged="motor")), top.wiring)
    assert resistance_ohm(off, "motor.1", "motor.2") == pytest.approx(v.motor_coil_ohm, rel=1e-3)
    assert resistance_ohm(off, "motor.1", "start.1") is None or v.capacitor_short_ohm < 1e8
