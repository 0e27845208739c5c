"""Motors, belt, pump, suspension, bearings: equations of textbooks with figures worked by hand."""

from math import e, pi, sqrt

import pytest

from bottega.rig.drives import (
    DRIVES,
    JERKS_SHARE,
    RAD_S,
    belt_nm,
    braked_nm_s,
    kloss,
    rotor_share,
    synchronous_rad_s,
    three_phases,
    two_windings,
    universal,
)
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
    without = fi.but(capacitor_uf=0.0)
    assert two_windings(230, 1.0, without, 50).nm == pytest.approx(0.0, abs=1e-9)
    assert two_windings(230, 0.25, without, 50).nm > 0.3 * two_windings(230, 0.25, fi, 50).nm


def test_a_weak_capacitor_starts_weakly(fi):
    whole = two_windings(230, 1.0, fi, 50).nm
    assert (
        0 < two_windings(230, 1.0, fi.but(capacitor_uf=0.4 * fi.capacitor_uf), 50).nm < 0.6 * whole
    )


@pytest.mark.parametrize(
    ("lame", "share"),
    [
        ({"phase_w_ohm": 1e9}, 0.5),
        ({"phase_wire_ohm": 1e9}, 0.5),
        ({"position_share": 0.75}, 0.5),
        ({"position_share": 0.4}, JERKS_SHARE),
        ({"bus_v": 20.0}, 0.0),
        ({"bridge_stuck": 1.0}, 0.0),
    ],
)
def test_three_phases_pull_by_what_is_left_of_them(shelf, lame, share):
    """On two phases by the mean of sin²; where a quarter of the positions is wrong, three quarters
    forward less one quarter back."""
    v = sound_values(shelf.machine("FD"), "1").but(
        phase_w_ohm=9.0, phase_v_ohm=9.0, phase_u_ohm=9.0
    )
    v.phase_wire_ohm = 0.0
    whole = three_phases(v, 5).nm
    assert three_phases(v.but(**lame), 5).nm == pytest.approx(share * whole, rel=1e-6)


def test_less_volts_leave_an_inverter_less_speed_and_the_same_torque_at_rest(shelf):
    v = sound_values(shelf.machine("FD"), "1")
    assert three_phases(v, 1.0, 0.7).nm == three_phases(v, 1.0).nm
    fast = 2 * v.base_rpm * RAD_S
    assert three_phases(v, fast, 0.7).nm == pytest.approx(0.7 * three_phases(v, fast).nm)


def test_a_shorted_bridge_brakes_by_the_square_of_its_emf(shelf):
    """22 N m at 4 A are 3.67 V s of EMF in each phase; 3/2 · 3.67² / 9 ohm = 2.24 N m s."""
    v = sound_values(shelf.machine("FD"), "1").but(phase_nm=22.0, phase_a=4.0, phase_v_ohm=9.0)
    v.magnet_share = 1.0
    assert braked_nm_s(v) == 0.0
    assert braked_nm_s(v.but(bridge_stuck=1.0)) == pytest.approx(2.24, abs=0.01)


@pytest.mark.parametrize("kind", DRIVES)
def test_no_motor_draws_more_watts_than_volts_times_amperes(shelf, kind):
    v = sound_values(shelf.machine(kind), "1")
    motor = DRIVES[kind]
    for rad_s in (0.0, 5.0, 20.0, 60.0, 150.0, 300.0, 1500.0):
        given = motor.gives(v, 230.0, 50.0, rad_s)
        for share in (0.1, 0.5, 1.0):
            drawn = motor.draws(v, 230.0, share * given.nm, rad_s, given)
            assert drawn.watts <= 230.0 * drawn.ampere + 1e-9
            assert drawn.watts >= drawn.heat_w


def test_a_series_motor_draws_its_copper_and_its_work(shelf):
    """2.08 N m take I = √(2.08 / 0.038) = 7.4 A. At rest all of I²R is heat; at 750 rpm, 78.5
    rad/s, 163 W are worked."""
    v = sound_values(shelf.machine("FB"), "1").but(
        motor_k=0.038, motor_coil_ohm=2.4, brush_ohm=0.4, commutator_share=1.0
    )
    motor, rad_s = DRIVES["FB"], 78.54
    rest = motor.draws(v, 230.0, 2.08, 0.0, motor.gives(v, 230.0, 50.0, 0.0))
    assert rest.ampere == pytest.approx(7.398, abs=0.01)
    assert rest.watts == pytest.approx(7.398**2 * 2.8, rel=0.005)
    turns = motor.draws(v, 230.0, 2.08, rad_s, motor.gives(v, 230.0, 50.0, rad_s))
    assert turns.watts - turns.heat_w == pytest.approx(2.08 * rad_s, rel=0.005)


def test_brushes_and_windings_that_are_open_draw_nothing(shelf):
    v = sound_values(shelf.machine("FB"), "1")
    for broken in ({"brush_ohm": 4e5}, {"motor_coil_ohm": 1e9}):
        assert DRIVES["FB"].gives(v.but(**broken), 230.0, 50.0, 0.0).ampere == 0.0


@pytest.fixture(scope="module")
def ts(shelf):
    return sound_values(shelf.machine("TS"), "1")


def test_the_field_of_four_poles_on_fifty_hertz_turns_1500_times_a_minute(ts):
    """n = 60 f / p = 60 · 50 / 2; on sixty hertz 1800."""
    assert synchronous_rad_s(ts, 50.0) / RAD_S == pytest.approx(1500.0)
    assert synchronous_rad_s(ts, 60.0) / RAD_S == pytest.approx(1800.0)


def test_an_induction_motor_gives_nothing_in_step_with_its_field_nor_above(ts):
    for share in (1.0, 1.1):
        given = DRIVES["TS"].gives(ts, 230.0, 50.0, share * synchronous_rad_s(ts, 50.0))
        assert given.nm == 0.0


def test_a_sound_motor_pulls_hardest_at_its_breakdown_slip(ts):
    """1125 rpm of 1500, slip a quarter: there sound windings give the torque of the plate."""
    at = {
        slip: DRIVES["TS"].gives(ts, ts.mains_v, 50.0, (1 - slip) * 50 * pi).nm
        for slip in (1.0, 0.6, 0.25, 0.1, 0.05)
    }
    assert max(at, key=at.__getitem__) == 0.25
    assert at[0.25] == pytest.approx(ts.breakdown_nm, rel=1e-6)


def test_a_motors_current_falls_from_that_of_the_locked_rotor_to_its_magnetising(ts):
    """With sₖ = 0.25 the rotor takes √(1.0625 / (1 + 25)) = 0.202 of its locked current at a slip
    of 0.05: hypot(0.2, 0.202 · 0.980) = 0.281 of the whole."""
    assert rotor_share(1.0) == pytest.approx(1.0)
    assert rotor_share(0.05) == pytest.approx(0.2022, abs=1e-4)
    locked, turns, in_step = (two_windings(230, slip, ts, 50).ampere for slip in (1.0, 0.05, 0.0))
    assert turns / locked == pytest.approx(0.2812, abs=1e-3)
    assert in_step / locked == pytest.approx(0.2)


def test_a_motor_without_its_capacitor_runs_on_but_does_not_start(ts):
    without = ts.but(capacitor_uf=0.0)
    assert DRIVES["TS"].gives(without, 230.0, 50.0, 0.0).nm == pytest.approx(0.0, abs=1e-9)
    runs = DRIVES["TS"].gives(without, 230.0, 50.0, 0.9 * synchronous_rad_s(ts, 50.0))
    assert runs.nm > 0.1 * ts.breakdown_nm
