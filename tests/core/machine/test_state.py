"""How a machine stands: a charge comes when the plug is pulled, and goes when it is put in."""

import pytest

from bottega.core.library.records import Needs
from bottega.core.machine.state import MachineState


def test_pulling_the_plug_leaves_a_charge_only_where_one_is_stored():
    on = MachineState(power="on")
    assert on.changed("power", "off", holds_charge=True).charge == "held"
    assert on.changed("power", "off", holds_charge=False).charge == "none"
    gone = on.changed("power", "off", True).changed("charge", "none", True)
    assert gone.changed("power", "off", True).charge == "none"
    assert gone.changed("power", "on", True).changed("power", "off", True).charge == "held"


@pytest.mark.parametrize("what", ["taps", "water", "drum", "posture"])
def test_other_changes_leave_plug_and_charge_as_they_are(what):
    held = MachineState(power="off", charge="held")
    to = {"taps": "shut", "water": "out", "drum": "loaded", "posture": "tipped"}[what]
    after = held.changed(what, to, holds_charge=True)
    assert getattr(after, what) == to
    assert (after.power, after.charge) == ("off", "held")


def test_what_is_lacking_is_named_and_unknown_water_is_not_out():
    here = MachineState(water="unknown", off=("filter_flap",))
    needs = Needs(power="off", water="out", off=("filter_flap", "filter_cap"))
    assert here.lacks(needs) == [("power", "off"), ("water", "out"), ("off", "filter_cap")]
    assert not here.meets(needs)
    assert here.meets(Needs(power="on", off=("filter_flap",)))
    assert here.meets(Needs())
