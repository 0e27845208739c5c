"""Faults: every one changes something, sets compose, what cannot be is refused, what comes and
goes does."""

import pytest

from bottega.rig.faults import FaultError, between, fault_table, injectable
from bottega.rig.parameters import parameters
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


def test_two_faults_compose(f7):
    both = Specimen(f7, "1", {"filter_blocked": 0.5, "bearings_worn": 0.9})
    values = both.values(both.acting("0"))
    assert values["filter_open_share"] < 0.1
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
