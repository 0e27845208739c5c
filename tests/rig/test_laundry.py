"""Laundry drinks by its weight, is topped up, and gives back what a spin takes out of it."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.laundry import DRINKS_L_KG, held_l_kg
from bottega.rig.machine import machine_of


@pytest.mark.parametrize(("rpm", "left"), [(1200, 0.46), (800, 0.55), (600, 0.62)])
def test_what_a_spin_leaves(rpm, left):
    """1200 rpm at 0.235 m are 378 times falling: 1.6 · 378^-0.21 = 0.46 of the weight."""
    assert held_l_kg(rpm, 0.235) == pytest.approx(left, abs=0.01)


def test_hung_up_it_keeps_no_more_than_it_drips_off_to():
    assert held_l_kg(5, 0.235) == 1.6


def test_more_laundry_takes_more_water_and_warms_more_slowly(f7):
    few, many = (ran(f7, {}, load_kg=kg) for kg in (0.1, 7.0))
    assert many.now.water_in_l - few.now.water_in_l == pytest.approx(11.5, abs=3)
    rises = [one.seen.get("heat_to_c") - one.seen.get("heat_from_c") for one in (few, many)]
    assert rises[1] < 0.75 * rises[0]


def test_it_drinks_what_cotton_drinks_and_is_spun_to_half_its_weight(f7):
    most = []
    machine = ran(f7, {}, load_kg=4.0)
    machine.telemetry = lambda one: most.append(one.warmth.held_l)
    machine.run("short")
    assert 0.8 * DRINKS_L_KG * 4.0 < max(most) <= DRINKS_L_KG * 4.0
    assert machine.warmth.held_l == pytest.approx(0.46 * 4.0, rel=0.15)


def test_a_heavy_wet_load_asks_more_of_the_motor(f7):
    watts = []
    for kg in (0.5, 9.0):
        machine = ran(f7, {}, load_kg=kg)
        washing = []
        machine.telemetry = lambda one, to=washing: (
            to.append(one.now.taken.get("motor", (0, 0))[1])
            if one.asks.rpm == 48 and one.now.drum_rpm > 47
            else None
        )
        machine.run("short")
        watts.append(sum(washing) / len(washing))
    assert watts[1] > watts[0] + 30


def test_laundry_that_falls_lies_another_way_each_time(f7):
    """Rayleigh's distribution with a mean of one: e^(-π/4) = 0.456 of the ways lie further off."""
    machine = machine_of(f7, "1")
    shares = []
    for _ in range(4000):
        machine.lie_anew()
        shares.append(machine.now.lies_share)
    assert sum(shares) / len(shares) == pytest.approx(1.0, abs=0.03)
    assert sum(one > 1 for one in shares) / len(shares) == pytest.approx(0.456, abs=0.03)


def test_laundry_lies_as_it_is_until_the_drum_slows(f7):
    machine = machine_of(f7, "1")
    ways = []
    machine.telemetry = lambda one: ways.append((one.now.drum_rpm > 80, one.now.lies))
    machine.run("spin")
    assert {lies for spins, lies in ways if spins} == {0}
    assert ways[-1][1] == 1
