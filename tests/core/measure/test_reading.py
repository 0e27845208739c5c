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
        # a prefix alone belongs to the base unit, whatever the field shows
        ("50 k", "insulation", 0.05),
        ("0.5 M", "insulation", 0.5),
        ("2 G", "insulation", 2000),
        ("16 u", "capacitance", 16),
        ("16 \u03bcF", "capacitance", 16),
        ("0.3 m", "length", 300),
        ("1.2 GOhm", "insulation", 1200),
        (".3", "resistance", 0.3),
        ("20 C", "temperature", 20),
        ("68 F", "temperature", 20),
        # a turn a second is a hertz
        ("20 Hz", "speed", 1200),
        ("1200 rpm", "frequency", 20),
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
        ("5 m", "duration", "found the unit 'm', expected s"),
        ("5 k", "temperature", "expected °C"),
        ("2 m", "flow", "expected l/min"),
        ("> 1000", "insulation", "expected a number"),
    ],
)
def test_what_cannot_be_a_reading_says_so(shelf, typed, quantity, message):
    with pytest.raises(ReadingError, match=message):
        parse_reading(typed, shelf.tables.quantities[quantity])
