"""The tub on its springs, and how loud it is."""

from math import log, pi, sqrt

import pytest

from bottega.rig.body import (
    carried_n,
    damping_ratio,
    louder_db,
    swing_m,
    swing_ratio,
)


def test_a_tub_at_resonance_and_far_above_it():
    mass, spring, damper, unbalance = 50.0, 8000.0, 250.0, 0.1
    resonance = sqrt(spring / mass)
    assert swing_m(resonance, unbalance, mass, spring, damper_ns_m=damper) == pytest.approx(
        unbalance * resonance / damper
    )
    assert swing_m(100 * resonance, unbalance, mass, spring, damper_ns_m=damper) == pytest.approx(
        unbalance / mass, rel=1e-3
    )
    assert carried_n(0.0, 0.01, spring, damper) == pytest.approx(80.0)


def test_the_logarithmic_decrement():
    zeta = damping_ratio(50.0, 8000.0, 126.49)
    assert zeta == pytest.approx(0.1, abs=1e-4)
    assert log(swing_ratio(zeta)) == pytest.approx(2 * pi * 0.1 / sqrt(0.99), abs=1e-3)


def test_two_equal_sounds_are_three_decibel_louder():
    assert louder_db(60, 60) == pytest.approx(63.01, abs=0.01)
