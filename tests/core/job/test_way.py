"""The command a step of a way is noted by, step for step to where the way ends."""

import pytest

from bottega.core.job.events import PutBack, Soaked, StateChanged, TookOff
from bottega.core.job.way import command_of
from bottega.core.machine.reach import Reaching, ReachStep
from bottega.core.machine.state import MachineState

STOOD = MachineState(power="on", taps="open", water="in")


@pytest.mark.parametrize("archetype", ["FB", "FD", "TG", "WD"])
def test_the_commands_of_a_way_lead_where_the_way_ends(shelf, archetype):
    machine = shelf.machine(archetype)
    holds = machine.charge is not None
    for check in machine.checks.values():
        way = Reaching(machine, shelf.tables).ways(STOOD, [check.needs])[0]
        state = STOOD
        for step in way.reach.steps:
            command = command_of(step)
            if isinstance(command, StateChanged):
                state = state.changed(command.what, command.to, holds)
        assert all(getattr(state, f) == to for f, to in state.lacks(check.needs) if f != "off")
        took = [command_of(s).operation for s in way.reach.steps if s.kind == "operation"]
        assert [name for name in way.there.off if name in took] == took


def step(kind, what, to, minutes=1.0):
    return ReachStep(kind, what, to, "x", minutes, None)


def test_plugging_in_for_a_live_test_carries_the_test_and_who_answers_for_it():
    plain = command_of(step("change", "power", "on"))
    live = command_of(step("change", "power", "on"), "measure_mains", "Tomo")
    assert (plain.for_check, plain.ticked) == ("", False)
    assert (live.for_check, live.qualified, live.ticked) == ("measure_mains", "Tomo", True)


def test_each_kind_of_step_has_its_command():
    assert command_of(step("back", "back", "top")) == PutBack(operation="top")
    assert command_of(step("operation", "off", "top")) == TookOff(operation="top")
    assert command_of(step("soak", "off", "nut", 20)) == Soaked(operation="nut", minutes=20)
    gone = command_of(step("change", "charge", "none"), measured_v=4.0)
    assert (gone.what, gone.measured_v) == ("charge", 4.0)
