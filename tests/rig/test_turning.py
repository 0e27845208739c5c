"""The motor's own speed, the belt between, and the heat of its windings."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.drives import carried_nm
from bottega.rig.machine import machine_of
from bottega.rig.programmes import spin_rpm
from bottega.rig.quantities import shown
from bottega.rig.specimen import sound_values
from bottega.rig.state import STEP_S
from bottega.rig.turning import SHIFTS_S, drum


def test_a_motor_without_its_belt_runs_to_the_end_of_the_programme_over_a_still_drum(f7):
    """Its tacho sits on its own shaft: the board sees good pulses."""
    machine = ran(f7, {"belt_off": 1.0})
    assert machine.board.stopped is None
    assert machine.board.codes == []
    assert machine.seen.get("spin_rpm") == 0
    assert machine.seen.get("heat_to_c") > machine.seen.get("heat_from_c")


def test_a_motor_that_turns_nothing_takes_its_idle_current(f7):
    """0.02 N m at its shaft: √(0.02 / 0.038) = 0.73 A."""
    machine = machine_of(f7, "1", {"belt_off": 1.0})
    machine.v.motor_k = 0.038
    taken = []
    machine.telemetry = lambda one: taken.append(one.now.taken.get("motor", (0, 0))[0])
    machine.run("turn")
    assert max(taken) == pytest.approx(0.725, abs=0.01)


def test_a_belt_that_slips_lets_the_motor_run_ahead(f7):
    sound, slips = ran(f7, {}), ran(f7, {"belt_slipping": 1.0})
    ahead = [one.seen.get("motor_turned") - one.seen.get("drum_turned") for one in (sound, slips)]
    assert ahead[0] == pytest.approx(0)
    assert ahead[1] > 1000
    assert slips.seen.get("squeal_db") > 60
    assert sound.seen.get("squeal_db") == 0


def test_a_common_shaft_carries_everything(shelf):
    assert carried_nm(sound_values(shelf.machine("FD"), "1")) == float("inf")
    assert carried_nm(sound_values(shelf.machine("FB"), "1")) < 4


def test_worn_bearings_are_seen_at_the_plug(f7):
    """The drag of 2 N m more at 125.7 rad/s is 250 W more."""
    watts = []
    for nm in (0.25, 2.25):
        machine = machine_of(f7, "1")
        machine.v.bearing_nm = nm
        machine._follow()
        at_speed = []
        machine.telemetry = lambda one, at=at_speed: (
            at.append(one.now.taken["motor"][1]) if one.now.drum_rpm > 1195 else None
        )
        machine.run("spin")
        watts.append(sorted(at_speed)[len(at_speed) // 2])
    assert watts[1] - watts[0] == pytest.approx(2.0 * 125.7, rel=0.15)


@pytest.mark.parametrize("kind", ["TS", "SL", "TG"])
def test_a_mains_motor_without_its_capacitor_stands_hums_and_takes_its_locked_current(shelf, kind):
    machine_type = shelf.machine(kind)
    taken = {}
    for faults in ({}, {"capacitor_bad": 1.0}):
        machine = machine_of(machine_type, "1", faults)
        machine.let_act(frozenset(faults))
        machine.telemetry = lambda one, into=taken.setdefault(len(faults), []): into.append(
            one.now.taken.get("motor", (0.0, 0.0))[0]
        )
        machine.run("short")
        assert (machine.seen.get("turned") > 0) == (not faults)
        assert (machine.seen.get("motor_hum_s") > 10) == bool(faults)
    assert max(taken[1]) > 2 * sorted(one for one in taken[0] if one > 0.1)[0]


def test_a_weaker_capacitor_takes_longer_to_bring_a_basket_to_its_speed(shelf):
    seconds = []
    for share in (1.0, 0.65, 0.45):
        machine = machine_of(shelf.machine("TG"), "1")
        machine.v.capacitor_uf *= share
        machine._follow()
        below = []
        machine.telemetry = lambda one, to=below: (
            to.append(one.now.drum_rpm) if one.asks.rpm and one.now.drum_rpm < 500 else None
        )
        machine.run("spin")
        assert machine.seen.get("spin_rpm") == pytest.approx(620)
        seconds.append(len(below) * STEP_S)
    assert seconds == sorted(set(seconds))


def test_a_motor_that_stands_on_the_mains_opens_its_protector(shelf):
    """A timer's machine has no board that gives up: nothing but the protector saves the motor."""
    stands = ran(shelf.machine("TG", "pellandra-400"), {"start_winding_bad": 1.0})
    assert stands.seen.get("protector_opened")


def test_a_mains_motor_turns_its_drum_at_full_spin_with_a_twentieth_of_slip(shelf):
    """1500 rpm · 0.95 over the ratio are the spin of the plate."""
    machine_type = shelf.machine("TS")
    v = sound_values(machine_type, "1")
    assert 1500 * 0.95 / v.belt_ratio == pytest.approx(spin_rpm(machine_type))


def test_the_clamp_reads_the_run_five_seconds_after_the_start(shelf):
    """A sound motor has fallen to its run current, one that stands takes its locked rotor's."""
    machine_type = shelf.machine("SL")
    amperes = []
    for faults in ({}, {"start_winding_bad": 1.0}, {"main_winding_bad": 1.0}):
        machine = machine_of(machine_type, "1", faults)
        machine.let_act(frozenset(faults))
        machine.run("turn")
        amperes.append(shown(machine)["motor_start_a"])
    sound, stands, is_open = amperes
    assert is_open == 0.0
    assert stands > 3 * sound > 0


def test_a_motor_whose_relay_sticks_races_is_seen_and_cut_off(f7):
    machine = ran(f7, {"board_motor_stuck": 1.0})
    assert machine.board.codes == ["racing"]
    assert machine.asks.motor_cut
    machine.wait(300)
    assert machine.now.drum_rpm == 0


def test_an_inverter_that_misses_a_phase_stops_the_wash(shelf):
    machine = ran(shelf.machine("FD"), {"stator_winding_bad": 1.0})
    assert (machine.board.stopped, machine.board.codes) == ("wash", ["not_turning"])


def test_a_shifter_takes_its_time_and_a_spring_brings_it_back(shelf):
    machine, stood = machine_of(shelf.machine("TS"), "1"), []
    machine.asks.shifter = True
    machine.now.volts = 230.0
    machine.feed()
    for _ in range(round(2 * SHIFTS_S / STEP_S)):
        drum(machine)
        stood.append(machine.now.in_spin)
    assert stood.index(True) == pytest.approx(SHIFTS_S / STEP_S, abs=1)
    machine.asks.shifter = False
    machine.feed()
    drum(machine)
    assert not machine.now.in_spin
