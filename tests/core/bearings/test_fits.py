"""Fits, pushing, warming, life, rates, seating, against catalogues' sizes and other ways."""

from itertools import pairwise
from math import pi

import pytest

from bottega.core.bearings.fits import FitError, in_housing, on_shaft, press_force, warm_up
from bottega.core.bearings.mark import read_mark
from bottega.core.library.shelf import shipped_shelf

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
