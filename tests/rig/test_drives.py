"""Motors, belt, pump, suspension, bearings: equations of textbooks with figures worked by hand."""

from math import e, sqrt

import pytest

from bottega.rig.drives import JERKS_SHARE, belt_nm, kloss, three_phases, two_windings, universal
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
