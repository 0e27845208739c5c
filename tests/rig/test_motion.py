"""What is listened to of a run."""

import pytest

from bottega.rig.machine import machine_of
from bottega.rig.motion import motion_of


def test_a_spin_is_heard_at_its_full_speed_a_wash_from_its_first_turn(f7):
    spin, wash = (motion_of(machine_of(f7, "1"), of, 4.0) for of in ("spin", "wash"))
    assert spin.drum_rpm.min() > 1150
    assert 0 < wash.drum_rpm.max() < 60
    assert wash.tub_l.max() > 5


def test_the_machine_itself_is_left_as_it_is(f7):
    machine = machine_of(f7, "1")
    motion_of(machine, "drain", 4.0)
    assert (machine.now.seconds, machine.now.tub_l) == (0.0, 0.0)


def test_what_cannot_be_listened_to_is_an_error(f7):
    with pytest.raises(KeyError):
        motion_of(machine_of(f7, "1"), "rinse", 4.0)


def test_a_motor_without_its_belt_turns_over_a_still_drum(f7):
    machine = machine_of(f7, "1", {"belt_off": 1.0})
    motion = motion_of(machine, "spin", 4.0)
    assert motion.drum_rpm.max() == 0
    assert motion.motor_rpm.max() > 5000
