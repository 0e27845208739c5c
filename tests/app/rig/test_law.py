"""What a hand at a machine on the rig may do, and the way to what it may not do yet."""

import pytest

from bottega.app.errors import Refused
from bottega.app.rig.acts import act
from bottega.app.rig.fetch import stand
from bottega.app.rig.law import held, in_short, measured_charge, refuse, state_of, way_to_work
from bottega.store.rigs import RigTicket


def drawn(workshop, kind="FB"):
    workshop.rigs.keep(RigTicket("one", kind, None, "seed", {}))
    return stand(workshop, "one")


@pytest.mark.parametrize("kind", ["FB", "FD", "TG", "WD"])
def test_hands_turn_nothing_while_the_plug_is_in(workshop, kind):
    at = drawn(workshop, kind)
    if not at.machine.plugged:
        act(workshop, "one", "plug", "in", seen=at.acts)
    assert held(at, "feel", "drum").row == "by_hand_live"
    with pytest.raises(Refused, match="Pull the plug"):
        refuse(at, "feel", "drum")
    act(workshop, "one", "plug", "out", seen=at.acts)
    assert held(at, "feel", "drum") is None


def test_how_it_stands_is_read_off_the_machine(workshop):
    at = drawn(workshop)
    for value, power in (("out", "off"), ("in", "on")):
        if at.machine.plugged != (value == "in"):
            act(workshop, "one", "plug", value, seen=at.acts)
        assert state_of(at).power == power
    at.machine.warmth.litres = 8.0
    assert state_of(at).water == "in"


def test_the_way_to_a_part_ends_where_it_may_be_taken_off(workshop, shelf):
    at = drawn(workshop)
    act(workshop, "one", "plug", "out", seen=at.acts)
    record = shelf.machine("FB").operations["base_cover"]
    assert record.name not in way_to_work(at, "base_cover")
    deep = next(n for n, o in shelf.machine("FB").operations.items() if len(o.after) > 0)
    before = shelf.machine("FB").operations[deep].after[0]
    assert shelf.machine("FB").operations[before].name in way_to_work(at, deep)


def test_a_charge_is_measured_unplugged_and_after_its_time(workshop):
    at = drawn(workshop, "FD")
    if not at.machine.plugged:
        act(workshop, "one", "plug", "in", seen=at.acts)
    with pytest.raises(Refused, match="The plug is in"):
        measured_charge(at)
    act(workshop, "one", "plug", "out", seen=at.acts)
    with pytest.raises(Refused, match="have passed"):
        measured_charge(at)
    at.machine.wait(60.0 * at.machine_type.charge.wait_minutes)
    assert 0 <= measured_charge(at) <= at.tables.invariants.touch_below_v


def test_a_long_way_is_said_by_its_first_steps():
    assert in_short(["a", "b"]) == "a, b"
    assert in_short(list("abcdef")) == "a, b, c, and 3 more steps"
