"""What leaks, where it comes back, and what trips: each figure worked by hand."""

from math import pi

import pytest
from tests.rig.test_machine import ran

from bottega.rig.machine import cabinet_volts

Y = 2 * pi * 50 * 4.7e-9
"""Siemens of a filter's capacitor of 4.7 nF at 50 Hz."""


def test_a_bonded_cabinet_carries_what_leaks_to_earth():
    """400 ohm over 0.08 ohm of bond at 230 V: 0.575 A, 46 mV on the cabinet."""
    volts = cabinet_volts(230, 1 / 400, y_siemens=0.0, bond_ohm=0.08)
    assert volts == pytest.approx(230 * 0.08 / 400.08)
    assert volts / 0.08 == pytest.approx(0.5749, abs=1e-4)


def test_a_filter_alone_leaks_a_third_of_a_milliampere():
    """230 V over 4.7 nF: 230 · 2π · 50 · 4.7e-9 = 0.34 mA, below 0.75 mA (IEC 60335-1)."""
    leaks = cabinet_volts(230, 0.0, y_siemens=Y, bond_ohm=0.08) / 0.08
    assert leaks == pytest.approx(0.3396e-3, rel=1e-3)


def test_a_cabinet_without_earth_hangs_at_half_the_mains():
    assert cabinet_volts(230, 0.0, y_siemens=Y, bond_ohm=1e9) == pytest.approx(115, rel=1e-3)


def test_a_leak_without_earth_makes_the_cabinet_live():
    assert cabinet_volts(230, 1 / 400, y_siemens=Y, bond_ohm=1e9) == pytest.approx(230, rel=1e-3)


@pytest.mark.parametrize(
    ("faults", "values", "trips"),
    [
        ({"element_to_earth": 1.0}, {}, True),
        ({"element_to_earth": 0.0}, {}, False),
        ({"element_to_earth": 1.0}, {"earth_bond_ohm": 1e5}, False),
        ({"earth_loose": 1.0}, {}, False),
    ],
)
def test_what_comes_back_by_earth_trips_and_nothing_else(f7, faults, values, trips):
    machine = ran(f7, faults, **values)
    assert machine.now.tripped is trips


def test_a_live_cabinet_does_not_trip_and_can_be_felt(f7):
    machine = ran(f7, {"element_to_earth": 1.0}, earth_bond_ohm=1e5)
    assert machine.seen.get("cabinet_v") > 200
    assert machine.seen.get("leakage_a") < 0.022


def test_a_wet_stator_trips(shelf):
    machine = ran(shelf.machine("FD", "calvessa-dritta-8"), {"stator_wet": 1.0})
    assert machine.now.tripped
