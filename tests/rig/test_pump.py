"""The drain pump, by its curve."""

import pytest

from bottega.rig.parameters import parameters
from bottega.rig.pump import flow_l_min, head_m, pumping


def test_a_pump_at_its_two_ends():
    assert head_m(0.0, 2.0, 24.0) == 2.0
    assert head_m(24.0, 2.0, 24.0) == pytest.approx(0.0)
    assert flow_l_min(2.0, 24.0, 2.1, 100.0) == 0.0


def test_a_pump_meets_its_head():
    way, lift = 30.0, 0.7
    flow = flow_l_min(2.0, 24.0, lift, way)
    assert head_m(flow, 2.0, 24.0) == pytest.approx(lift + (flow / way) ** 2)


def test_affinity_sixty_hertz_lifts_by_the_square():
    assert head_m(0.0, 2.0, 24.0, 1.2) == pytest.approx(2.0 * 1.44)


def test_a_rotor_that_slips_spins_dry_and_does_not_pump():
    v = {name: figure.value for name, figure in parameters("FB").items()} | {
        "pump_rotor_share": 0.2
    }
    assert pumping(v, 230, 50, 0.5, has_water=False).turns
    wet = pumping(v, 230, 50, 0.5, has_water=True)
    assert (wet.turns, wet.l_min) == (False, 0.0)
