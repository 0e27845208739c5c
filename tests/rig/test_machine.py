"""Whole machines: sound ones run to their end, broken ones stop where the physics stops them."""

from math import isfinite
from random import Random

import pytest
from tests.conftest import SHEETS_OF_EVERY_KIND

from bottega.benchmark.rigs import heat_error, water_error
from bottega.rig import air_loop, laundry, loads, turning, warming, wet
from bottega.rig import machine as whole_machine
from bottega.rig.faults import FaultError, injectable, refuse_impossible
from bottega.rig.machine import Machine, machine_of
from bottega.rig.quantities import shown
from bottega.rig.specimen import Specimen
from bottega.rig.telemetry import sample


@pytest.mark.parametrize(
    "sheet",
    SHEETS_OF_EVERY_KIND,
)
def test_a_sound_machine_ends_its_programme_and_stores_nothing(shelf, sheet):
    machine = machine_of(shelf.machine(shelf.sheet(sheet).archetype, sheet), f"sound {sheet}")
    machine.run("short")
    assert (machine.board.stopped, machine.board.codes) == (None, [])
    assert machine.board.done
    assert heat_error(machine) < 1e-6
    assert water_error(machine) < 1e-9


def test_what_the_loads_take_is_what_the_machine_takes(f7):
    machine = machine_of(f7, "sums")
    most: dict[str, float] = {}

    def add_up(at):
        taken = at.now.taken.values()
        assert sum(a for a, _ in taken) == pytest.approx(at.now.ampere)
        assert sum(w for _, w in taken) == pytest.approx(at.now.watts)
        for load, (_, watts) in at.now.taken.items():
            most[load] = max(most.get(load, 0.0), watts)

    machine.telemetry = add_up
    machine.run("short")
    assert {"pump", "cold", "lock", "motor"} <= set(most)


@pytest.mark.parametrize(
    ("fault", "stopped", "code"),
    [
        ("tap_shut", "fill", "filling"),
        ("pump_coil_open", "drain", "emptying"),
        ("motor_wires_open", "wash", "not_turning"),
        ("tacho_open", "wash", "no_speed"),
        ("lock_coil_open", "start", "not_locked"),
        ("sensor_dead", "fill", "level"),
        ("lock_stuck", "unlock", "not_unlocked"),
    ],
)
def test_a_broken_machine_stops_where_physics_stops_it(f7, fault, stopped, code):
    machine = machine_of(f7, "broken", {fault: 0.9})
    machine.run("short")
    assert machine.board.stopped == stopped
    assert code in machine.board.codes


@pytest.mark.parametrize(
    ("fault", "code"), [("element_open", "heating"), ("thermistor_open", "thermistor")]
)
def test_a_cold_wash_goes_on_and_is_remembered(f7, fault, code):
    machine = machine_of(f7, "cold", {fault: 0.9})
    machine.run("short")
    assert machine.board.stopped is None
    assert code in machine.board.codes


def acts(machine, fault):
    """Return a machine on the first occasion on which its fault acts."""
    drawn = (machine_of(machine, "acts", {fault: 0.9}, occasion=str(n)) for n in range(50))
    return next(one for one in drawn if fault in one.acting)


def test_a_dead_machine_does_nothing(f7):
    machine = machine_of(f7, "dead", {"fuse_open": 0.9})
    machine.run("short")
    assert not machine.alive
    assert machine.now.water_in_l == 0


def ran(machine_type, faults, **values):
    """Return a machine with faults that act all the time, after a programme."""
    machine = machine_of(machine_type, "1", faults)
    machine.let_act(frozenset(faults))
    machine.v.update(values)
    machine._follow()
    machine.run("short")
    return machine


def test_a_warm_element_to_earth_trips(f7):
    machine = acts(f7, "element_to_earth")
    machine.run("short")
    assert machine.now.tripped


