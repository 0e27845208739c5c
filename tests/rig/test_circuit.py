"""The wiring: a bridge by hand, and what a meter shows of whole and broken parts."""

import pytest

from bottega.rig.circuit import NoSuchPoint, net_of, resistance_ohm, volts_between
from bottega.rig.specimen import Specimen


@pytest.fixture(scope="module")
def sound(f7):
    return Specimen(f7, "1").sound


def net(v, on=(), unplugged=None, plugged=False):
    return net_of(v, 20.0, frozenset(on), unplugged, plugged=plugged)


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


def test_a_coil_reads_itself_with_its_plug_off(sound):
    assert resistance_ohm(net(sound, unplugged="pump"), "pump.1", "pump.2") == pytest.approx(
        sound["pump_coil_ohm"], rel=1e-3
    )


def test_with_its_plug_on_other_ways_lie_beside_it(sound):
    alone = resistance_ohm(net(sound, unplugged="hot"), "hot.1", "hot.2")
    stuck = sound.but(hot_rest_ohm=0.05)
    beside = resistance_ohm(net(stuck), "hot.1", "hot.2")
    assert beside < alone


def test_an_open_coil_is_open(sound):
    assert (
        resistance_ohm(net(sound.but(pump_coil_ohm=1e9), unplugged="pump"), "pump.1", "pump.2")
        is None
    )


def test_supply_is_there_only_while_it_is_asked_for(sound):
    asked = volts_between(net(sound, on=["pump"], plugged=True), 230, "pump.pin", "pump.2")
    idle = volts_between(net(sound, plugged=True), 230, "pump.pin", "pump.2")
    assert asked == pytest.approx(230, rel=0.02)
    assert idle < 1


def test_no_supply_through_a_broken_wire(sound):
    broken = net(sound.but(pump_wire_ohm=1e9), on=["pump"], plugged=True)
    assert volts_between(broken, 230, "pump.pin", "pump.2") < 1


def test_a_point_there_is_not_is_named(sound):
    with pytest.raises(NoSuchPoint, match=r"found the test point 'pump\.9'"):
        resistance_ohm(net(sound), "pump.9", "pump.2")
