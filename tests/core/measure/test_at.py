"""What a reading should be at the temperature or level it is taken at, against tables and physics
of others."""

from math import log

import pytest

from bottega.core.library.records import CurveRecord, Window
from bottega.core.measure.at import asked_at, on_curve, window_at

TABLE = {0: 32650, 25: 10000, 50: 3603, 75: 1481, 100: 679}
"""Resistance of a 10 kΩ probe by °C, as tables of such probes print it (beta about 3950)."""


def curve(points, **more) -> CurveRecord:
    told = {"against": "degC", "unit": "ohm", "source": "a table", "grade": "sheet"}
    return CurveRecord.model_validate({**told, "points": points, **more})


def test_between_two_points_a_thermistor_goes_by_its_equation_not_straight():
    known = curve({t: TABLE[t] for t in (0, 50, 100)}, thermistor=True)
    for celsius in (25, 75):
        assert on_curve(known, celsius) == pytest.approx(TABLE[celsius], rel=0.03)
        straight = on_curve(curve({t: TABLE[t] for t in (0, 50, 100)}), celsius)
        assert abs(log(straight / TABLE[celsius])) > 0.35
    for celsius, ohm in ((0, 32650), (50, 3603), (100, 679)):
        assert on_curve(known, celsius) == pytest.approx(ohm)


def test_a_level_goes_straight():
    known = curve({0: 43200, 100: 40850, 300: 36140}, against="millimeter", unit="hertz")
    assert on_curve(known, 50) == pytest.approx(42025)
    assert on_curve(known, 200) == pytest.approx(38495)


def test_points_out_of_order_or_of_no_ohm_are_refused():
    with pytest.raises(ValueError, match="from least to most"):
        curve({50: 3603, 0: 32650})
    with pytest.raises(ValueError, match="expected more"):
        curve({0: 0, 50: 3603}, thermistor=True)


def test_a_probe_in_warm_water_is_judged_by_the_water(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    check = machine.checks["measure_thermistor"]
    loose = machine.values["thermistor_ohm"]
    at_20, at_40 = (window_at(machine, check, loose, celsius) for celsius in (20, 40))
    assert at_20.low < 10700 < at_20.high
    assert at_40.high < loose.low
    assert at_20.high / at_20.low < loose.high / loose.low
    assert "at 40 °C" in at_40.source
    with pytest.raises(ValueError, match="expected 5 to 90"):
        window_at(machine, check, loose, 120)


def test_a_warm_winding_reads_higher_by_copper(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    check = machine.checks["measure_pump_coil"]
    window = Window(low=100, high=200, unit="ohm", source="x", grade="sheet")
    warm = window_at(machine, check, window, 75)
    # by (234.5 + t) of IEC 60034-1, another way of saying it
    by_zero = (234.5 + 75) / (234.5 + 20)
    assert warm.low == pytest.approx(100 * by_zero, rel=0.002)
    assert warm.high == pytest.approx(200 * by_zero, rel=0.002)
    assert window_at(machine, check, window, 20) == window.model_copy(
        update={"source": "x, copper at 20 °C (IEC 60028)"}
    )


def test_what_moves_with_nothing_is_asked_nothing(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    element = machine.checks["measure_element"]
    window = Window(low=20, high=30, unit="ohm", source="x", grade="sheet")
    assert asked_at(machine, element) is None
    assert asked_at(machine, machine.checks["turn_rotor"]) is None
    assert window_at(machine, element, window, 90) is window
