"""What may never be together, held against a reading of the table by hand."""

from dataclasses import replace
from itertools import product

import pytest

from bottega.core.library.records import Needs
from bottega.core.machine.invariants import (
    broken,
    covered,
    newly_broken,
    opened,
    standing,
    uncovered,
    way_of,
)
from bottega.core.machine.state import MachineState

SAFE = MachineState(power="off", taps="shut", water="out", door="shut")


@pytest.fixture
def rows(shelf):
    return shelf.tables.invariants.rows


def names(found):
    return {one.row for one in found}


def test_a_machine_made_safe_breaks_nothing_whatever_is_off(rows, f7):
    every = replace(SAFE, off=tuple(f7.operations))
    assert names(broken(rows, standing(f7, every))) == set()


@pytest.mark.parametrize(
    ("changes", "row"),
    [
        ({"power": "on", "posture": "tipped"}, "plugged_tipped"),
        ({"water": "in", "posture": "tipped"}, "tipped_full"),
        ({"water": "unknown", "posture": "tipped"}, "tipped_full"),
        ({"taps": "open", "posture": "tipped"}, "tipped_taps"),
        ({"power": "on", "off": ("rear_panel",)}, "live_open"),
    ],
)
def test_what_breaks_a_row(rows, f7, changes, row):
    assert row in names(broken(rows, standing(f7, replace(SAFE, **changes))))


def test_a_declared_live_test_lifts_only_the_rows_that_say_so(rows, f7):
    lying = standing(f7, replace(SAFE, power="on", posture="tipped", off=("rear_panel",)))
    assert "live_open" in names(broken(rows, lying))
    assert names(broken(rows, lying, lifted=True)) == names(broken(rows, lying)) - {"live_open"}


def test_whoever_makes_a_machine_safe_is_never_held_back(rows, f7):
    """From every state, one change towards safe breaks no row that was not broken."""
    towards = {"power": "off", "taps": "shut", "water": "out", "posture": "upright"}
    states = product(
        ("on", "off", "unknown"), ("open", "shut"), ("in", "out"), ("tipped", "upright")
    )
    for values in states:
        state = MachineState(**dict(zip(towards, values, strict=True)), off=("rear_panel",))
        before = standing(f7, state)
        for field, to in towards.items():
            after = standing(f7, replace(state, **{field: to}))
            assert newly_broken(rows, before, after) is None, (state, field)


def test_a_way_holds_everything_that_has_to_be_off_before(f7):
    for name, record in f7.operations.items():
        way = way_of(f7, [name])
        assert {name, *record.after} <= way
        assert all(set(f7.operations[one].after) <= way for one in way)


def test_what_is_open_beyond_a_tests_way_is_not_covered_by_it(f7):
    needs = Needs(power="on", off=("rear_panel",))
    state = replace(SAFE, off=("rear_panel",))
    assert covered(f7, state, needs)
    more = next(
        name for name in f7.operations if opened(f7, [name]) and name not in way_of(f7, needs.off)
    )
    state = replace(SAFE, off=("rear_panel", more))
    assert not covered(f7, state, needs)
    assert uncovered(f7, state, needs) == [more]
