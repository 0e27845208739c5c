"""Part numbers are written into a sheet, beside those it has."""

import pytest

from bottega.app.errors import BadValue
from bottega.app.library.parts import LONGEST_NUMBER, add_part

SHEET = "pellandra-400"


def fields(**given):
    return {"component": "drain_pump", "number": "PE-11", "price": "31", **given}


def test_a_number_stands_beside_those_it_has(workshop):
    before = workshop.shelf.machine("TG", SHEET)
    component = next(iter(before.part_numbers), "drain_pump")
    known = len(before.part_numbers.get(component, ()))
    machine = add_part(workshop, SHEET, fields(component=component, replaces="A, B ,"), "Ilaria")
    *old, new = machine.part_numbers[component]
    assert len(old) == known
    assert (new.number, new.replaces, new.price_eur) == ("PE-11", ("A", "B"), 31)
    assert workshop.machine("TG", SHEET).part_numbers == machine.part_numbers
    assert workshop.sheets.of(SHEET)[0].author == "Ilaria"


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"component": "rocket"}, "component"),
        ({"number": "  "}, "number"),
        ({"number": "9" * (LONGEST_NUMBER + 1)}, "number"),
        ({"price": "cheap"}, "price"),
        ({"price": "0"}, "price"),
    ],
)
def test_what_is_no_part_is_refused_in_its_field_and_changes_nothing(workshop, given, field):
    with pytest.raises(BadValue) as caught:
        add_part(workshop, SHEET, fields(**given), "Ilaria")
    assert caught.value.field == field
    assert workshop.sheets.of(SHEET) == []
