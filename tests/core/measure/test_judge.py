"""Where an expected value comes from, and verdicts that are soft near a limit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.library.sheet import Plate
from bottega.core.measure.judge import NoExpectedValue, expected_window, judge
from bottega.core.measure.reading import Measured


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
    [
        (184, "in band"),
        (20, "shorted"),
        (120, "shorted"),
        (900, "inconclusive"),
        (20000, "open"),
        (None, "open"),
    ],
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
    assert sum(verdict.weights.values()) == pytest.approx(1)
