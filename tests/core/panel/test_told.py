"""Codes that somebody tells of in words."""

import pytest

from bottega.core.panel.told import codes_told


@pytest.mark.parametrize(
    ("sheet", "text", "codes"),
    [
        ("virgola-asciutta-7", "It stops after 21 minutes and shows 31.", ["31"]),
        ("virgola-asciutta-7", "error code 3 1, then 24 shows", ["31"]),
        ("virgola-asciutta-7", "It takes 31 minutes.", []),
        ("calvessa-dritta-8", "The display says golu and then nothing.", ["golu"]),
        ("nembrio-f7", "The lamp flashes twice, then once.", ["2-1"]),
        ("nembrio-f7", "It blinks 2 long and 4 short.", ["2-4"]),
        ("nembrio-f7", "It shows two hours and 4 minutes left.", []),
        ("torvane-alta-10", "The lights show 13 and 23.", ["13.23"]),
        ("ostrel-linea-t", "The bar is high, 8 lamps.", ["high-8"]),
        ("quernia-compatta-5", "It beeps high high high low low.", ["hhhll"]),
        ("nembrio-f7", "It says hello.", []),
        ("nembrio-f7", "It shows", []),
    ],
)
def test_what_is_told_of_a_panel_is_a_code_of_this_sheet(shelf, sheet, text, codes):
    machine = shelf.machine(shelf.sheet(sheet).archetype, sheet)
    assert [told.code.id for told in codes_told(machine, text)] == codes


def test_every_code_of_a_display_is_found_as_it_is_shown(shelf):
    for name in shelf.sheets:
        machine = shelf.machine(shelf.sheet(name).archetype, name)
        for code in machine.codes.values():
            if code.record.text:
                told = codes_told(machine, f"Now it shows {code.record.text} all the time.")
                assert [one.code.id for one in told] == [code.id]


def test_a_machine_without_a_panel_tells_none(shelf):
    assert codes_told(shelf.machine("FB"), "It shows 2 and 1.") == ()
