"""Readings as typed: the unit of the quantity, or what was found and expected."""

import pytest

from bottega.core.measure.reading import ReadingError, parse_reading


@pytest.mark.parametrize(
    ("typed", "quantity", "amount"),
    [
        ("184", "resistance", 184),
        ("0.184 k", "resistance", 184),
        ("0,184 kΩ", "resistance", 184),
        ("184 ohm", "resistance", 184),
        ("1.2M", "resistance", 1.2e6),
        ("OL", "resistance", None),
        ("open", "insulation", None),
        ("2 kΩ", "insulation", 0.002),
        ("50 °F", "temperature", 10),
        ("1 inch", "length", 25.4),
        ("2 gal/min", "flow", 7.570823568),
        ("1.5 min", "duration", 90),
        ("43.2 k", "frequency", 43200),
    ],
)
def test_what_is_typed_becomes_the_unit_of_the_quantity(shelf, typed, quantity, amount):
    measured = parse_reading(typed, shelf.tables.quantities[quantity])
    assert measured.amount == (None if amount is None else pytest.approx(amount))


@pytest.mark.parametrize(
    ("typed", "quantity", "message"),
    [
        ("", "resistance", "expected a number"),
        ("about ten", "resistance", "expected a number"),
        ("184 V", "resistance", "expected Ω"),
        ("184 parsecs", "resistance", "expected Ω"),
        ("12 __import__('os')", "resistance", "found"),
        ("-3", "resistance", "expected 0 to"),
        ("4000", "ac_volts", "expected 0 to 1000"),
        ("OL", "ac_volts", "expected a number in V"),
    ],
)
def test_what_cannot_be_a_reading_says_so(shelf, typed, quantity, message):
    with pytest.raises(ReadingError, match=message):
        parse_reading(typed, shelf.tables.quantities[quantity])
