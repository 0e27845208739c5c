"""Thermistors, both ways: worked examples from textbooks and standards."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.measure.worked import gives_as_expected, out


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # the common 10 kilo-ohm, beta 3950: 3588 ohm at 50 °C
        ("thermistor_ohm", (10000, 3950, 50), {"ohm": 3588}),
        ("thermistor_c", (10000, 3950, 3588), {"celsius": 50}),
        ("thermistor_curve", (10000, 25, 3588, 50), {"beta_k": 3950, "r25_ohm": 10000}),
        ("thermistor_ratio", (3950, 25, 50), {"ratio": 2.787}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)


@given(st.floats(1000, 100_000), st.floats(2500, 5000), st.floats(-10, 95))
def test_a_thermistor_is_read_both_ways(r25: float, beta: float, celsius: float) -> None:
    ohm = out("thermistor_ohm", r25, beta, celsius)["ohm"]
    assert out("thermistor_c", r25, beta, ohm)["celsius"] == pytest.approx(celsius, abs=1e-6)
