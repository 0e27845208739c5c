"""Three layers make one machine type: assembly, archetype, sheet, each over the one before."""

from random import Random

import pytest

from bottega.core.library.faults import PER_MACHINE_YEARS
from bottega.core.library.layers import Layering, trimmed
from bottega.core.library.records import Omit


def test_what_an_archetype_omits_is_gone_everywhere(shelf):
    for name, archetype in shelf.archetypes.items():
        machine = shelf.machine(name)
        omit = archetype.omit
        assert not set(omit.components) & set(machine.components)
        assert not set(omit.faults) & set(machine.faults)
        assert not set(omit.checks) & set(machine.checks)
        assert not set(omit.operations) & set(machine.operations)
        assert set(machine.components) <= {
            part
            for assembly in archetype.assemblies
            for part in shelf.assemblies[assembly].components
        }


def test_trimming_leaves_the_rest_as_it_was(shelf):
    drain = shelf.assemblies["drain"]
    gone = trimmed(drain, Omit(faults=("rotor_slips",)))
    assert set(drain.faults) - set(gone.faults) == {"rotor_slips"}
    assert set(gone.checks) <= set(drain.checks)
    assert trimmed(drain, Omit()) == drain


def test_a_sheet_says_more_than_its_archetype_and_nothing_less(shelf):
    for sheet in shelf.sheets:
        record = shelf.sheet(sheet)
        alone, made = shelf.machine(record.archetype), shelf.machine(record.archetype, sheet)
        assert set(alone.checks) - set(made.checks) == set(record.omit.checks)
        assert set(alone.faults) - set(made.faults) == set(record.omit.faults)
        assert set(made.checks) <= set(alone.checks)
        for fault, factor in record.weights.items():
            assert made.faults[fault].rate != alone.faults[fault].rate or factor == 1
        for key, window in record.values.items():
            assert made.values[key] == window


@pytest.mark.parametrize("archetype", ["FB", "TS", "WD"])
def test_the_order_of_assemblies_does_not_change_what_is_made(shelf, archetype):
    record = shelf.archetypes[archetype]
    turned = record.model_copy(update={"assemblies": tuple(reversed(record.assemblies))})
    known = {effect for assembly in shelf.assemblies.values() for effect in assembly.effects}
    layers = Layering(shelf.tables, known, shelf.recipes, shelf.wirings)
    one = layers.join(record, [shelf.assemblies[a] for a in record.assemblies], None)
    other = layers.join(turned, [shelf.assemblies[a] for a in turned.assemblies], None)
    assert set(one.faults) == set(other.faults)
    for name, effect in one.effects.items():
        assert other.effects[name].background == pytest.approx(effect.background)


def test_a_sound_machine_comes_in_as_often_as_it_is_called_about(shelf):
    """Its rate times the chance that somebody says something of it by slip are the calls."""
    rng = Random(3)
    for name, record in shelf.archetypes.items():
        machine = shelf.machine(name)
        said = sum(
            any(rng.random() < complaint.said[0] for complaint in machine.complaints.values())
            for _ in range(4000)
        )
        calls = machine.no_fault_rate * PER_MACHINE_YEARS * said / 4000
        assert calls == pytest.approx(record.no_fault_weight, rel=0.12)


def test_a_plain_fact_is_said_by_slip_more_rarely_than_an_impression(f7):
    said = {name: complaint.said[0] for name, complaint in f7.complaints.items()}
    assert said["says_trips"] < said["says_roars"]
    assert said["says_floor_wet"] < said["says_long_wash"]
