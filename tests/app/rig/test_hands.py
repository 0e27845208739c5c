"""Test points of a machine on the rig: which the leads can come at."""

from dataclasses import replace

import pytest

from bottega.app.rig.hands import FREE, points
from bottega.app.rig.in_hand import stand_at
from bottega.store.rigs import RigTicket

INSIDE = {
    "board",
    "fed",
    "heat",
    "drive",
    "filter",
    "pump",
    "element",
    "motor",
    "inverter",
    "stator",
}


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "WD", "TS", "TD", "TG", "SL"])
def test_of_a_closed_machine_only_plug_socket_and_cabinet_can_be_touched(workshop, kind):
    workshop.rigs.keep(RigTicket("one", kind, None, "seed", {}))
    at = stand_at(workshop, "one")
    closed = points(at)
    assert {point.split(".")[0] for point in closed} <= FREE
    assert "socket.L" in closed
    at.hands = replace(at.hands, off=tuple(at.machine_type.operations))
    opened = points(at)
    assert {"board.L", "pump.1", "motor.1"} <= set(opened)
    assert not {"mains.L", "outlet.L"} & set(opened)
    assert {point.split(".")[0] for point in opened} & INSIDE
