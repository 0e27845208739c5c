"""The air of a dryer: psychrometrics, a wet bulb, a balance of heat and of water."""

import pytest
from tests.rig.middle import middle

from bottega.rig.air_loop import VAPOUR_J_KG, AirLoop, moisture
from bottega.rig.heat import WATER_J, Warmth
from bottega.rig.state import STEP_S


def laundry(litres, at_c=20.0):
    """Return a drum that stores nothing but the water in its laundry."""
    warmth = Warmth(middle(tub_heat_j_k=1.0, loss_w_k=0.0))
    warmth.pour(litres, at_c)
    warmth.held_l = litres
    return warmth


@pytest.mark.parametrize(
    ("at_c", "kg_kg"), [(10, 0.00766), (20, 0.01476), (40, 0.04914), (60, 0.15354)]
)
def test_saturated_air_holds_what_the_tables_say(at_c, kg_kg):
    """ASHRAE Handbook, Fundamentals, Psychrometrics, table of moist air at 101.325 kPa."""
    assert moisture(at_c) == pytest.approx(kg_kg, rel=0.01)


def test_laundry_in_a_stream_of_air_comes_to_its_wet_bulb():
    """Air of 60 °C with 10 g/kg: enthalpy 1.006·60 + 0.010·(2501 + 1.86·60) = 86.5 kJ/kg, that of
    saturated air at 27.3 °C. Air that goes round in the loop is set anew before each step."""
    loop, warmth = AirLoop(middle()), laundry(0.5)
    for _ in range(20_000):
        loop.heated_c, loop.back_moist = 60.0, 0.010
        warmth.litres = warmth.held_l = 0.5
        loop.blow(0.03, 0.0, warmth, 1.0, water_l_min=0.0)
    assert warmth.water_c == pytest.approx(27.3, abs=0.7)


def test_the_heater_s_watts_are_all_found_again():
    """In vapour that came down, in the condenser's water, in the room, in what grew warm."""
    loop, warmth = AirLoop(middle()), laundry(1.7)
    down = with_water = 0.0
    room = loop.v.room_c
    for _ in range(round(3600 / STEP_S)):
        before, at_c = warmth.litres, warmth.water_c
        down += loop.blow(0.034, 1000.0, warmth, 3.5, water_l_min=0.45)
        with_water += WATER_J * (before - warmth.litres) * (at_c - room)
    grown = 900 * (loop.heated_c - room) + 3000 * (loop.condenser_c - room)
    grown += (WATER_J * warmth.litres) * (warmth.water_c - room)
    kept = loop.to_water + loop.lost + grown + with_water
    assert loop.put_in == pytest.approx(3.6e6)
    assert kept == pytest.approx(3.6e6, rel=0.003)
    assert VAPOUR_J_KG * down > 0.5 * loop.to_water


def test_what_leaves_the_laundry_is_on_its_way_or_has_come_down():
    loop, warmth = AirLoop(middle()), laundry(1.7)
    down = sum(loop.blow(0.034, 1000.0, warmth, 3.5, water_l_min=0.45) for _ in range(5000))
    assert 1.7 - warmth.held_l == pytest.approx(down + loop.holds_l, abs=1e-9)


def test_three_kilograms_and_a_half_dry_within_two_hours():
    """By the heat alone 1.7 l want 1.7 · 2.4 MJ / 1 kW = 68 min; a half more goes past."""
    loop, warmth, steps = AirLoop(middle()), laundry(1.7), 0
    while warmth.held_l > 0.1 and steps < 20_000:
        loop.blow(0.034, 1000.0, warmth, 3.5, water_l_min=0.45)
        steps += 1
    assert 68 < steps * STEP_S / 60 < 120


def test_dry_laundry_gives_no_more_water_and_grows_hot():
    loop, warmth = AirLoop(middle()), laundry(0.05)
    warmth.v.tub_heat_j_k = 14_000.0
    for _ in range(4000):
        loop.blow(0.034, 300.0, warmth, 3.5, water_l_min=0.45)
    assert 0 <= warmth.held_l < 0.02
    assert loop.dries_g_s < 0.03


def test_without_water_little_comes_down_and_behind_scum_everything_grows_hotter():
    def blown(water_l_min=0.45, **other):
        loop, warmth = AirLoop(middle(**other)), laundry(1.7)
        steps = range(3600)
        down = [loop.blow(0.034, 1000.0, warmth, 3.5, water_l_min=water_l_min) for _ in steps]
        return sum(down), loop.heated_c

    sound_l, sound_c = blown()
    assert blown(water_l_min=0.0)[0] < 0.4 * sound_l
    assert blown(condenser_scum_mm=6)[1] > sound_c + 10
