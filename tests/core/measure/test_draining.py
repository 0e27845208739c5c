"""Draining: head, friction, siphons: worked examples from textbooks and standards."""

from math import pi

import pytest
from tests.core.measure.worked import gives_as_expected, out


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("siphons", (200, 350, 1), {"can": 1}),
        ("siphons", (200, 350, 0), {"can": 1}),
        ("siphons", (400, 350, 1), {"can": 1}),
        ("siphons", (400, 350, 0), {"can": 0}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)


def test_the_friction_of_a_hose_agrees_with_hazen_and_williams():
    """The other rule of plumbers, 10.67 L Q^1.852 / (C^1.852 d^4.87) with C 140 for plastic."""
    for l_min in (10, 15, 20):
        q, d = l_min / 60_000, 0.019
        hazen = 10.67 * 2 * q**1.852 / (140**1.852 * d**4.87)
        found = out("drain_head", 850, 100, 2, 19, l_min)
        assert found["friction_m"] == pytest.approx(hazen, rel=0.12)
        assert found["head_m"] == pytest.approx(0.75 + found["friction_m"])


def test_slow_water_has_the_friction_of_hagen_and_poiseuille():
    """32 nu v L / (g d²), below Reynolds 2000."""
    found = out("drain_head", 850, 100, 2, 19, 1)
    speed = 1 / 60_000 / (pi * 0.019**2 / 4)
    assert found["friction_m"] == pytest.approx(32 * 1e-6 * speed * 2 / (9.80665 * 0.019**2))