def test_water_runs_on_past_a_seat_when_the_plug_is_out(f7):
    stuck, sound = acts(f7, "valve_stuck_open"), machine_of(f7, "a")
    for machine in (stuck, sound):
        machine.plugged = False
        machine.wait(20)
    assert stuck.now.water_in_l > 0.5
    assert sound.now.water_in_l == 0


def test_a_whole_programme_keeps_its_card(f7):
    machine = machine_of(f7, "card")
    machine.run("cottons_60")
    card = f7.programmes["cottons_60"]
    assert machine.board.stopped is None
    assert machine.seen.get("hot_c") == pytest.approx(card.temperature_c, abs=2)
    assert machine.seen.get("spin_rpm") == pytest.approx(card.spin_rpm, rel=0.01)
    assert 0.6 * card.minutes < machine.now.seconds / 60 < 1.4 * card.minutes


def test_the_same_seed_is_the_same_run(f7):
    runs = []
    for _ in range(2):
        machine, seen = machine_of(f7, "same", {"brushes_worn": 0.3}), []
        machine.telemetry = lambda m, seen=seen: seen.append(sample(m))
        machine.run("short")
        runs.append(seen)
    assert runs[0] == runs[1]


def test_no_time_goes_backwards(f7):
    with pytest.raises(ValueError, match="-3 seconds"):
        machine_of(f7, "1").wait(-3)


@pytest.mark.parametrize("fault", [None, "impeller_broken", "screens_clogged", "belt_slipping"])
def test_a_shorter_step_shows_the_same(f7, monkeypatch, fault):
    def seen():
        machine = machine_of(f7, "step", {fault: 0.7} if fault else {})
        machine.run("short")
        return shown(machine)

    usual = seen()
    for module in (loads, turning, warming, wet, whole_machine, laundry, air_loop):
        monkeypatch.setattr(module, "STEP_S", module.STEP_S / 8)
    finer = seen()
    assert usual.keys() == finer.keys()
    for name, amount in finer.items():
        assert usual[name] == pytest.approx(amount, rel=0.1, abs=1e-3), name


def test_water_that_stands_still_is_still_felt_when_it_moves_again(f7):
    """Without laundry, which would drink of it."""
    machine = machine_of(f7, "still")
    machine.v.load_kg = 0.0
    machine.warmth.pour(12.0, 15.0)
    machine.wait(60)
    assert machine.now.sensed_pa > 500
    settled = machine.now.sensed_pa
    machine.wait(60)
    assert machine.now.sensed_pa == settled
    machine.run("drain")
    assert machine.now.sensed_pa < 0.3 * settled


@pytest.mark.parametrize(
    ("sheet", "fault", "stops"),
    [
        ("nembrio-f9", None, None),
        ("calvessa-dritta-8", None, None),
        ("torvane-alta-10", None, None),
        ("nembrio-f9", "valve_cold_open", "fill"),
        ("nembrio-f9", "motor_wires_open", "wash"),
        ("nembrio-f9", "pump_coil_open", "drain"),
        ("torvane-alta-10", "shifter_motor_dead", "spin"),
    ],
)
def test_a_calibration_stalls_in_the_phase_its_fault_is_of(shelf, sheet, fault, stops):
    machine = shelf.machine(shelf.sheet(sheet).archetype, sheet)
    rig = machine_of(machine, "calibrates", {fault: 0.9} if fault else {})
    rig.run("calibrate")
    assert rig.board.stopped == stops
    assert (rig.board.codes == []) == (stops is None)


def test_a_timer_that_stands_still_stays_in_its_phase(shelf):
    timer = acts(shelf.machine("TG", "pellandra-400"), "timer_motor_stands")
    timer.run("short")
    assert timer.board.stopped == "wash"
    assert timer.now.seconds > 1800
    assert timer.warmth.litres > 30


