"""Expected values by physics, with worked examples."""

import pytest

from bottega.core.library.sheet import Plate
from bottega.core.measure.physics import (
    PHYSICS,
    bus_window,
    element_resistance_ohm,
    element_window,
    fill_time_window,
    heating_current_window,
    supply_window,
)


def test_element_resistance_worked_example():
    """A 2 kW element at 230 V: 26.45 ohm (any textbook of physics, R = U²/P)."""
    assert element_resistance_ohm(230, 2000) == pytest.approx(26.45)
    window = element_window(Plate(volts=230, heater_w=2000), 230)
    assert (window.low, window.high) == (
        pytest.approx(25.19, abs=0.01),
        pytest.approx(29.39, abs=0.01),
    )
    assert element_window(Plate(), 230) is None
    with pytest.raises(ValueError, match="above 0"):
        element_resistance_ohm(230, 0)


def test_plate_physics_worked_examples():
    """2 kW at 230 V draws 8.70 A; rectified 230 V peaks at 325 V (any textbook of electrical
    engineering)."""
    current = heating_current_window(Plate(volts=230, heater_w=2000), 230)
    assert current.low < 2000 / 230 < current.high
    assert (current.low, current.high) == (
        pytest.approx(7.83 * 0.9, abs=0.01),
        pytest.approx(9.13 * 1.1, abs=0.01),
    )
    bus = bus_window(Plate(), 230)
    assert bus.low < 325.3 * 0.95 < 325.3 < bus.high
    assert bus_window(Plate(), 120).high == pytest.approx(187, abs=1)
    assert fill_time_window(Plate(capacity_kg=6), 230).high == pytest.approx(198)
    assert heating_current_window(Plate(), 230) is None
    assert fill_time_window(Plate(), 230) is None


def test_every_physics_of_the_library_is_known(shelf):
    for machine in shelf.machines():
        for check in machine.checks.values():
            assert not check.measure or check.measure.physics in (None, *PHYSICS)


def test_a_shop_on_120_volts_expects_120_volts():
    assert supply_window(Plate(), 120).low == pytest.approx(108)
    assert supply_window(Plate(volts=230), 120).high == pytest.approx(253)
