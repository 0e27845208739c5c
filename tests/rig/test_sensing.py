"""What a board can know of its machine."""

import pytest

from bottega.rig.machine import machine_of
from bottega.rig.sensing import LevelCurve


def test_the_boards_own_table_is_read_on_a_line_between_its_points():
    curve = LevelCurve([0.0, 500.0, 1500.0], [0.0, 5.0, 10.0])
    assert [curve.litres(pa) for pa in (-10, 0, 250, 1000, 2000)] == [0, 0, 2.5, 7.5, 10]


def test_a_sound_sensor_tells_the_litres_there_are(f7):
    machine = machine_of(f7, "1")
    machine.v.load_kg = 0.0
    machine.warmth.pour(12.0, 15.0)
    machine.wait(60)
    assert machine.sensing.level_l == pytest.approx(12.0, abs=0.8)


@pytest.mark.parametrize(
    ("values", "kind", "level"),
    [
        ({"level_signal": 0.0}, "FB", None),
        ({"level_plug_ohm": 1e6}, "FB", None),
        ({"level_supply_v": 1.0}, "FB", None),
        ({"level_signal": 0.0}, "TG", 0.0),
    ],
)
def test_without_its_signal_there_is_no_level_and_of_a_switch_none_is_empty(
    shelf, values, kind, level
):
    machine = machine_of(shelf.machine(kind), "1")
    for name, value in values.items():
        machine.v[name] = value
    assert machine.sensing.level_l == level


def test_a_tacho_on_the_motor_knows_nothing_of_the_drum(f7):
    machine = machine_of(f7, "1")
    machine.now.motor_rpm, machine.now.drum_rpm = 600.0, 0.0
    assert machine.sensing.speed_rpm == pytest.approx(600 / machine.v.belt_ratio)
    machine.v.tacho_coil_ohm = 1e9
    assert machine.sensing.speed_rpm is None


def test_a_bad_wire_reads_as_cold_water(f7):
    machine = machine_of(f7, "1")
    warm = machine.sensing.water_by_ntc_c
    assert warm == pytest.approx(machine.warmth.water_c, abs=2)
    machine.v.ntc_wire_ohm = 5000.0
    assert machine.sensing.water_by_ntc_c < warm - 5
