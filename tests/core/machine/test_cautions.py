"""What can hurt somebody is said for every way a machine can stand, what can kill first."""

from itertools import product
from math import exp, log

import pytest

from bottega.core.machine.cautions import cautions, left_v, live_and_open
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
        about = [caution.about for caution in cautions(state, charge, shelf.tables.invariants)]
        assert ("charge" in about) == (state.charge == "held" and charge is not None)
        assert ("power" in about) == (state.power == "on")
        assert ("water" in about) == (state.water != "out")
        if "charge" in about:
            assert about[0] == "charge"


def test_a_stored_charge_is_said_with_its_minutes_its_volts_and_the_local_rule(shelf):
    charge = shelf.machine("FI").charge
    held = MachineState(power="off", water="out", charge="held")
    (caution,) = cautions(held, charge, shelf.tables.invariants)
    assert caution.live
    assert f"{charge.wait_minutes:g} minutes" in caution.words
    assert f"{shelf.tables.invariants.touch_below_v:g} V" in caution.words
    assert "local rule" in caution.words


def test_plugged_in_and_open_is_live():
    found = [s for s in every_state() if live_and_open(s)]
    assert found == [s for s in every_state() if s.power == "on" and s.off]


def test_a_stored_charge_falls_as_a_capacitor_does_over_its_bleeder(shelf):
    """The same fall as 100 uF over the resistor that leaves 34 of 340 V after five minutes."""
    charge = shelf.machine("FD").charge
    resistance_ohm = 300 / (100e-6 * log(10))
    for minutes in (0.0, 1.0, 2.5, 5.0, 60.0):
        expected = 340 * exp(-minutes * 60 / (resistance_ohm * 100e-6))
        assert left_v(charge, 34, minutes) == pytest.approx(expected)


def test_after_its_own_discharge_it_is_to_be_measured_and_no_danger_for_days(shelf):
    charge = shelf.machine("FD").charge
    held = MachineState(power="off", water="out", charge="held")
    (early,) = cautions(held, charge, shelf.tables.invariants, unplugged_min=1)
    assert early.live
    assert "some 215 V by now" in early.words
    (late,) = cautions(held, charge, shelf.tables.invariants, unplugged_min=charge.wait_minutes)
    assert not late.live
    assert late.words.startswith("Measure before touching")


def test_the_voltage_that_may_be_touched_stands_in_one_place(shelf):
    """The formula of a discharge falls to the same, unless somebody types another."""
    asked = shelf.tables.formulas.formulas["discharge"].asks["safe_v"]
    assert asked.usual == shelf.tables.invariants.touch_below_v
