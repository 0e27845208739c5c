"""The suspension, by its swing: worked examples from textbooks and standards."""

from math import pi, sqrt

import pytest
from tests.core.measure.worked import gives_as_expected, out


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # damping ratio 0.1 has the decrement 0.6315: 1.880 from bob to bob
        ("swing_by_heights", (40, 40 / 1.8804, 1), {"ratio": 1.8804, "damping": 0.1}),
        ("swing_by_heights", (40, 5, 3), {"ratio": 2}),
        ("swing_by_count", (1,), {"ratio": 20}),
        # between three bobs lie two swings: the root of twenty from one to the next
        ("swing_by_count", (3,), {"ratio": 20**0.5}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)


def test_damping_is_that_of_the_equation_of_motion():
    """A tub on a spring, stepped through: the heights of its bobs give back its damping."""
    damping, omega, dt = 0.15, 2 * pi, 1e-4
    x, v, peaks, before = 40.0, 0.0, [40.0], 0.0
    for _ in range(int(3.2 / dt)):
        v += (-2 * damping * omega * v - omega * omega * x) * dt
        x += v * dt
        if before > 0 >= v:
            peaks.append(x)
        before = v
    found = out("swing_by_heights", peaks[0], peaks[2], 2)
    assert found["damping"] == pytest.approx(damping, rel=0.02)
    assert found["damping"] < sqrt(1)
