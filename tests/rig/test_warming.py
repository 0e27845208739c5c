"""What grows warm of a motor, and what smells."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.machine import machine_of


def test_brushes_smell_by_their_heat(f7):
    sound, burnt = ran(f7, {}), ran(f7, {"commutator_damaged": 0.5})
    assert sound.seen.get("smell_share") == 0 < 0.5 < burnt.seen.get("smell_share")


def test_a_corroded_plug_smells_by_the_watts_that_are_lost_in_it(f7):
    """Three ampere and a half in 10 ohm are 120 W."""
    hot = ran(f7, {}, board_plug_ohm=10.0)
    assert hot.seen.get("smell_share") > 0.5
    assert ran(f7, {}, board_plug_ohm=0.5).seen.get("smell_share") == 0


def test_a_protector_opens_by_heat_and_closes_when_the_windings_have_cooled(f7):
    machine = machine_of(f7, "1", {"protector_trips": 1.0})
    machine.let_act(frozenset({"protector_trips"}))
    machine.now.motor_c = machine.v.protector_opens_c - 0.01
    machine.run("short", most_s=600)
    assert machine.seen.get("protector_opened")
    assert machine.now.protector_open
    machine.wait(3 * 3600)
    assert machine.now.motor_c < machine.v.protector_opens_c


def test_standing_does_not_warm_a_motor(f7):
    machine = machine_of(f7, "1")
    machine.wait(3600)
    assert machine.now.motor_c == pytest.approx(machine.v.room_c, abs=1)
    assert not machine.now.protector_open
