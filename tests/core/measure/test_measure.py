"""Readings as typed, expected values by physics with worked examples, and verdicts that are soft
near a limit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.library.sheet import Plate
from bottega.core.measure.judge import NoExpectedValue, expected_window, judge
from bottega.core.measure.physics import (
    PHYSICS,
    bus_window,
    element_resistance_ohm,
    element_window,
    fill_time_window,
    heating_current_window,
    supply_window,
)
from bottega.core.measure.reading import Measured, ReadingError, parse_reading


@pytest.mark.parametrize(
    ("typed", "quantity", "amount"),
    [
        ("184", "resistance", 184),
        ("0.184 k", "resistance", 184),
        ("0,184 kΩ", "resistance", 184),
        ("184 ohm", "resistance", 184),
        ("1.2M", "resistance", 1.2e6),
        ("OL", "resistance", None),
        ("open", "insulation", None),
        ("2 kΩ", "insulation", 0.002),
        ("50 °F", "temperature", 10),
        ("1 inch", "length", 25.4),
        ("2 gal/min", "flow", 7.570823568),
        ("1.5 min", "duration", 90),
        ("43.2 k", "frequency", 43200),
    ],
)
def test_what_is_typed_becomes_the_unit_of_the_quantity(shelf, typed, quantity, amount):
    measured = parse_reading(typed, shelf.tables.quantities[quantity])
    assert measured.amount == (None if amount is None else pytest.approx(amount))


@pytest.mark.parametrize(
    ("typed", "quantity", "message"),
    [
        ("", "resistance", "expected a number"),
        ("about ten", "resistance", "expected a number"),
        ("184 V", "resistance", "expected Ω"),
        ("184 parsecs", "resistance", "expected Ω"),
        ("12 __import__('os')", "resistance", "found"),
        ("-3", "resistance", "expected 0 to"),
        ("4000", "ac_volts", "expected 0 to 1000"),
        ("OL", "ac_volts", "expected a number in V"),
    ],
)
def test_what_cannot_be_a_reading_says_so(shelf, typed, quantity, message):
    with pytest.raises(ReadingError, match=message):
        parse_reading(typed, shelf.tables.quantities[quantity])


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
        pytest.approx(7.83, abs=0.01),
        pytest.approx(9.13, abs=0.01),
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


def test_the_source_goes_sheet_then_plate_then_generic(shelf, f7):
    alone = shelf.machine("FB")
    coil, element, brushes = (
        f7.checks[c] for c in ("measure_pump_coil", "measure_element", "measure_brushes")
    )
    assert expected_window(f7, coil, Plate(), 230).grade == "sheet"
    assert expected_window(alone, coil, Plate(), 230).grade == "guessed"
    assert "rating plate" in expected_window(alone, element, Plate(heater_w=1900), 230).source
    assert expected_window(alone, element, Plate(), 230) == element.measure.generic
    assert expected_window(alone, brushes, Plate(), 230) == brushes.measure.generic
    with pytest.raises(NoExpectedValue, match="not a measurement"):
        expected_window(f7, f7.checks["turn_rotor"], Plate(), 230)


@pytest.mark.parametrize(
    ("amount", "outcome"),
    [(184, "in band"), (20, "shorted"), (120, "shorted"), (900, "open"), (None, "open")],
)
def test_verdicts_of_the_pump_coil(shelf, f7, amount, outcome):
    check = f7.checks["measure_pump_coil"]
    verdict = judge(
        check,
        Measured("", amount, "ohm"),
        f7.values["pump_coil_ohm"],
        shelf.tables.quantities["resistance"],
    )
    assert verdict.outcome == outcome
    assert not verdict.borderline


@given(amount=st.floats(0, 5000))
def test_weights_sum_to_one_and_the_middle_is_sure(shelf, f7, amount):
    check, quantity = f7.checks["measure_pump_coil"], shelf.tables.quantities["resistance"]
    window = f7.values["pump_coil_ohm"]
    verdict = judge(check, Measured("", amount, "ohm"), window, quantity)
    assert sum(verdict.weights.values()) == pytest.approx(1)
    if window.low * 1.05 < amount < window.high * 0.95:
        assert verdict.outcome == "in band"
        assert verdict.weights["in band"] > 0.99


def test_near_a_limit_it_is_borderline(shelf, f7):
    check, quantity = f7.checks["measure_pump_coil"], shelf.tables.quantities["resistance"]
    verdict = judge(check, Measured("", 205.2, "ohm"), f7.values["pump_coil_ohm"], quantity)
    assert verdict.borderline
    assert 0.2 < verdict.weights["in band"] < 0.8
