"""What is left of a brush: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("brush_left", (36, 20, 10, 8, 4), {"left_mm": 10, "wear_mm_year": 2, "years": 5}),
        ("brush_left", (36, 8, 10, 8, 4), {"left_mm": 0, "years": 0, "cycles": 0}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
