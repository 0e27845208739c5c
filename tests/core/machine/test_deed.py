"""What is done to a machine, and what holds it back."""

from dataclasses import replace

import pytest

from bottega.core.machine.deed import (
    Deed,
    covers,
    forbidden,
    may_declare,
    to_change,
    to_check,
    to_run,
    to_work,
)
from bottega.core.machine.invariants import standing
from bottega.core.machine.state import MachineState

SAFE = MachineState(power="off", taps="shut", water="out", door="shut")


@pytest.fixture
def row(shelf, f7):
    """Return by which row deeds are refused on a machine that stands so; empty where they are
    not."""

    def held(state, *deeds):
        found = forbidden(shelf.tables.invariants.rows, standing(f7, state), deeds)
        return found.row if found else ""

    return held


def test_a_machine_with_water_in_is_not_tipped_and_an_empty_one_is(row, f7):
    for water, held in (("in", "tipped_full"), ("out", "")):
        state = replace(SAFE, water=water)
        tipped = to_change(f7, replace(state, posture="tipped"), standing(f7, state), False)
        assert row(state, tipped) == held


def test_a_door_at_the_front_opens_over_no_water(row, f7):
    for water, held in (("in", "door_full"), ("out", "")):
        state = replace(SAFE, water=water)
        opens = to_change(f7, replace(state, door="open"), standing(f7, state), False)
        assert row(state, opens) == held


def test_what_is_wrong_already_does_not_hold_back_other_work(row, f7):
    state = replace(SAFE, water="in", posture="tipped")
    taken = to_work(f7, state, "top", True, before=standing(f7, state))
    assert row(state, taken) == ""


def test_a_run_wants_everything_right_not_only_what_is_new(row, f7):
    state = replace(SAFE, power="on", taps="open", off=("rear_panel",))
    assert row(state, to_run(standing(f7, state), lifted=False)) == "live_open"
    assert row(state, to_run(standing(f7, state), lifted=True)) == "live_open"
    shut = replace(state, off=())
    assert row(shut, to_run(standing(f7, shut), lifted=False)) == ""


def test_a_live_check_is_covered_by_what_it_wants_open_and_by_no_more(row, f7):
    check = f7.checks["measure_slip"]
    state = replace(SAFE, power="on", off=("rear_panel",), live_test=check.id)
    assert may_declare(f7, state, check.id)
    assert covers(f7, state, check)
    assert row(state, *to_check(f7, check, standing(f7, state), lifted=True)) == ""
    assert row(state, *to_check(f7, check, standing(f7, state), lifted=False)) == "live_open"
    wider = replace(state, off=("rear_panel", "base_cover"))
    assert not may_declare(f7, wider, check.id)
    assert not covers(f7, wider, check)


def test_a_check_without_the_mains_declares_nothing(f7):
    assert not may_declare(f7, SAFE, "turn_rotor")
    assert not may_declare(f7, SAFE, "no_such_check")


def test_of_several_deeds_the_first_that_breaks_a_row_is_told(row, f7):
    state = replace(SAFE, power="on")
    here = standing(f7, state)
    harmless, by_hand = Deed(here), Deed(replace(here, doing="turn_by_hand"))
    assert row(state, harmless, by_hand) == "by_hand_live"
