"""How a part sits, read from points measured on its face."""

from math import cos, hypot, pi, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.bearings.seating import SeatingError, plane_of, seat_tilt, seated, slip
from bottega.core.library.hub_record import Seating

WANT = Seating(name="stand-out", low=17.5, high=18.5, tilt_mm=0.4)


@given(st.floats(0.5, 30), st.floats(-1, 1), st.floats(-1, 1), st.integers(3, 12))
def test_a_tilted_plane_is_read_back(middle, along, across, count):
    points = [
        middle + along * cos(2 * pi * n / count) + across * sin(2 * pi * n / count)
        for n in range(count)
    ]
    mean, tilt = plane_of(points)
    assert mean == pytest.approx(middle)
    assert tilt == pytest.approx(2 * hypot(along, across), abs=1e-9)


@pytest.mark.parametrize(
    ("points", "verdict"),
    [
        ((18, 18.1, 17.9), "sits"),
        ((16.9, 17, 16.8), "too deep"),
        ((19, 19.1, 19), "too far out"),
        ((17.6, 18.4, 18), "tilted"),
    ],
)
def test_how_it_sits(points, verdict):
    assert seated(points, WANT).verdict == verdict


@pytest.mark.parametrize(
    ("point", "looks"),
    [(180, "tenths"), (1.8, "centimetres"), (0.71, "inches"), (28, "first centimetre")],
)
def test_a_slip_of_the_rule_is_asked_about(point, looks):
    assert looks in slip(point, WANT)
    with pytest.raises(SeatingError, match="looks like"):
        seated([18, 18, point], WANT)


def test_points_that_cannot_be():
    with pytest.raises(SeatingError, match="three or more"):
        seated([18, 18], WANT)
    with pytest.raises(SeatingError, match="expected about"):
        seated([18, 18, 400], WANT)
    assert seat_tilt(1, 1, 1, 50) == pytest.approx((1, 0, 0))
