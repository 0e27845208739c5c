"""The mains: drops, loops, leakage and earth: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("voltage_drop", (230, 224), {"volts": 6, "percent": 2.6087}),
        ("loop_ohm", (230, 224, 9), {"ohm": 0.6667, "short_ampere": 345}),
        ("leakage_ma", (230, 1), {"milliampere": 0.23}),
        ("earth_ohm", (1500, 10), {"ohm": 0.15}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
