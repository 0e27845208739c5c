"""Water in and out of a whole machine: what opens a valve, what runs back, where it all is."""

import pytest
from tests.rig.test_machine import ran

from bottega.benchmark.rigs import water_error
from bottega.rig.machine import machine_of
from bottega.rig.state import STEP_S


@pytest.mark.parametrize(("kpa", "fills"), [(5, False), (15, False), (40, True), (300, True)])
def test_a_valve_with_a_pilot_wants_pressure(f7, kpa, fills):
    machine = ran(f7, {}, tap_kpa=float(kpa), valve_opens_kpa=25.0)
    assert (machine.now.water_in_l > 1) is fills
    assert (machine.board.stopped == "fill") is not fills


def test_what_stands_in_the_hose_runs_back(f7):
    machine = ran(f7, {}, hose_holds_l=0.3)
    machine.wait(60)
    assert machine.now.tub_l == pytest.approx(0.3, abs=0.1)


@pytest.mark.parametrize("fault", ["outlet_hose_leaks", "seam_leaking", "valve_stuck_open"])
def test_no_water_is_lost_on_the_way(f7, fault):
    known = fault in f7.faults
    machine = ran(f7, {fault: 0.7} if known else {})
    now = machine.now
    there = machine.warmth.litres + now.hose_l + machine.warmth.steamed_l
    assert now.water_in_l == pytest.approx(now.water_out_l + now.leaked_l + there, abs=0.02)
    assert water_error(machine) < 0.01


def test_a_torn_bellows_loses_half_a_millilitre_a_second_while_laundry_is_thrown_at_it(f7):
    """√(2 · 9.81 · 0.012) = 0.485 m/s through 8 mm² at a contraction of 0.62 are 2.4 ml/s, a fifth
    of the time."""
    machine = machine_of(f7, "1")
    machine.v.bellows_mm2 = 8.0
    machine._follow()
    machine.warmth.pour(13.0, 15.0)
    machine.now.drum_rpm, begun = 48.0, machine.now.leaked_l
    machine.step()
    machine.now.drum_rpm = 48.0
    wetted = machine.now.leaked_l - begun
    assert wetted * 1000 / STEP_S == pytest.approx(0.48, rel=0.1)


def test_foam_locks_the_pump_and_rises_through_the_dispenser(f7):
    sound, foams = ran(f7, {}), ran(f7, {"overdosing": 1.0})
    flows = [one.seen.get("drained_l") / one.seen.get("drain_wet_s") for one in (sound, foams)]
    assert flows[1] < 0.6 * flows[0]
    assert sound.seen.get("leak_front_ml") == 0 < 50 < foams.seen.get("leak_front_ml")
    assert water_error(foams) < 1e-9
