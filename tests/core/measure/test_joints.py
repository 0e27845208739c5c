"""Bolted joints: worked examples."""

import pytest

from bottega.core.measure.joints import bolt_torque


def test_the_torque_of_a_screw_by_the_nut_factor():
    """T = K·F·d with K of about 0.18 to 0.2 for 0.14 of friction, as handbooks give."""
    for thread, pitch in ((6, 1), (8, 1.25), (10, 1.5), (12, 1.75)):
        torque, pull = bolt_torque(thread, pitch, 580, 0.14)
        assert 0.17 < torque * 1000 / (pull * thread) < 0.205
    assert bolt_torque(8, 1.25, 580, 0.14).pull_n / 0.75 == pytest.approx(21_200, rel=0.01)
    with pytest.raises(ValueError, match="finer"):
        bolt_torque(4, 3, 580, 0.14)
