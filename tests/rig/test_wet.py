"""Water in and out of a whole machine: what opens a valve, what runs back, where it all is."""

import pytest
from tests.rig.test_machine import ran

from bottega.benchmark.rigs import water_error


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
