"""Effects and faults from their records: weights become rates, what this machine lacks is left
out."""

import pytest

from bottega.core.library.errors import LibraryError
from bottega.core.library.faults import (
    PER_MACHINE_YEARS,
    effects_of,
    faults_of,
    records_of,
)


@pytest.fixture
def drain(shelf):
    return shelf.assemblies["drain"]


def known(shelf):
    return {effect for assembly in shelf.assemblies.values() for effect in assembly.effects}


def made(shelf, assembly, scale=None):
    records = records_of([assembly])
    effects = effects_of([assembly], records, shelf.tables, shelf.recipes)
    return effects, faults_of(records, effects, scale or {}, known(shelf), tables=shelf.tables)


def test_a_rate_is_a_weight_per_machine_year_and_a_sheet_may_set_it(shelf, drain):
    _, faults = made(shelf, drain, {"rotor_slips": 250.0})
    for name, fault in faults.items():
        weight = 250.0 if name == "rotor_slips" else drain.faults[name].weight
        assert fault.stated.rate * PER_MACHINE_YEARS == pytest.approx(weight)


def test_only_effects_some_fault_touches_are_kept(shelf, drain):
    one = drain.model_copy(update={"faults": {"rotor_slips": drain.faults["rotor_slips"]}})
    effects, faults = made(shelf, one)
    assert set(effects) == set(faults["rotor_slips"].effects)
    assert set(effects) < set(drain.effects)


def test_a_cause_without_its_result_on_this_machine_is_no_cause(shelf):
    machine = shelf.machine("FB")
    for record in shelf.machines():
        for fault in record.faults.values():
            assert set(fault.causes) <= set(record.faults)
    assert any(fault.causes for fault in machine.faults.values())


def test_an_effect_no_assembly_knows_is_refused(shelf, drain):
    record = drain.faults["rotor_slips"]
    lost = record.model_copy(update={"effects": {**record.effects, "moonlight": 0.5}})
    broken = drain.model_copy(update={"faults": {"rotor_slips": lost}})
    with pytest.raises(LibraryError, match=r"faults.rotor_slips.effects.moonlight"):
        made(shelf, broken)


def test_a_cause_with_an_unknown_word_is_refused_where_it_stands(shelf, drain):
    record = drain.faults["rotor_slips"].model_copy(update={"causes": {"pump_coil_open": "maybe"}})
    both = {"rotor_slips": record, "pump_coil_open": drain.faults["pump_coil_open"]}
    with pytest.raises(LibraryError, match=r"causes.pump_coil_open: found the word 'maybe'"):
        made(shelf, drain.model_copy(update={"faults": both}))
