"""The level sensor and its column: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # the millimetre of water is 9.80665 Pa at 1000 kg/m3; the tub's is 20 °C warm
        ("column_pascal", (100,), {"pascal": 980.665 * 0.998}),
        ("sensor_signal", (44000, -1800, 100), {"signal": 44000 - 1800 * 0.97870}),
        ("sensor_level", (44000, -1800, 42238.3), {"millimetres": 100}),
        ("sensor_span", (44000, 43119.2, -1800, 100), {"moved": -880.8, "right_percent": 50}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
