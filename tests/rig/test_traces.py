"""Traces: what is to be seen follows from what is so, whichever fault made it so."""

import pytest

from bottega.rig.machine import Machine, machine_of
from bottega.rig.specimen import Specimen
from bottega.rig.traces import TraceRule, traces_of


def seen(machine_type, faults, n=0):
    return traces_of(machine_of(machine_type, f"trace{n}", faults))


def test_a_trace_is_what_a_sound_machine_shows_and_more_by_what_is_not(f7):
    sound = Specimen(f7, "1").sound
    trace = TraceRule.model_validate(
        {"is": 1.0, "by": {"brush_mm": -0.1}, "beyond": 0.5, "most": 2.0}
    )
    assert trace.shown(sound, sound) == 1.0
    assert trace.shown(sound.but(brush_mm=sound.brush_mm - 4), sound) == 1.0
    assert trace.shown(sound.but(brush_mm=sound.brush_mm - 8), sound) == pytest.approx(1.3)
    assert trace.shown(sound.but(brush_mm=sound.brush_mm - 90), sound) == 2.0


@pytest.mark.parametrize(
    ("fault", "trace", "from_on"),
    [
        ("brushes_worn", "carbon_dust_g", 1.2),
        ("bearings_worn", "drum_rub_mm", 0.8),
        ("support_cracked", "drum_rub_mm", 0.8),
        ("seal_leaking", "seal_trail_mm", 12),
        ("damper_worn", "damper_torn_share", 0.35),
        ("feet_uneven", "one_foot_loose_mm", 0.8),
        ("heater_spade_burnt", "spade_brown_share", 0.2),
        ("key_dead", "panel_damp_share", 0.3),
        ("metal_in_gap", "drum_hole_thing_mm", 1),
    ],
)
def test_what_is_far_gone_is_seen_on_most_machines_and_on_no_sound_one(f7, fault, trace, from_on):
    gone = [seen(f7, {fault: 1.0}, n)[trace] > from_on for n in range(20)]
    sound = [seen(f7, {}, n)[trace] > from_on for n in range(20)]
    assert sum(gone) > 15
    assert not any(sound)


def test_two_causes_leave_the_same_trace(f7):
    """A burnt board does not say which of its outputs failed."""
    for fault in ("board_pump_output_dead", "board_valve_stuck", "board_supply_dead"):
        burnt = [seen(f7, {fault: 1.0}, n)["board_burnt_share"] > 0.3 for n in range(40)]
        assert 10 < sum(burnt) < 36


def test_what_comes_and_goes_has_left_its_trace_while_it_does_not_act(f7):
    specimen = Specimen(f7, "away", {"heater_spade_burnt": 1.0})
    assert traces_of(Machine(specimen, frozenset()))["spade_brown_share"] > 0.2
