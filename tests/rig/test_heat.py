"""Heat: a kettle, the beta equation, an energy balance, a finer step."""

import pytest
from tests.rig.middle import middle

from bottega.rig.heat import Warmth


def test_a_kettle():
    # Ten litres from 20 to 55 °C at two kilowatts: 10 · 4186 J/K · 35 K / 2000 W, stepped through.
    kettle = Warmth(middle(loss_w_k=0.0, tub_heat_j_k=1.0, element_heat_j_k=60.0))
    kettle.pour(10.0, 20.0)
    begun, seconds = kettle.water_c, 0.0
    while kettle.water_c < 55:
        kettle.heat(2000.0, 0.25)
        seconds += 0.25
    assert seconds == pytest.approx(10 * 4186 * (55 - begun) / 2000, rel=0.03)


def test_a_tub_warms_as_fast_as_its_watts_say():
    warmth = Warmth(middle(loss_w_k=0.0, tub_heat_j_k=1.0, element_heat_j_k=60.0))
    warmth.pour(10.0, 20.0)
    for _ in range(4 * 600):
        warmth.heat(2000.0, 0.25)
    assert warmth.water_c == pytest.approx(20 + 2000 * 600 / 41_860, abs=0.2)


def test_heat_is_neither_made_nor_lost():
    warmth = Warmth(middle())
    warmth.pour(12.0, 15.0)
    for _ in range(4 * 900):
        warmth.heat(1800.0, 0.25)
    warmth.drain(5.0)
    kept = warmth.put_in + warmth.carried_in - warmth.carried_out - warmth.lost
    assert warmth.stored == pytest.approx(kept, abs=1.0)


def test_a_step_five_times_finer_ends_at_the_same():
    ends = []
    for step in (0.25, 0.05):
        warmth = Warmth(middle())
        warmth.pour(12.0, 15.0)
        for _ in range(round(600 / step)):
            warmth.heat(1800.0, step)
        ends.append(warmth.water_c)
    assert ends[0] == pytest.approx(ends[1], abs=0.02)


def test_scale_delays_the_water_and_takes_none_of_its_watts():
    """Seven millimetres, 0.11 K/W: the element stores 0.11 K/W · 1800 W · 420 J/K = 83 kJ more,
    46 s of its watts."""
    clean, scaled = Warmth(middle()), Warmth(middle(scale_mm=7.0))
    reached = []
    for warmth in (clean, scaled):
        warmth.pour(12.0, 15.0)
        steps = 0
        while warmth.water_c < 40:
            warmth.heat(1800.0, 0.25)
            steps += 1
        assert not warmth.cut_out
        reached.append(steps * 0.25)
    assert reached[1] - reached[0] == pytest.approx((0.11 - 0.004) * 420, rel=0.1)
    assert reached[1] < 1.08 * reached[0]


def test_a_dry_element_opens_its_cut_out_for_good():
    warmth = Warmth(middle())
    for _ in range(4 * 300):
        warmth.heat(1800.0, 0.25)
    assert warmth.cut_out
    for _ in range(4 * 3600):
        warmth.heat(0.0, 0.25)
    assert warmth.heat(1800.0, 0.25) == 0.0


def test_water_boils_at_a_hundred_degrees_and_goes_off_as_steam():
    """1800 W less 5.5 W/K · 80 K over 2.257 MJ a litre: 2.17 l an hour."""
    warmth = Warmth(middle())
    warmth.pour(12.0, 95.0)
    while warmth.steamed_l == 0:
        warmth.heat(1800.0, 0.25)
    before = warmth.litres
    for _ in range(4 * 3600):
        warmth.heat(1800.0, 0.25)
    assert warmth.water_c == pytest.approx(100.0)
    assert before - warmth.litres == pytest.approx((1800 - 5.5 * 80) * 3600 / 2.257e6, rel=0.02)


def test_heat_is_neither_made_nor_lost_while_it_boils():
    warmth = Warmth(middle())
    warmth.pour(6.0, 90.0)
    for _ in range(4 * 1800):
        warmth.heat(1800.0, 0.25)
    came = warmth.put_in + warmth.carried_in - warmth.carried_out - warmth.lost
    assert came == pytest.approx(warmth.stored, rel=1e-6)
