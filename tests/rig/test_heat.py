"""Heat: a kettle, the beta equation, an energy balance, a finer step."""

import pytest

from bottega.rig.heat import Warmth, heating_seconds, thermistor_c, thermistor_ohm
from bottega.rig.parameters import parameters


def values(**changed):
    return {name: figure.value for name, figure in parameters("FB").items()} | changed


def test_a_kettle():
    # One litre from 20 to 100 °C at two kilowatts: 4186 J/K · 80 K / 2000 W.
    assert heating_seconds(1.0, 80.0, 2000.0) == pytest.approx(167.4, abs=0.1)


def test_a_probe_of_ten_kilohm_by_its_published_table():
    # A common 10 kΩ probe with a beta of 3950 K between 25 and 50 °C.
    assert thermistor_ohm(25, 10_000, 3950) == pytest.approx(10_000)
    assert thermistor_ohm(50, 10_000, 3950) == pytest.approx(3588, rel=0.01)
    assert thermistor_c(thermistor_ohm(63, 10_000, 3950), 10_000, 3950) == pytest.approx(63)


def test_a_tub_warms_as_fast_as_its_watts_say():
    warmth = Warmth(values(loss_w_k=0.0, tub_heat_j_k=1.0, element_heat_j_k=60.0))
    warmth.pour(10.0, 20.0)
    for _ in range(4 * 600):
        warmth.heat(2000.0, 0.25)
    assert warmth.water_c == pytest.approx(20 + 2000 * 600 / 41_860, abs=0.2)


def test_heat_is_neither_made_nor_lost():
    warmth = Warmth(values())
    warmth.pour(12.0, 15.0)
    for _ in range(4 * 900):
        warmth.heat(1800.0, 0.25)
    warmth.drain(5.0)
    kept = warmth.put_in + warmth.carried_in - warmth.carried_out - warmth.lost
    assert warmth.stored == pytest.approx(kept, abs=1.0)


def test_a_step_five_times_finer_ends_at_the_same():
    ends = []
    for step in (0.25, 0.05):
        warmth = Warmth(values())
        warmth.pour(12.0, 15.0)
        for _ in range(round(600 / step)):
            warmth.heat(1800.0, step)
        ends.append(warmth.water_c)
    assert ends[0] == pytest.approx(ends[1], abs=0.02)


def test_thick_scale_makes_the_cut_out_work():
    clean, scaled = Warmth(values()), Warmth(values(scale_k_w=0.09))
    for warmth in (clean, scaled):
        warmth.pour(12.0, 15.0)
        for _ in range(4 * 600):
            warmth.heat(1800.0, 0.25)
    assert scaled.put_in < 0.8 * clean.put_in


def test_a_dry_element_opens_its_cut_out():
    warmth = Warmth(values())
    for _ in range(4 * 120):
        warmth.heat(1800.0, 0.25)
    assert warmth.cut_out
