"""Units as shops read them, against figures of the NIST guide to the SI (SP 811, appendix B)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.measure.units import (
    CUSTOMARY,
    SYMBOLS,
    amount_in,
    customary,
    deserved,
    from_system,
    in_system,
    limits_in,
    symbol_of,
)

SP_811 = [
    ("millimeter", 25.4, 1.0),
    ("meter", 0.3048, 1.0),
    ("liter", 3.785412, 1.0),
    ("milliliter", 29.57353, 1.0),
    ("kilogram", 0.45359237, 1.0),
    ("newton", 4.4482216, 1.0),
    ("newton * meter", 1.355818, 1.0),
    ("pascal", 248.84, 1.0),
    ("kilogram * meter ** 2", 0.04214011, 1.0),
    ("degC", 100.0, 212.0),
    ("kelvin", 100.0, 180.0),
]


@pytest.mark.parametrize(("unit", "metric", "us"), SP_811)
def test_the_figures_of_the_standard(unit, metric, us):
    assert in_system(metric, unit, "us").number == pytest.approx(us, rel=2e-6)
    assert from_system(us, unit, "us") == pytest.approx(metric, rel=2e-6)


@given(st.sampled_from(sorted(CUSTOMARY)), st.floats(-1e6, 1e6))
def test_there_and_back_is_the_same(unit, amount):
    shown = in_system(amount, unit, "us").number
    assert from_system(shown, unit, "us") == pytest.approx(amount, rel=1e-9, abs=1e-6)


def test_what_has_no_customary_unit_is_the_same_everywhere():
    assert customary(230, "volt") is None
    assert in_system(230, "volt", "us") == in_system(230, "volt", "metric")
    assert set(SYMBOLS) >= set(CUSTOMARY)
    assert symbol_of("parsec") == "parsec"


@pytest.mark.parametrize(
    ("low", "high", "shown"), [(29, 34, "29 to 34 Ω"), (28.61, 34.39, "29 to 34 Ω")]
)
def test_a_window_has_the_digits_it_deserves(low, high, shown):
    assert limits_in(low, high, "ohm", "metric") == shown


@given(st.floats(0.001, 1e4), st.floats(0.001, 1e4))
def test_rounding_moves_a_limit_by_less_than_a_sixth_of_the_window(low, width):
    first, last = deserved(low, low + width)
    assert abs(first - low) <= width / 6 + 1e-9
    assert abs(last - low - width) <= width / 6 + 1e-9


def test_an_amount_has_three_digits():
    assert amount_in(1234.6, "watt", "metric") == "1230 W"
