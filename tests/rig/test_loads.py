"""Lock and element: a heater that throttles itself, and the door that hangs on it."""

from math import e

import pytest

from bottega.rig.loads import LOCK_BACK_C, LOCK_OUT_C, heater_ohm, lock
from bottega.rig.machine import machine_of
from bottega.rig.state import STEP_S


def until(machine, holds, most_s=300):
    """Step the lock alone until something holds, and return the seconds it took."""
    for n in range(round(most_s / STEP_S)):
        lock(machine)
        if holds():
            return (n + 1) * STEP_S
    raise AssertionError("it never came to that")


def test_a_heater_throttles_itself_above_its_knee():
    assert heater_ohm(1000, 20) == heater_ohm(1000, 95) == 1000
    assert heater_ohm(1000, 95 + 1 / 0.12) == pytest.approx(1000 * e)


def test_a_lock_bolts_in_two_seconds_and_lets_go_in_three_quarters_of_a_minute(f7):
    """230²/1080 = 49 W into 1.4 J/K: 65 K in 1.9 s. It settles where its watts are lost, near
    118 °C, and cools by a time constant of 1.4 / 0.03 = 47 s: 47 · ln(98 / 35) = 48 s."""
    machine = machine_of(f7, "1")
    machine.step()
    machine.asks.lock = True
    machine.feed()
    assert 1.0 <= until(machine, lambda: machine.now.locked) <= 3.0
    until(machine, lambda: machine.now.taken["lock"][1] < 5)
    for _ in range(120):
        lock(machine)
    ampere, watts = machine.now.taken["lock"]
    assert 0.005 < ampere < 0.02
    assert 1 < watts < 5
    assert machine.now.lock_c > LOCK_OUT_C
    machine.asks.lock = False
    machine.feed()
    assert 35 < until(machine, lambda: not machine.now.locked) < 60
    assert machine.now.lock_c <= LOCK_BACK_C


def test_a_door_that_stands_open_is_not_bolted_and_nothing_begins(f7):
    machine = machine_of(f7, "1")
    machine.door_shut = False
    machine.run("short")
    assert not machine.now.locked
    assert machine.board.stopped == "start"
    assert machine.now.water_in_l == 0


@pytest.mark.parametrize("archetype", ["FB", "FD", "FI", "WD"])
def test_a_door_opens_over_no_turning_drum_no_water_and_nothing_hot(shelf, archetype):
    machine, was_locked = machine_of(shelf.machine(archetype), "2"), False
    opened = []

    def look(one):
        nonlocal was_locked
        if was_locked and not one.now.locked:
            opened.append((one.now.drum_rpm, one.now.tub_l, one.warmth.water_c))
        was_locked = one.now.locked

    machine.telemetry = look
    machine.run("short")
    assert opened
    assert all(rpm < 1 and litres < 5 and celsius < 56 for rpm, litres, celsius in opened)


def test_a_door_stays_shut_over_water_that_was_not_pumped_out(f7):
    machine = machine_of(f7, "1", {"filter_blocked": 1.0})
    machine.run("short")
    assert machine.board.stopped == "drain"
    machine.wait(600)
    assert machine.now.locked
    assert machine.now.tub_l > 5
    machine.plugged = False
    machine.wait(120)
    assert not machine.now.locked


def test_a_contact_that_is_lost_in_the_wash_stops_it_and_is_stored(f7):
    machine = machine_of(f7, "1")
    machine.start("short")
    while machine.board.phase.kind != "wash":
        machine.step()
    machine.wait(30)
    machine.v.lock_contact_ohm = 1e6
    machine.wait(60)
    assert machine.board.stopped == "wash"
    assert machine.board.codes == ["not_locked"]
    assert machine.now.drum_rpm == 0
