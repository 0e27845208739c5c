"""Readings that look like something else, against the machines of the library."""

import pytest

from bottega.core.library.records import Window
from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.own import own_window
from bottega.core.measure.plausible import doubts
from bottega.core.measure.reading import parse_reading
from bottega.core.measure.units import deserved

SHELF = shipped_shelf()
MACHINE = SHELF.machine("FB", "nembrio-f7")


def doubted(check_id: str, typed: str) -> list[str]:
    check = MACHINE.checks[check_id]
    quantity = SHELF.tables.quantities[check.measure.quantity]
    measured = parse_reading(typed, quantity, False)
    window = MACHINE.values.get(check.measure.value) or check.measure.generic
    return [doubt.says for doubt in doubts(MACHINE, check, measured, window, quantity=quantity)]


@pytest.mark.parametrize(
    ("check", "typed", "says"),
    [
        ("measure_cold_coil", "3.8", "kilo"),
        ("measure_pump_coil", "18.4", "comma"),
        ("measure_pump_coil", "1840", "comma"),
        ("measure_windings", "2100", "milli"),
        ("measure_pump_coil", "12000000", "open lead"),
        ("measure_pump_coil", "12 MΩ", "open lead"),
    ],
)
def test_a_reading_that_looks_like_something_else(check, typed, says):
    assert any(says in words for words in doubted(check, typed))


@pytest.mark.parametrize(
    ("check", "typed"),
    [
        ("measure_pump_coil", "184"),
        ("measure_pump_coil", "OL"),
        ("measure_pump_coil", "2"),
        ("measure_cold_coil", "3.8 ohm"),
    ],
)
def test_a_reading_that_can_be_is_not_doubted(check, typed):
    """In band, open, shorted; or its unit was typed."""
    assert doubted(check, typed) == []


def test_leads_on_another_pair_are_named():
    machine, quantity = SHELF.machine("TG"), SHELF.tables.quantities["resistance"]
    check = machine.checks["measure_main_winding"]
    wide = machine.checks["measure_start_winding"].measure.generic
    window = Window(low=3, high=6, unit="ohm", source="sheet", grade="sheet")
    measured = parse_reading(f"{wide.high - 1} ohm", quantity)
    found = doubts(machine, check, measured, window, quantity=quantity)
    assert [d.says for d in found] == [
        f"the leads on another pair: it fits “{machine.checks['measure_start_winding'].name}”"
    ]


def test_five_good_readings_are_a_source_and_four_are_none():
    assert own_window([180, 182, 184, 186], "ohm") is None
    window = own_window([180, 182, 184, 186, 400], "ohm")
    assert window.grade == "measured"
    assert "5 good ones: median 184, spread 3" in window.source
    assert window.low < 180 < 186 < window.high < 400
    """One of five that is far off moves neither the middle nor the spread."""


def test_readings_that_are_all_alike_leave_room_for_the_next():
    window = own_window([100.0] * 6, "ohm")
    assert (window.low, window.high) == (pytest.approx(100 / 1.05), pytest.approx(105))


@pytest.mark.parametrize(
    ("low", "high", "shown"),
    [
        (28.79, 33.59, (29, 34)),
        (165, 205, (165, 205)),
        (0.5, 1.25, (0.5, 1.25)),
        (25.1876, 29.3921, (25, 29)),
        (7, 7, (7, 7)),
    ],
)
def test_windows_have_the_digits_they_deserve(low, high, shown):
    assert deserved(low, high) == shown
