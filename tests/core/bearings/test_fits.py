"""Fits, pushing, warming, life, rates, seating, against catalogues' sizes and other ways."""

from itertools import pairwise
from math import cos, hypot, pi, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.bearings.fits import FitError, in_housing, on_shaft, press_force, warm_up
from bottega.core.bearings.mark import read_mark
from bottega.core.bearings.rates import (
    ball_rates_hz,
    bearing_life,
    impact_rates,
    inside,
    rating_n,
)
from bottega.core.bearings.seating import SeatingError, plane_of, seat_tilt, seated, slip
from bottega.core.library.hub_record import Seating
from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.joints import bolt_torque

SHELF = shipped_shelf()
T = SHELF.tables
KINDS = ("FB", "FI", "FD", "WD", "TS", "TD", "TG", "SL")


def bearing(mark):
    return read_mark(T.bearings, mark)[0]


@pytest.mark.parametrize("fit", list(T.fits.shafts) + list(T.fits.housings))
def test_every_class_is_as_wide_as_its_grade(fit):
    """The grade is a count of i = 0.45·D^(1/3) + 0.001·D over the mean of the range (ISO 286-1)."""
    counts = {"5": 7, "6": 10, "7": 16}
    classes = T.fits.shafts.get(fit) or T.fits.housings[fit]
    ends = [6.0, *classes]
    for first, last in pairwise(ends):
        mean = (first * last) ** 0.5
        wide = classes[last][0] - classes[last][1]
        assert wide == pytest.approx(
            counts[fit[-1]] * (0.45 * mean ** (1 / 3) + 0.001 * mean), abs=1.3
        )


def test_a_ring_in_its_seat():
    drum = on_shaft(T.fits, bearing("6205"), "k5")
    assert (drum.least_um, drum.most_um, drum.says) == (2, 21, "always tight")
    hole = in_housing(T.fits, bearing("6205"), "J7")
    assert (hole.least_um, hole.most_um) == (-31, 12)
    assert hole.says == "tight or loose as they come"
    assert in_housing(T.fits, bearing("6205"), "P7").says == "always tight"
    with pytest.raises(FitError, match="expected one of"):
        on_shaft(T.fits, bearing("6205"), "z9")


def test_pushing_against_a_thin_shell():
    """A seat of thin wall stretches like a belt: p = E·t·delta/(r·d), its ring hardly gives."""
    d, wall, gpa = 52.0, 1.0, 2.0
    _, pressure = press_force(20, d, 15, wall, gpa)
    thin = gpa * 1000 * wall * (0.020 / d) / (d / 2)
    assert pressure == pytest.approx(thin, rel=0.12)
    force, pressure = press_force(20, 52, 15, 8, 70)
    assert force == pytest.approx(0.15 * pressure * pi * 52 * 15)
    assert 1000 < force < 20_000
    assert press_force(0, 52, 15, 8, 70) == (0, 0)


def test_how_warm_by_the_growth_of_a_bar():
    celsius = warm_up(20, 30, 52, 23.5, 20)
    grown_um = 23.5e-6 * 52_000 * (celsius - 20)
    assert grown_um == pytest.approx(50)


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


@given(st.floats(0.5, 30), st.floats(-1, 1), st.floats(-1, 1), st.integers(3, 12))
def test_a_tilted_plane_is_read_back(middle, along, across, count):
    points = [
        middle + along * cos(2 * pi * n / count) + across * sin(2 * pi * n / count)
        for n in range(count)
    ]
    mean, tilt = plane_of(points)
    assert mean == pytest.approx(middle)
    assert tilt == pytest.approx(2 * hypot(along, across), abs=1e-9)


WANT = Seating(name="stand-out", low=17.5, high=18.5, tilt_mm=0.4)


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


def test_the_torque_of_a_screw_by_the_nut_factor():
    """T = K·F·d with K of about 0.18 to 0.2 for 0.14 of friction, as handbooks give."""
    for thread, pitch in ((6, 1), (8, 1.25), (10, 1.5), (12, 1.75)):
        torque, pull = bolt_torque(thread, pitch, 580, 0.14)
        assert 0.17 < torque * 1000 / (pull * thread) < 0.205
    assert bolt_torque(8, 1.25, 580, 0.14).pull_n / 0.75 == pytest.approx(21_200, rel=0.01)
    with pytest.raises(ValueError, match="finer"):
        bolt_torque(4, 3, 580, 0.14)


@pytest.mark.parametrize("kind", KINDS)
def test_the_bearings_of_every_hub_fit_where_they_stand(kind):
    hub = SHELF.machine(kind).hub
    for one in hub.bearings:
        fits = bearing(one.mark)
        ends = one.at + fits.width_mm
        bores = [b for b in hub.seat if b.from_ < ends - 0.01 and b.to > one.at + 0.01]
        lands = [x for x in hub.shaft if x.from_ < ends - 0.01 and x.to > one.at + 0.01]
        assert {b.mm for b in bores} == {fits.outside_mm}, (kind, one.name)
        assert {x.mm for x in lands} == {fits.bore_mm}, (kind, one.name)
    if hub.relief:
        low, high = hub.relief.at - hub.relief.mm / 2, hub.relief.at + hub.relief.mm / 2
        stand = [(one.at, one.at + bearing(one.mark).width_mm) for one in hub.bearings]
        assert all(last <= low or first >= high for first, last in stand)
