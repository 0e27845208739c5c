"""What can hurt somebody is said for every way a machine can stand, what can kill first."""

from itertools import product

import pytest

from bottega.core.machine.safety import cautions, live_and_open
from bottega.core.machine.state import MachineState


def every_state():
    for power, water, charge, off in product(
        ("on", "off"), ("in", "out", "unknown"), ("none", "held"), ((), ("top",))
    ):
        yield MachineState(power=power, water=water, charge=charge, off=off)


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_no_danger_goes_unsaid_and_none_is_made_up(shelf, kind):
    charge = shelf.machine(kind).charge
    for state in every_state():
        about = [caution.about for caution in cautions(state, charge)]
        assert ("charge" in about) == (state.charge == "held" and charge is not None)
        assert ("power" in about) == (state.power == "on")
        assert ("water" in about) == (state.water != "out")
        if "charge" in about:
            assert about[0] == "charge"


def test_a_stored_charge_is_said_with_its_minutes_its_volts_and_the_local_rule(shelf):
    charge = shelf.machine("FI").charge
    (caution,) = cautions(MachineState(power="off", water="out", charge="held"), charge)
    assert caution.live
    assert f"{charge.wait_minutes:g} minutes" in caution.words
    assert f"{charge.safe_below_v:g} V" in caution.words
    assert "local rule" in caution.words


def test_plugged_in_and_open_is_live():
    found = [s for s in every_state() if live_and_open(s)]
    assert found == [s for s in every_state() if s.power == "on" and s.off]
