"""A way of the planner ends where its repair can be made: laid down, stood up, shut off, open."""

from dataclasses import replace

import pytest

from bottega.core.machine.state import MachineState
from bottega.core.strip.plan import plan, steps_of

KINDS = ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"]
STARTS = (
    MachineState(power="on", taps="open", water="in", charge="held"),
    MachineState(power="off", taps="shut", water="out", charge="none"),
    MachineState(power="off", taps="shut", water="out", charge="none", posture="tipped"),
)


def followed(machine, steps, state):
    """Return how a machine stands once every step was done, and what standing it otherwise took."""
    turned = 0.0
    for step in steps:
        if step.kind == "soak":
            continue
        if step.what == "off":
            state = replace(state, off=(*state.off, step.to))
        else:
            turned += step.minutes if step.what == "posture" else 0.0
            state = state.changed(step.what, step.to, machine.charge is not None)
    return state, turned


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("start", STARTS, ids=["as it came", "made safe", "laid down"])
def test_every_repair_can_be_made_at_the_end_of_its_way(shelf, kind, start):
    """Also one for which nothing comes off and the machine has only to be laid down."""
    machine = shelf.machine(kind)
    for repair in machine.repairs.values():
        way = plan(machine, shelf.tables, start, repair.way).best
        there, turned = followed(machine, steps_of(machine, shelf.tables, way, repair.way), start)
        done = machine.done_by(there.off)
        lacks = [(f, t) for f, t in there.lacks(repair.needs) if f != "off" or t not in done]
        assert lacks == [], repair.id
        assert way.opening.minutes >= turned, repair.id
        if there.posture == "tipped":
            assert way.people >= shelf.tables.make_safe.laid(machine.laid)[0].people, repair.id