EVERYTHING = (
    {"mains_v": 150.0},
    {"mains_v": 0.0},
    {"hertz": 60.0},
    {"tap_kpa": 0.5},
    {"load_kg": 11.0, "unbalance_kgm": 0.6},
    {"tap_kpa": 0.0, "room_c": -5.0},
)


def is_sane(machine):
    """Return whether nothing exploded, and no water is less than none."""
    now = machine.now
    figures = (now.tub_l, now.drum_rpm, now.motor_rpm, now.motor_c, now.ampere, now.watts,
               now.leakage_a, machine.warmth.water_c, machine.warmth.element_c)  # fmt: skip
    waters = (now.tub_l, now.water_in_l, now.leaked_l, machine.warmth.held_l)
    return all(isfinite(one) for one in figures) and min(waters) >= 0


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "WD", "TS", "TD", "TG", "SL"])
def test_bad_mains_taps_and_loads_explode_nothing(shelf, kind):
    for world in EVERYTHING:
        machine = machine_of(shelf.machine(kind), "bad")
        machine.v.update(world)
        machine._follow()
        machine.run("short", most_s=7200)
        assert is_sane(machine), world


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "WD", "TS", "TD", "TG", "SL"])
def test_everything_broken_at_once_explodes_nothing(shelf, kind):
    """As many faults as can be together, gone, all acting; in three orders."""
    machine_type = shelf.machine(kind)
    for turn in range(3):
        names = injectable(machine_type.faults)
        Random(turn).shuffle(names)
        broken = {}
        for name in names:
            try:
                refuse_impossible({**broken, name: 1.0}, machine_type.faults)
            except FaultError:
                continue
            broken[name] = 1.0
        assert len(broken) > 40
        machine = Machine(Specimen(machine_type, "all", broken), frozenset(broken))
        machine.run("short", most_s=7200)
        assert is_sane(machine)
        for acting in (frozenset(list(broken)[::3]), frozenset(list(broken)[1::3])):
            machine = Machine(Specimen(machine_type, "all", broken), acting)
            machine.run("short", most_s=7200)
            assert is_sane(machine)


YEAR_S = 365 * 86_400.0


def test_a_year_of_standing_changes_nothing_that_does_not_leak(f7):
    machine = machine_of(f7, "year")
    machine.run("short")
    machine.wait(YEAR_S)
    assert machine.now.seconds > YEAR_S
    assert machine.rests
    assert is_sane(machine)
    assert machine.now.leaked_l == 0


def test_a_year_of_weeping_is_a_year_s_water(f7):
    """2 ml a minute for a year are 1,051 l."""
    machine = machine_of(f7, "weeps")
    machine.v.update(machine.v.but(cold_seat_open_share=0.002 / machine.inlet_l_min))
    machine.wait(YEAR_S)
    assert machine.now.water_in_l == pytest.approx(1051, rel=0.01)
    left_l = machine.now.water_in_l - machine.now.leaked_l
    assert left_l == pytest.approx(machine.warmth.litres)
    assert machine.now.tub_l == pytest.approx(machine.v.spills_l, rel=0.01)


def test_a_board_that_stands_by_takes_two_watts_and_a_timer_none(shelf, f7):
    for machine_type, watts in ((f7, 2.0), (shelf.machine("TG"), 0.0)):
        machine = machine_of(machine_type, "by")
        machine.wait(10)
        assert machine.now.watts == watts


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "WD", "TS", "TD", "SL"])
def test_whatever_stops_a_machine_it_heats_nothing_after(shelf, kind):
    machine_type = shelf.machine(kind)
    names = injectable(machine_type.faults)
    welded = {"board_relay_welded", "board_drying_stuck"}
    for name in (*Random(kind).sample(names, 24), "belt_off", "stator_winding_bad"):
        if name in machine_type.faults and name not in welded:
            machine = machine_of(machine_type, "after", {name: 1.0})
            machine.let_act(frozenset({name}))
            machine.run("short")
            machine.wait(30)
            assert machine.now.watts < 100, name
