"""Ways on all eight kinds of machine: each ends where it was wanted, every step of it may be done,
and nothing in it is done twice."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.job.log import Log

from bottega.core.job.way import command_of
from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import STATES
from bottega.core.machine.places import STATE_PLACES
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")
states = st.builds(
    MachineState,
    power=st.sampled_from(["on", "off"]),
    taps=st.sampled_from(["open", "shut"]),
    water=st.sampled_from(["in", "out", "unknown"]),
    drum=st.sampled_from(["empty", "loaded"]),
)


@pytest.fixture(scope="module")
def finders(shelf):
    return {kind: Reaching(shelf.machine(kind), shelf.tables) for kind in KINDS}


def everything_wanted(machine):
    """Every need of the machine: of its checks, its repairs and its parts."""
    for check in machine.checks.values():
        yield check.needs
    for repair in machine.repairs.values():
        yield repair.needs
    for component in machine.components.values():
        yield component.reach


@pytest.mark.parametrize("kind", KINDS)
@given(state=states, data=st.data())
@settings(max_examples=40)
def test_a_way_ends_where_it_was_wanted_and_nothing_is_done_twice(
    shelf, finders, kind, state, data
):
    machine, finder = shelf.machine(kind), finders[kind]
    needs = data.draw(st.sampled_from(list(everything_wanted(machine))))
    way = finder.reach(state, needs)
    there = finder.arrived(state, needs)
    assert there.meets(needs)
    taken = [step.to for step in way.steps if step.kind == "operation"]
    assert len(taken) == len(set(taken))
    assert set(there.off) == {*state.off, *taken}
    assert way.minutes == pytest.approx(sum(step.minutes for step in way.steps))
    assert (not way.steps) == state.meets(needs)
    assert finder.reach(there, needs).steps == ()


def test_taps_are_opened_to_let_water_in_and_not_for_water_that_is_in(shelf):
    finder = Reaching(shelf.machine("FB"), shelf.tables)
    needs, stands = Needs(power="on", water="in"), MachineState(power="on", taps="shut", water="in")
    assert finder.reach(stands, needs).steps == ()
    empty = MachineState(power="on", taps="shut", water="out")
    assert [step.what for step in finder.reach(empty, needs).steps] == ["taps", "water"]


@pytest.mark.parametrize("kind", KINDS)
def test_no_step_of_any_way_is_one_the_rules_refuse(shelf, kind):
    """Of a check the way is walked as a live test of that check, where it is one."""
    machine, finder = shelf.machine(kind), Reaching(shelf.machine(kind), shelf.tables)
    wanted = [(check.needs, check.id) for check in machine.checks.values()]
    wanted += [(needs, "") for needs in everything_wanted(machine) if needs.power != "on"]
    seen = {}
    for needs, check in wanted:
        seen.setdefault(needs, check)
    for needs, check in seen.items():
        log = Log(machine, power="on", water="in", drum="loaded")
        for step in finder.reach(log.job.state, needs).steps:
            log.do(command_of(step, check, "Pia", measured_v=0))
        assert log.job.state.meets(needs)


@pytest.mark.parametrize("kind", KINDS)
def test_what_lies_over_an_operation_comes_off_before_it_and_goes_back_after_it(
    shelf, finders, kind
):
    machine, finder = shelf.machine(kind), finders[kind]
    for operation, record in machine.operations.items():
        order = finder.closure((operation,))
        assert order[-1] == operation
        for earlier in order[:-1]:
            blocked = finder.blocking(earlier, tuple(order))
            assert blocked
            assert all(order.index(earlier) < order.index(other) for other in blocked)
        assert set(record.after) <= set(order)
        assert finder.blocking(operation, tuple(order)) == []
        assert finder.closure((operation,), tuple(order)) == []


def test_water_goes_out_before_it_is_tipped_and_it_stands_up_before_it_is_plugged_in(finders):
    tip = finders["FB"].reach(MachineState(water="in"), Needs(posture="tipped"))
    assert [step.to for step in tip.steps] == ["off", "shut", "out", "tipped"]
    tipped = MachineState(power="off", water="out", posture="tipped")
    plug = finders["FB"].reach(tipped, Needs(power="on"))
    assert [step.to for step in plug.steps] == ["upright", "on"]


def test_a_machine_that_stores_a_charge_is_waited_for_as_long_as_its_sheet_says(shelf, finders):
    machine = shelf.machine("FB")
    way = finders["FB"].reach(MachineState(water="out"), Needs(power="off", charge="none"))
    assert [(step.what, step.to) for step in way.steps] == [("power", "off"), ("charge", "none")]
    assert way.steps[1].minutes == machine.charge.wait_minutes


def test_a_way_is_found_once_for_a_state_and_a_need(finders, shelf):
    needs = shelf.machine("TS").checks["turn_drum"].needs
    first = finders["TS"].reach(MachineState(), needs)
    assert finders["TS"].reach(MachineState(), needs) is first


def test_reaching_goes_in_order_and_costs_nothing_when_there(shelf, f7):
    reaching = Reaching(f7, shelf.tables)
    state = MachineState(power="on", water="in")
    needs = f7.checks["turn_rotor"].needs
    way = reaching.reach(state, needs)
    assert [step.to for step in way.steps] == ["filter_flap", "off", "out", "filter_cap"]
    there = MachineState(power="off", water="out", off=("filter_flap", "filter_cap"))
    assert reaching.reach(there, needs).minutes == 0
    deep = reaching.closure(("tub_halves",))
    for place, operation in enumerate(deep):
        assert set(f7.operations[operation].after) <= set(deep[:place])


def test_every_step_of_every_check_can_be_reached(shelf):
    for machine in shelf.machines():
        reaching = Reaching(machine, shelf.tables)
        for check in machine.checks.values():
            state = MachineState(water="in")
            for step in reaching.reach(state, check.needs).steps:
                to = step.to
                assert step.kind != "back"
                state = (
                    MachineState(**{**state.__dict__, "off": (*state.off, to)})
                    if step.kind == "operation"
                    else state.changed(step.what, to, True)
                )
            assert state.meets(check.needs), check.id


def test_every_state_has_a_place_on_every_drawing(shelf):
    for kind in ("FB", "FI", "FD", "WD", "TS", "TD", "TG", "SL"):
        places = shelf.machine(kind).places
        for field in STATES:
            assert any(name in places for name in STATE_PLACES[field]), (kind, field)


def test_what_must_not_stay_open_goes_back_before_it_is_plugged_in(shelf):
    """The filter out, and front, motor and belt out: a short programme wants all of it back, and a
    live test all but what it wants open."""
    f7 = shelf.machine("FB", "nembrio-f7")
    reaching = Reaching(f7, shelf.tables)
    here = MachineState(
        power="off",
        taps="shut",
        water="out",
        charge="none",
        off=("filter_flap", "filter_cap", "rear_panel", "belt_off", "motor_out"),
    )
    steps = reaching.reach(here, f7.checks["watch_all"].needs).steps
    back = [step.to for step in steps if step.kind == "back"]
    assert back == ["motor_out", "belt_off", "rear_panel", "filter_cap"]
    assert (steps[-1].what, steps[-1].to) == ("power", "on")
    live = reaching.reach(here, f7.checks["motor_supply"].needs).steps
    back = [step.to for step in live if step.kind == "back"]
    assert back == ["motor_out", "belt_off", "filter_cap"]


def test_water_is_never_run_in_with_a_joint_inside_open(shelf):
    f7 = shelf.machine("FB", "nembrio-f7")
    here = MachineState(power="off", water="out", off=("filter_flap", "filter_cap"))
    steps = Reaching(f7, shelf.tables).reach(here, Needs(water="in")).steps
    assert [step.to for step in steps] == ["filter_cap", "in"]


def test_a_door_at_the_front_is_opened_once_the_water_is_out(finders):
    full = MachineState(power="off", water="in", drum="loaded")
    assert [s.to for s in finders["FB"].reach(full, Needs(drum="empty")).steps] == ["out", "empty"]
    assert [s.to for s in finders["TS"].reach(full, Needs(drum="empty")).steps] == ["empty"]


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_water_is_run_in_plugged_in_with_the_taps_open_or_poured_by_hand(shelf, kind):
    """Nobody is told to pull the plug and then to run water in."""
    machine = shelf.machine(kind)
    reaching = Reaching(machine, shelf.tables)
    starts = (
        MachineState(power="on", taps="shut", water="out", charge="held"),
        MachineState(power="off", taps="shut", water="out", charge="none"),
        MachineState(power="unknown", taps="unknown", water="unknown", charge="held"),
    )
    for start in starts:
        for check in machine.checks.values():
            stands = {"power": start.power, "taps": start.taps}
            for step in reaching.reach(start, check.needs).steps:
                stands[step.what] = step.to
                if (step.what, step.to) == ("water", "in"):
                    runs = stands["power"] == "on" and stands["taps"] == "open"
                    assert runs or step.name.startswith("Pour"), (check.id, step)
            assert reaching.arrived(start, check.needs).meets(check.needs), check.id
