"""Ratings and impact rates of bearings, by catalogues and by the known formulas."""

import pytest
from tests.core.bearings.test_fits import T, bearing

from bottega.core.bearings.rates import (
    ball_rates_hz,
    bearing_life,
    impact_rates,
    inside,
    rating_n,
)


@pytest.mark.parametrize(
    ("mark", "rating_kn", "balls"),
    [("6203", 9.95, 8), ("6204", 13.5, 8), ("6205", 14.8, 9), ("6206", 20.3, 9), ("6305", 23.4, 7)],
)
def test_ratings_are_those_of_catalogues(mark, rating_kn, balls):
    within = inside(T.bearings, bearing(mark))
    assert rating_n(T.bearings, within) / 1000 == pytest.approx(rating_kn, rel=0.12)
    assert abs(within.balls - balls) <= 1


def test_the_impact_rates_of_a_known_bearing():
    """6205, 9 balls of 7.94 mm on 39.04 mm, per turn: 3.585, 5.415, 2.357 (by the geometry)."""
    rates = ball_rates_hz(1.0, 9, 7.94, 39.04)
    assert rates["outer"] == pytest.approx(3.585, abs=0.002)
    assert rates["inner"] == pytest.approx(5.415, abs=0.002)
    assert rates["ball"] == pytest.approx(2.357, abs=0.003)
    assert rates["outer"] + rates["inner"] == pytest.approx(9)
    assert rates["outer"] == pytest.approx(9 * rates["cage"])
    assert impact_rates(60, 9, 7.94, 39.04)[0] == pytest.approx(rates["outer"])
    with pytest.raises(ValueError, match="smaller ones"):
        impact_rates(60, 9, 40, 39)


def test_half_the_load_lasts_eight_times():
    hours, years = bearing_life(14.8, 1480, 1000, 3)
    assert hours == pytest.approx(1e9 / 60_000)
    assert bearing_life(14.8, 740, 1000, 3)[0] == pytest.approx(8 * hours)
    assert years == pytest.approx(hours / 3 / 52.18, rel=0.001)
