"""A mechanical timer goes on by its clock, whatever becomes of the machine."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.board import STANDS_S


@pytest.fixture
def gear(shelf):
    return shelf.machine("TG", "pellandra-400")


def test_a_sound_one_comes_to_its_end_and_stores_nothing(gear):
    machine = ran(gear, {})
    assert machine.board.stopped is None
    assert machine.board.codes == []


def test_it_waits_for_its_water_as_long_as_anybody_watches(gear):
    machine = ran(gear, {"tap_shut": 1.0})
    assert machine.board.stopped == "fill"
    assert machine.seen.get("run_s") == pytest.approx(STANDS_S, abs=5)


def test_it_never_knows_that_the_water_stays_and_spins_in_it(gear):
    machine = ran(gear, {"pump_coil_open": 1.0})
    assert machine.board.stopped is None
    assert machine.now.tub_l > 30
    assert 0 < machine.seen.get("spin_rpm") < 400


def test_it_never_knows_that_nothing_turns(gear):
    machine = ran(gear, {"belt_off": 1.0})
    assert machine.board.stopped is None
    assert machine.seen.get("spin_rpm") == 0


def test_with_its_lid_up_the_basket_does_not_spin(gear):
    machine = ran(gear, {"lid_switch_stuck_open": 1.0})
    assert machine.seen.get("spin_rpm") < 60
    assert machine.board.codes == []
