"""Flow by bucket, drop and count: worked examples from textbooks and standards."""

import pytest
from tests.core.measure.worked import gives_as_expected


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("bucket", (5, 30), {"l_min": 10}),
        ("drops", (50, 60), {"ml_min": 50}),
        ("bucket_both", (5, 30, 4, 48), {"cold_l_min": 10, "hot_l_min": 5, "weaker_l_min": 5}),
        # eight tries of a thing that happens three times in ten: 94 in a hundred have seen it
        ("run_on_tally", (8, 0), {"ran_on_percent": 0, "shown_percent": 94.235}),
        ("run_on_tally", (4, 1), {"ran_on_percent": 25}),
        ("time_to_level", (15, 10, 360), {"seconds": 90, "time_out_percent": 25}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)
