"""What is recorded of a run."""

from itertools import pairwise

from bottega.rig.machine import machine_of
from bottega.rig.telemetry import Recorder


def test_a_run_longer_than_there_is_room_is_kept_from_its_beginning_to_its_end(shelf):
    machine = machine_of(shelf.machine("FB"), "1", {})
    recorder = Recorder(50)
    machine.telemetry = recorder.note
    machine.wait(333.0)
    taken = [sample.seconds for sample in recorder.samples]
    assert 25 <= len(taken) <= 50
    assert taken[0] <= 8.0
    assert 333.0 - taken[-1] < 8.0 + 1.0
    assert {later - earlier for earlier, later in pairwise(taken)} == {8.0}


def test_a_new_run_forgets_the_one_before(shelf):
    machine = machine_of(shelf.machine("FB"), "1", {})
    recorder = Recorder(50)
    machine.telemetry = recorder.note
    machine.wait(120.0)
    recorder.begin()
    machine.wait(10.0)
    assert [one.seconds for one in recorder.samples] == [121.0 + n for n in range(10)]
