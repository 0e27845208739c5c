"""A washer-dryer's drying phase: it dries, pumps out, and fails as its parts do."""

import pytest

from bottega.rig.machine import machine_of
from bottega.rig.quantities import shown


@pytest.fixture
def dried(shelf):
    def run(faults=None, programme="dry", **values):
        machine = machine_of(shelf.machine("WD", "virgola-asciutta-7"), "1", faults or {})
        machine.let_act(frozenset(faults or {}))
        machine.v.update(machine.v.but(**values))
        machine._follow()
        machine.run(programme)
        return machine

    return run


def test_a_small_load_comes_out_dry_and_what_ran_down_the_condenser_is_pumped_out(dried):
    machine = dried(programme="dry_programme", load_kg=1.5)
    assert machine.board.stopped is None
    assert machine.warmth.held_l < 0.15
    assert machine.now.water_in_l > 30
    assert machine.now.water_out_l == pytest.approx(machine.now.water_in_l, abs=1.5)


def test_a_full_drum_comes_out_damp(dried):
    assert dried(programme="dry_programme", load_kg=7.0).warmth.held_l > 1.5


def test_a_pump_that_does_not_run_stops_the_drying_before_the_water_reaches_the_drum(dried):
    machine = dried({"pump_coil_open": 1.0})
    assert (machine.board.stopped, machine.board.codes) == ("drain", ["emptying"])
    assert machine.now.tub_l < 4


@pytest.mark.parametrize(
    ("fault", "air"),
    [
        ("fan_open", "cold"), ("drying_heater_open", "cold"), ("air_plug_loose", "cold"),
        ("condenser_wires_open", "hot"), ("duct_lint", "hot"), ("board_condenser_stuck", "hot"),
    ],
)  # fmt: skip
def test_the_air_is_cold_without_heat_or_fan_and_hot_behind_lint(dried, fault, air):
    assert (shown(dried({fault: 1.0}))["air_c"] > 62) == (air == "hot")


def test_lint_and_a_dry_condenser_take_the_drying_away(dried):
    sound = shown(dried())["dried_share"]
    for fault in ("duct_lint", "condenser_wires_open", "fan_seized", "drying_wires_open"):
        assert shown(dried({fault: 1.0}))["dried_share"] < 0.5 * sound, fault
    assert shown(dried({"condenser_blocked": 1.0}))["dried_share"] < sound


def test_laundry_is_put_in_damp_only_where_no_water_is_taken(dried):
    assert dried(programme="dry").now.water_by_hand_l > 1
    assert dried(programme="short").now.water_by_hand_l == 0
