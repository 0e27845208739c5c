"""Motors, belt, pump, suspension, bearings: equations of textbooks with figures worked by hand."""

from math import e, log, pi, sqrt

import pytest

from bottega.rig.body import (
    carried_n,
    damping_ratio,
    louder_db,
    swing_m,
    swing_ratio,
)
from bottega.rig.drives import JERKS_SHARE, belt_nm, kloss, three_phases, two_windings, universal
from bottega.rig.parameters import parameters
from bottega.rig.pump import flow_l_min, head_m, pumping
from bottega.rig.specimen import sound_values


@pytest.fixture(scope="module")
def fi(shelf):
    return sound_values(shelf.machine("FI"), "1")


def test_a_series_motor_at_stall():
    # 230 V over 3 Ω and 16 Ω of reactance: 14.13 A; torque k·I² = 0.038 · 199.6.
    stalled = universal(230, 0.0, 3.0, 16.0, k=0.038)
    assert stalled.ampere == pytest.approx(230 / sqrt(9 + 256))
    assert stalled.nm == pytest.approx(7.586, abs=0.01)


def test_a_series_motor_gives_less_as_it_turns():
    speeds = [universal(230, rad_s, 3.0, 16.0, k=0.038).nm for rad_s in (0, 200, 800, 1500)]
    assert speeds == sorted(speeds, reverse=True)


def test_a_belt_by_eytelwein():
    # µα = 1: slack and tight differ by e; 100 N each at rest, on a radius of a centimetre.
    assert belt_nm(100, 0.5, 2.0, 0.01) == pytest.approx(200 * (e - 1) / (e + 1) * 0.01)
    assert belt_nm(0, 0.5, 2.0, 0.01) == 0.0


def test_kloss_is_one_at_breakdown_and_none_in_step():
    assert kloss(0.25) == pytest.approx(1.0)
    assert kloss(0.0) == 0.0
    assert kloss(1.0) == pytest.approx(2 / (4 + 0.25))


def test_a_motor_without_its_capacitor_does_not_start_but_runs_on(fi):
    without = {**fi, "capacitor_uf": 0.0}
    assert two_windings(230, 1.0, without, 50).nm == pytest.approx(0.0, abs=1e-9)
    assert two_windings(230, 0.25, without, 50).nm > 0.3 * two_windings(230, 0.25, fi, 50).nm


def test_a_weak_capacitor_starts_weakly(fi):
    whole = two_windings(230, 1.0, fi, 50).nm
    assert (
        0
        < two_windings(230, 1.0, {**fi, "capacitor_uf": 0.4 * fi["capacitor_uf"]}, 50).nm
        < 0.6 * whole
    )


def test_three_phases_hardly_pull_on_two_windings_or_without_a_position(shelf):
    v = sound_values(shelf.machine("FD"), "1")
    whole = three_phases(v, 5).nm
    for lame in ({"phase_w_ohm": 1e9}, {"position_share": 0.4}):
        assert three_phases({**v, **lame}, 5).nm == pytest.approx(JERKS_SHARE * whole, rel=0.06)
    assert three_phases({**v, "bus_v": 20.0}, 5).nm == 0.0


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
