"""What leads touch on a machine of physics, by Ohm's law and by the plug."""

import pytest

from bottega.app.rig.acts import act
from bottega.app.rig.fetch import stand
from bottega.app.rig.probe import between
from bottega.rig.circuit import NoSuchPoint
from bottega.store.rigs import RigTicket


@pytest.fixture
def at(workshop):
    workshop.rigs.keep(RigTicket("one", "FB", None, "seed", {}))
    found = stand(workshop, "one")
    if found.machine.plugged:
        act(workshop, "one", "plug", "out", seen=found.acts)
    return found


def test_a_pump_reads_its_coil_from_either_side(at):
    forth = between(at, "pump.1", "pump.2", "resistance")
    assert forth == pytest.approx(between(at, "pump.2", "pump.1", "resistance"))
    assert forth == pytest.approx(at.machine.v.pump_coil_ohm, rel=0.5)


def test_no_ohms_and_no_insulation_of_a_live_machine(at, workshop):
    act(workshop, "one", "plug", "in", seen=at.acts)
    assert between(at, "pump.1", "pump.2", "resistance") is None
    assert between(at, "pump.1", "earth", "insulation") is None
    volts = between(at, "mains.l", "mains.n", "ac_volts") if has(at, "mains.l") else None
    assert volts is None or volts == pytest.approx(at.machine.v.mains_v, rel=0.1)


def has(at, point):
    try:
        between(at, point, point, "ac_volts")
    except NoSuchPoint:
        return False
    return True


def test_nothing_flows_where_nothing_runs(at):
    assert between(at, "pump.1", "pump.2", "current") == 0
    assert between(at, "pump.1", "pump.2", "temperature") is None


def test_a_point_there_is_not_is_named(at):
    with pytest.raises(NoSuchPoint):
        between(at, "pump.9", "pump.2", "resistance")
