"""Heating elements and the water they warm: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # 2 kW at 230 V: 26.45 ohm, 8.70 A (any textbook of physics)
        ("element_ohm", (230, 2000), {"ohm": 26.45}),
        ("power_at_mains", (26.45, 230), {"watts": 2000, "ampere": 8.696}),
        # the power falls with the square of the volts: 10 % less gives 81 %
        ("power_at_mains", (26.45, 207), {"watts": 1620}),
        ("heating_watts", (2060, 60), {"watts": 2000}),
        # ten litres by 25 K take 1.0444 MJ: 522 s of 2 kW
        ("warming", (10, 2000, 15, 40, 0), {"minutes": 8.703, "rise_c_min": 2.8726}),
        ("effective_watts", (10, 15, 40, 522.2, 0, 2500), {"watts": 2000, "plate_percent": 80}),
        ("effective_watts", (10, 15, 15, 522.2, 150, 2000), {"plate_percent": 0}),
        # half a degree in ten minutes is the room or the probe, not an element
        ("effective_watts", (10, 15, 15.5, 600, 150, 1000), {"plate_percent": 6.96}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
