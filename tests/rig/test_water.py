"""Water by geometry, Torricelli and Boyle: hand-worked figures, not the rig's own."""

from math import pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.rig.water import (
    AIR_PA,
    RHO_G,
    in_series,
    orifice_l_s,
    segment_m2,
    trapped_pa,
    tub_of,
)


def test_a_standing_tub_is_a_cylinder():
    tub = tub_of(False, 0.25, 0.5, 0.0001, sump_m=1e-6)
    assert tub.height_m(19.635) == pytest.approx(0.1, abs=2e-3)
    assert pi * 0.25**2 * 0.1 * 1000 == pytest.approx(19.635, abs=1e-3)


def test_a_lying_tub_is_a_circles_segment_over_its_sump():
    tub = tub_of(True, 0.26, 0.33, 2.0, sump_m=0.045)
    depth = 0.12
    litres = 2.0 + segment_m2(0.26, depth) * 0.33 * 1000
    assert tub.height_m(litres) == pytest.approx(0.045 + depth, abs=2e-3)
    assert tub.litres(tub.height_m(9.3)) == pytest.approx(9.3, abs=0.02)


def test_half_a_circle_is_half_its_area():
    assert segment_m2(0.3, 0.3) == pytest.approx(pi * 0.09 / 2)


def test_two_equal_restrictions_in_series_pass_one_over_root_two():
    assert in_series(1.0, 1.0) == pytest.approx(1 / sqrt(2))
    assert in_series(1.0, 0.0, 3.0) == 0.0


def test_a_hole_of_a_square_centimetre_under_a_metre():
    # Torricelli: 4.43 m/s, with a sharp edge 0.62 of the area.
    assert orifice_l_s(100, 1.0) == pytest.approx(0.62 * 1e-4 * 4.429 * 1000, rel=1e-3)
    assert orifice_l_s(100, -0.1) == 0.0


@given(st.floats(0.01, 0.6), st.floats(2e-5, 2e-4), st.floats(1e-4, 1e-3))
def test_trapped_air_keeps_boyles_law(above_m, chamber_m3, area_m2):
    pascal = trapped_pa(above_m, chamber_m3, area_m2)
    rise = above_m - pascal / RHO_G
    assert 0 <= rise <= above_m
    assert AIR_PA * chamber_m3 == pytest.approx(
        (AIR_PA + pascal) * (chamber_m3 - area_m2 * rise), rel=1e-9
    )


def test_air_that_leaked_away_presses_less():
    whole, half = (trapped_pa(0.2, 6e-5, 4e-4, air) for air in (1.0, 0.9))
    assert half < whole <= RHO_G * 0.2
