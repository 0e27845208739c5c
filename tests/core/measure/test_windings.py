"""Windings and their copper: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # ten ohm at 20 °C are 12.16 at 75 °C (IEC 60028's coefficient)
        ("copper_at_20", (12.1615, 75), {"ohm_20": 10}),
        ("three_windings", (10, 10, 11), {"ratio": 1.1, "off_percent": 6.452}),
        ("main_against_start", (8, 12), {"ratio": 1.5, "both_ohm": 20}),
        # resistance method of IEC 60335-1: 10 ohm at 20 °C, 12.5 after, room 22 °C
        ("winding_rise", (10, 20, 12.5, 22), {"rise_k": 61.625}),
        ("quotient", (12, 4), {"ratio": 3}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
