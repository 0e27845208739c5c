"""Faults: every one changes something, sets compose, what cannot be is refused, what comes and
goes does."""

import re
from pathlib import Path

import pytest

from bottega.rig import machine as machine_module
from bottega.rig.faults import FaultError, between, came_to, fault_table, injectable
from bottega.rig.parameters import RIG, parameters
from bottega.rig.pump import filter_open
from bottega.rig.specimen import Specimen


def test_every_fault_of_the_library_can_be_had(shelf):
    faults = {f for name in shelf.archetypes for f in shelf.machine(name).faults}
    assert set(injectable(dict.fromkeys(faults))) == faults
    assert len(faults) >= 120


@pytest.mark.parametrize("name", sorted(fault_table().faults))
def test_a_fault_changes_what_it_names_and_grows_worse(name):
    change = fault_table().faults[name]
    figures = parameters("FB")
    for parameter, (just_bad, gone) in change.sets.items():
        sound = figures[parameter].value
        assert abs(gone - sound) >= abs(just_bad - sound)
        assert gone != sound
    assert set(change.steady) <= set(change.sets)
    assert change.sets or change.times


def test_severity_runs_from_just_bad_to_gone():
    assert between(0.4, 0.0, 0.0) == 0.4
    assert between(0.4, 0.0, 1.0) == 0.0
    assert between(1e6, 1e8, 0.5) == pytest.approx(1e7)


def test_a_fault_comes_from_sound_by_just_bad_to_gone():
    assert came_to(1.0, 0.6, 0.0, -1.0) == 1.0
    assert came_to(1.0, 0.6, 0.0, -0.5) == pytest.approx(0.8)
    assert came_to(1.0, 0.6, 0.0, 0.0) == 0.6
    assert came_to(1.0, 0.6, 0.0, 0.5) == pytest.approx(0.3)
    assert came_to(0.0, 1.0, 1.0, -1.0) == 1.0  # what is there or not


def test_at_its_mildest_a_fault_is_hardly_there_and_shows_its_signs_in_any_order(f7):
    """Of forty machines with hardly worn brushes some are still as long as sound ones, and it is
    not always their contact that goes first."""
    signs = {"brush_mm": 18.0, "brush_ohm": 1.4}
    seen = dict.fromkeys(signs, 0)
    first = set()
    for n in range(40):
        one = Specimen(f7, str(n), {"brushes_worn": 0.0})
        values = one.values(frozenset({"brushes_worn"}))
        shows = {
            "brush_mm": values.brush_mm < signs["brush_mm"],
            "brush_ohm": values.brush_ohm > signs["brush_ohm"],
        }
        for name, is_there in shows.items():
            seen[name] += is_there
        first |= (
            {name for name, is_there in shows.items() if is_there}
            if sum(shows.values()) == 1
            else set()
        )
    assert all(0 < count < 40 for count in seen.values()), seen
    assert first == set(signs)


def test_the_same_machine_came_as_far_each_time_it_is_asked(f7):
    one = Specimen(f7, "7", {"brushes_worn": 0.3})
    acting = frozenset({"brushes_worn"})
    assert one.values(acting) == one.values(acting)
    worse = Specimen(f7, "7", {"brushes_worn": 0.6})
    assert worse.values(acting).brush_mm < one.values(acting).brush_mm


def test_two_faults_compose(f7):
    both = Specimen(f7, "1", {"filter_blocked": 0.9, "bearings_worn": 0.9})
    values = both.values(both.acting("0"))
    assert filter_open(values) < 0.1
    assert values["bearing_spall_mm"] > 1
    assert values["brush_mm"] == both.sound["brush_mm"]


@pytest.mark.parametrize(
    ("faults", "says"),
    [
        ({"belt_off": 0.5, "belt_slipping": 0.5}, "both cannot be at once"),
        ({"element_open": 1.2}, "expected 0 to 1"),
        ({"filter_blockd": 0.5}, "nearest is 'filter_blocked'"),
        ({"rods_worn": 0.5}, "expected one that this machine can have"),
    ],
)
def test_what_cannot_be_is_refused(f7, faults, says):
    with pytest.raises(FaultError, match=says):
        Specimen(f7, "1", faults)


def test_the_rig_s_data_name_no_fault_but_where_faults_stand(shelf):
    """What a machine is made of, how it is wired, what it leaves to be seen and how people tell it
    may know of no fault."""
    faults = {name for kind in shelf.archetypes for name in shelf.machine(kind).faults}
    files = [*RIG.glob("*.yaml"), *(RIG.parent / "wiring").glob("*.yaml")]
    assert len(files) > 10
    for path in files:
        if path.name != "faults.yaml":
            words = set(re.findall(r"\w+", path.read_text(encoding="utf-8")))
            assert not words & faults, path.name


def test_no_physics_names_a_fault(shelf):
    faults = {name for kind in shelf.archetypes for name in shelf.machine(kind).faults}
    for path in Path(machine_module.__file__).parent.glob("*.py"):
        named = set(re.findall(r'"(\w+)"', path.read_text(encoding="utf-8")))
        assert not named & faults, path.name
