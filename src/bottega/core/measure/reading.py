"""Read what was typed from a meter: a number with its unit, a prefix alone, or OL for an open
circuit."""

import re
from dataclasses import dataclass

from bottega.core.library.tables import Quantity
from bottega.core.measure.units import units

_NUMBER = re.compile(r"^([+-]?\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?)\s*(.*)$")
_PREFIXES = {"": 1.0, "k": 1e3, "K": 1e3, "M": 1e6, "m": 1e-3, "µ": 1e-6, "u": 1e-6, "n": 1e-9}
_SPELLINGS = {
    "Ω": "ohm",
    "Ohm": "ohm",
    "ohms": "ohm",
    "R": "ohm",
    "°C": "degC",
    "°F": "degF",
    "rpm": "revolution/minute",
    "l/min": "liter/minute",
    "gal/min": "gallon/minute",
    '"': "inch",
    "sec": "second",
}
_UNIT = re.compile(r"^[A-Za-zµ°%/ ]{1,30}$")
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


def parse_reading(typed: str, quantity: Quantity, within: bool = True) -> Measured:
    """Return the reading typed for a quantity, in that quantity's unit.

    ``184`` is taken in the unit shown beside the field, ``0.184 k`` adds a prefix, ``0.184 kΩ``
    names the unit, ``OL`` is an open circuit. Raises ReadingError for no number, another kind of
    unit, or, where it has to be ``within`` it, a value out of physical range.
    """
    text = typed.strip()
    if text.lower() in OPEN_WORDS:
        if not quantity.ol:
            raise ReadingError(f"found OL, expected a number in {quantity.symbol or quantity.unit}")
        return Measured(text, None, quantity.unit)
    match = _NUMBER.match(text)
    if match is None:
        example = "184, 0.184 k or OL" if quantity.ol else "184"
        raise ReadingError(
            f"found '{text[:40]}', expected a number such as {example} in "
            f"{quantity.symbol or quantity.unit}"
        )
    number = float(match.group(1).replace(",", "."))
    amount = _in_unit(number, match.group(2).strip(), quantity)
    if within and not quantity.least <= amount <= quantity.most:
        unit = quantity.symbol or quantity.unit
        raise ReadingError(
            f"found {amount:g} {unit}, expected {quantity.least:g} to {quantity.most:g} {unit}"
        )
    return Measured(text, amount, quantity.unit)


def _in_unit(number: float, suffix: str, quantity: Quantity) -> float:
    if suffix in _PREFIXES:
        return number * _PREFIXES[suffix]
    spelled = _SPELLINGS.get(suffix)
    if spelled is None:
        for sign in ("Ω", "Ohm", "ohms"):
            if suffix.endswith(sign) and suffix.removesuffix(sign) in _PREFIXES:
                factor = _PREFIXES[suffix.removesuffix(sign)]
                return _converted(number * factor, "ohm", suffix, quantity)
        spelled = suffix
    return _converted(number, spelled, suffix, quantity)


def _converted(number: float, unit: str, shown: str, quantity: Quantity) -> float:
    from pint.errors import DimensionalityError, PintError

    if not _UNIT.match(unit):
        raise ReadingError(
            f"found the unit '{shown[:20]}', expected {quantity.symbol or quantity.unit}"
        )
    try:
        return float(units().Quantity(number, unit).to(quantity.unit).magnitude)
    except DimensionalityError as error:
        raise ReadingError(
            f"found the unit '{shown}', expected {quantity.symbol or quantity.unit} or a "
            "prefix of it"
        ) from error
    except (PintError, AttributeError, TypeError, ValueError, SyntaxError) as error:
        raise ReadingError(
            f"found the unit '{shown[:20]}', expected {quantity.symbol or quantity.unit}"
        ) from error
