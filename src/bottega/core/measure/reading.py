"""Read what was typed from a meter: a number with its unit, a prefix alone, or OL for an open
circuit."""

import re
from dataclasses import dataclass
from tokenize import TokenError
from typing import Literal

from bottega.core.library.tables import Quantity
from bottega.core.measure.units import units

Bound = Literal["", ">", "<"]
"""Whether a number is only a limit: "> 1000" is what a meter shows beyond its range."""

_NUMBER = re.compile(r"^([<>]?)\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*)$")
_PREFIXES = {"": 1.0, "G": 1e9, "M": 1e6, "k": 1e3, "K": 1e3, "m": 1e-3, "µ": 1e-6, "u": 1e-6}
_PREFIXES |= {"n": 1e-9}
_OHMS = ("Ω", "Ohm", "ohms", "ohm", "R")
_SPELLINGS = {
    "rpm": "revolution/minute",
    "l/min": "liter/minute",
    "ml/min": "milliliter/minute",
    "gal/min": "gallon/minute",
    "fl oz/min": "fluid_ounce/minute",
    '"': "inch",
    "sec": "second",
    "°C": "degC",
    "°F": "degF",
}
_DEGREES = {"C": "degC", "F": "degF"}
_TURNS = {
    ("revolution / minute", "Hz"): 60.0,
    ("revolution / minute", "hertz"): 60.0,
    ("hertz", "rpm"): 1 / 60,
}
"""Turns a second are hertz: a unit library counts the radians of a turn instead."""
_SAME_SIGN = str.maketrans({"\u03bc": "µ", "\u2126": "Ω", "\u2265": ">", "\u2264": "<"})
"""Signs that look alike: the Greek letter and the micro sign, the Greek letter and the ohm sign."""
_UNIT = re.compile(r"^[A-Za-zµ°%/_ ]{1,30}$")
_ODD_UNITS = (TypeError, ValueError, SyntaxError, ArithmeticError, LookupError, TokenError)
"""What the unit library raises beside its own errors for a unit that is none."""
OPEN_WORDS = {"ol", "o.l", "open", "overload", "∞"}


class ReadingError(ValueError):
    """A reading that cannot be used: says what was found and what was expected."""


@dataclass(frozen=True)
class Measured:
    """A reading in the unit of its quantity; ``amount`` is None for an open circuit (the meter
    shows OL)."""

    typed: str
    amount: float | None
    unit: str
    bound: Bound = ""
    """Where the meter said only more than, or less than, the amount."""


def parse_reading(
    typed: str, quantity: Quantity, within: bool = True, bounds: bool = False
) -> Measured:
    """Return the reading typed for a quantity, in that quantity's unit.

    ``184`` is taken in the unit shown beside the field, ``0.184 k`` adds a prefix to the base unit
    (ohm, also in a field in megohm), ``0.184 kΩ`` names the unit, ``OL`` is an open circuit;
    ``> 1000`` is a reading where ``bounds`` are understood. Raises ReadingError for no number,
    another kind of unit, a prefix that means nothing here, or, where it has to be ``within`` it, a
    value out of physical range.
    """
    shown = typed.strip()
    text = shown.translate(_SAME_SIGN)
    unit = quantity.symbol or quantity.unit
    if text.lower() in OPEN_WORDS:
        if not quantity.ol:
            raise ReadingError(f"found OL, expected a number in {unit}")
        return Measured(shown, None, quantity.unit)
    match = _NUMBER.match(text)
    if match is None or (match[1] and not bounds):
        example = "184, 0.184 k or OL" if quantity.ol else "184"
        raise ReadingError(f"found '{text[:40]}', expected a number such as {example} in {unit}")
    amount = _in_unit(float(match[2].replace(",", ".")), match[3].strip(), quantity)
    if within and not quantity.least <= amount <= quantity.most:
        raise ReadingError(
            f"found {amount:g} {unit}, expected {quantity.least:g} to {quantity.most:g} {unit}"
        )
    bound: Bound = ">" if match[1] == ">" else "<" if match[1] == "<" else ""
    return Measured(shown, amount, quantity.unit, bound)


def _in_unit(number: float, suffix: str, quantity: Quantity) -> float:
    """Return a number with what was typed behind it in the unit of the quantity."""
    if not suffix:
        return number
    turns = _TURNS.get((quantity.unit, suffix))
    if turns is not None:
        return number * turns
    if quantity.prefix is not None and suffix in _PREFIXES:
        return _converted(number * _PREFIXES[suffix], quantity.prefix, suffix, quantity)
    for sign in _OHMS:
        if suffix.endswith(sign) and suffix.removesuffix(sign) in _PREFIXES:
            factor = _PREFIXES[suffix.removesuffix(sign)]
            return _converted(number * factor, "ohm", suffix, quantity)
    spelled = _SPELLINGS.get(suffix, suffix)
    if quantity.unit == "degC":
        spelled = _DEGREES.get(suffix, spelled)
    return _converted(number, spelled, suffix, quantity)


def _converted(number: float, unit: str, shown: str, quantity: Quantity) -> float:
    from pint.errors import DimensionalityError, PintError

    wanted = quantity.symbol or quantity.unit
    if not _UNIT.match(unit):
        raise ReadingError(f"found the unit '{shown[:20]}', expected {wanted}")
    try:
        return float(units().Quantity(number, unit).to(quantity.unit).magnitude)
    except DimensionalityError as error:
        raise ReadingError(
            f"found the unit '{shown}', expected {wanted} or a unit of the same kind"
        ) from error
    except (PintError, AssertionError, AttributeError, *_ODD_UNITS) as error:
        raise ReadingError(f"found the unit '{shown[:20]}', expected {wanted}") from error
