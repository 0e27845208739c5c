"""Belts, tachos, fields and drums: worked examples from textbooks and standards."""

from math import pi

import pytest
from tests.core.measure.worked import gives_as_expected, out


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("detents", (8, 2), {"per_turn": 4}),
        ("clicks", (6, 30), {"per_minute": 12, "counted": 6}),
        ("belt_ratio", (285, 22), {"ratio": 12.955}),
        ("belt_slip", (12500, 980, 12.5), {"quotient": 1.02041, "slip_percent": 2}),
        ("tacho_rpm", (80, 8), {"rpm": 600}),
        # four poles: 1500 at 50 Hz, 1800 at 60 Hz (IEC 60034-1)
        ("synchronous", (50, 4, 1425), {"field_rpm": 1500, "slip_percent": 5}),
        ("synchronous", (60, 4, 1710), {"field_rpm": 1800, "slip_percent": 5}),
        # the rule of centrifuges: 1.118e-5 times the radius in cm times rpm squared
        ("wall_force", (1200, 480), {"g": 1.118e-5 * 24 * 1200**2, "wall_m_s": pi * 0.48 * 20}),
        ("unbalance", (0.5, 480, 1200), {"newton": 1895, "weighs_kg": 193.2}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)


def test_what_brakes_a_drum_takes_all_its_energy():
    """The braking moment times the angle turned through is half J omega squared."""
    found = out("coast_down", 7, 480, 1200, 40)
    omega = 1200 * 2 * pi / 60
    turned = omega * 40 / 2
    energy = found["inertia_kg_m2"] * omega**2 / 2
    assert found["brake_nm"] * turned == pytest.approx(energy)
    assert found["inertia_kg_m2"] == pytest.approx(7 * 0.24**2)
