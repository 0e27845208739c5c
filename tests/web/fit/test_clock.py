"""The clock face of a fitting."""

from math import cos, radians, sin

import pytest

from bottega.app.shop.settings import change_settings
from bottega.app.strip.fitting import fitting_of
from bottega.web.fit.clock import LIP, MIDDLE, clock_of


def test_the_clock_face_stands_as_a_clock_does(workshop):
    bellows = workshop.shelf.machine("FB").parts["bellows"]
    change_settings(workshop, {"school_band": "side"})
    clock = clock_of(fitting_of(workshop, bellows))
    twelve, six, nine, three = clock.presses[:4]
    assert (twelve.x, twelve.y < MIDDLE) == (MIDDLE, True)
    assert (six.x, six.y > MIDDLE) == (MIDDLE, True)
    assert nine.x < MIDDLE < three.x
    assert clock.band.x > MIDDLE
    assert clock.band.y == MIDDLE
    [drain] = clock.drains
    angle = radians(180)
    assert (drain.x, drain.y) == (
        pytest.approx(MIDDLE + LIP * sin(angle)),
        pytest.approx(MIDDLE - LIP * cos(angle)),
    )
    hours = bellows.clock.order
    assert len({*hours}) == len(hours) == len(clock.presses)
