"""The drain pump, by its curve."""

from math import sqrt

import pytest
from tests.rig.middle import middle

from bottega.rig.pump import flow_l_min, head_m, pumping, synchronous


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


def test_a_synchronous_motor_by_its_load_angle():
    """178 + 700j ohm, EMF 110 V, 20 W at the shaft: Z = 722.3 at 75.73 degrees; the most is
    230 · 110 / 722.3 = 35.03 W less 110² · 178 / 722.3² = 4.13 W of copper; cos(θ - δ) =
    24.13 / 35.03, so δ = 29.3 degrees; I = |230 - 110∠-29.3| / Z = 144.4 / 722.3 A."""
    ampere, watts = synchronous(230, 178, 700, 110, shaft_w=20.0)
    assert ampere == pytest.approx(0.2000, abs=0.0005)
    assert watts == pytest.approx(20 + 178 * ampere**2, rel=1e-9)


def test_it_is_pulled_out_of_step_by_the_volts_not_by_their_square():
    """The most it pulls is VE/Z less its copper, so a shaft of 20 W is let go at 24.13 · 722.3 /
    110 = 158.4 V."""
    assert synchronous(158.0, 178, 700, 110, shaft_w=20.0) is None
    assert synchronous(159.0, 178, 700, 110, shaft_w=20.0) is not None


def test_a_pump_takes_a_fifth_of_an_ampere_and_a_third_where_it_is_jammed():
    runs = pumping(middle(), 230, 50, 0.8, has_water=True)
    assert runs.turns
    assert 0.15 < runs.ampere < 0.25
    assert 20 < runs.watts < 35
    jammed = pumping(middle(pump_jam_share=0.9), 230, 50, 0.8, has_water=True)
    assert jammed.ampere == pytest.approx(230 / sqrt(178**2 + 700**2))
    assert jammed.watts == pytest.approx(jammed.ampere**2 * 178)


@pytest.mark.parametrize("volts", [60, 120, 170, 200, 230, 253])
@pytest.mark.parametrize("has_water", [True, False])
def test_no_pump_draws_more_watts_than_volts_times_amperes(volts, has_water):
    pump = pumping(middle(), volts, 50, 0.8, has_water=has_water)
    assert 0 < pump.watts <= volts * pump.ampere


def test_a_rotor_that_slips_spins_dry_and_does_not_pump():
    v = middle(pump_rotor_share=0.3)
    assert pumping(v, 230, 50, 0.5, has_water=False).turns
    wet = pumping(v, 230, 50, 0.5, has_water=True)
    assert (wet.turns, wet.l_min) == (False, 0.0)
