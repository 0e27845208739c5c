"""Repairs from their records: a new part ends what lists it, other work ends its own fault."""

import pytest

from bottega.core.library.errors import LibraryError
from bottega.core.library.faults import records_of
from bottega.core.library.repairs import REPAIR_MIN, REPAIR_SUCCESS, parts_of, repairs_of


def test_a_part_covers_exactly_the_faults_that_ask_for_it(shelf):
    for machine in shelf.machines():
        archetype = shelf.archetypes[machine.archetype]
        written = {
            name: record
            for assembly in archetype.assemblies
            for name, record in shelf.assemblies[assembly].faults.items()
            if name in machine.faults
        }
        for name, option in machine.repairs.items():
            if option.do != "part":
                assert len(option.covers) == 1
                continue
            wanted = {
                fault
                for fault, record in written.items()
                for repair in record.repairs
                if repair.do == "part" and (repair.of or record.component) == option.component
            }
            assert {fault for fault, _ in option.covers} == wanted, name


def test_a_repair_has_minutes_a_price_and_a_chance_also_where_none_is_written(shelf, f7):
    record = shelf.assemblies["drain"].faults["filter_blocked"]
    plain = record.repairs[0].model_copy(
        update={"do": "clean", "minutes": None, "success": None, "price_eur": 0, "name": None}
    )
    drain = shelf.assemblies["drain"].model_copy(
        update={"faults": {"filter_blocked": record.model_copy(update={"repairs": (plain,)})}}
    )
    option = repairs_of(records_of([drain]), f7.components, {}, {})["filter_blocked.clean"]
    assert (option.minutes, option.price_eur) == (REPAIR_MIN, 0)
    assert option.covers == (("filter_blocked", REPAIR_SUCCESS),)
    assert option.name.startswith("clean ")


def test_a_sheet_prices_its_parts_by_the_number_of_its_own_variant(shelf):
    sheet, machine = shelf.sheets["nembrio-f7"], shelf.machine("FB", "nembrio-f7")
    bare = parts_of(machine.components, None)
    priced = parts_of(machine.components, sheet)
    for name, numbers in sheet.parts.items():
        assert priced[name].price_eur == numbers[0].price_eur
    assert {n for n in priced if priced[n] != bare[n]} <= set(sheet.parts)


def test_a_fault_that_wants_a_part_its_component_lacks_is_refused(shelf, f7):
    with pytest.raises(LibraryError, match=r"components.sump_hose.part: found 'no part'"):
        repairs_of(records_of([shelf.assemblies["drain"]]), f7.components, {}, {})
