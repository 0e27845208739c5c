"""Units as they are written and as a shop on US customary units reads them. What is stored is
never changed by it; pint converts, at the edge."""

from functools import lru_cache
from math import floor, log10
from typing import TYPE_CHECKING, Literal, NamedTuple

if TYPE_CHECKING:
    import pint

System = Literal["metric", "us"]

CUSTOMARY: dict[str, tuple[str, str]] = {
    "millimeter": ("inch", "in"),
    "meter": ("foot", "ft"),
    "liter / minute": ("gallon / minute", "gal/min"),
    "milliliter / minute": ("fluid_ounce / minute", "fl oz/min"),
    "liter": ("gallon", "gal"),
    "milliliter": ("fluid_ounce", "fl oz"),
    "degC": ("degF", "°F"),
    "kelvin": ("delta_degF", "°F"),
    "kelvin / minute": ("delta_degF / minute", "°F/min"),
    "meter / second": ("foot / second", "ft/s"),
    "kilogram": ("pound", "lb"),
    "kilogram * meter ** 2": ("pound * foot ** 2", "lb·ft²"),
    "newton": ("pound_force", "lbf"),
    "newton * meter": ("pound_force * foot", "lbf·ft"),
    "pascal": ("inch_H2O_60F", "inH₂O"),
}
"""What a shop on US customary units reads for a unit, and its symbol; others are the same
everywhere."""
SYMBOLS: dict[str, str] = {
    "ohm": "Ω",
    "kiloohm": "kΩ",
    "megaohm": "MΩ",
    "volt": "V",
    "millivolt": "mV",
    "ampere": "A",
    "milliampere": "mA",
    "watt": "W",
    "joule": "J",
    "hertz": "Hz",
    "microfarad": "µF",
    "degC": "°C",
    "kelvin": "K",
    "kelvin / minute": "K/min",
    "second": "s",
    "minute": "min",
    "hour": "h",
    "year": "years",
    "liter": "l",
    "milliliter": "ml",
    "liter / minute": "l/min",
    "milliliter / minute": "ml/min",
    "millimeter": "mm",
    "meter": "m",
    "meter / second": "m/s",
    "kilogram": "kg",
    "kilogram * meter ** 2": "kg·m²",
    "newton": "N",
    "newton * meter": "N·m",
    "pascal": "Pa",
    "revolution / minute": "rpm",
    "percent": "%",
    "dimensionless": "",
    "yes or no": "",
}


class Amount(NamedTuple):
    """A figure as it is shown: the number, its symbol, and the unit it is in."""

    number: float
    symbol: str
    unit: str


@lru_cache(maxsize=1)
def units() -> "pint.UnitRegistry[float]":
    """Return the registry of units. Loaded with the first unit that is typed: it takes as long as
    the rest of the core."""
    import pint

    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


def symbol_of(unit: str) -> str:
    """Return how a unit is written; its name where it has no sign of its own."""
    return SYMBOLS.get(unit, unit)


def customary(amount: float, unit: str) -> tuple[float, str] | None:
    """Return an amount in US customary units with the symbol, or None where the unit is the same
    everywhere."""
    if unit not in CUSTOMARY:
        return None
    target, symbol = CUSTOMARY[unit]
    return float(units().Quantity(amount, unit).to(target).magnitude), symbol


def in_system(amount: float, unit: str, system: System) -> Amount:
    """Return an amount as a shop on this system reads it."""
    if system == "us" and unit in CUSTOMARY:
        target, symbol = CUSTOMARY[unit]
        return Amount(float(units().Quantity(amount, unit).to(target).magnitude), symbol, target)
    return Amount(amount, symbol_of(unit), unit)


def from_system(number: float, unit: str, system: System) -> float:
    """Return in its own unit what such a shop typed for it."""
    if system == "us" and unit in CUSTOMARY:
        return float(units().Quantity(number, CUSTOMARY[unit][0]).to(unit).magnitude)
    return number


def deserved(low: float, high: float) -> tuple[float, float]:
    """Return the limits of a window with the digits they deserve: as they are where three say them,
    else rounded to a tenth to a third of its width, outward by no more than half of that."""
    if all(float(f"{limit:.3g}") == limit for limit in (low, high)) or low == high:
        return low, high
    digits = -floor(log10((high - low) / 3))
    return round(low, digits) + 0.0, round(high, digits) + 0.0


def limits_in(low: float, high: float, unit: str, system: System) -> str:
    """Return two limits as a shop on this system reads them, with the digits they deserve and their
    unit: "29 to 34 Ω"."""
    least, most = in_system(low, unit, system), in_system(high, unit, system)
    first, last = deserved(least.number, most.number)
    return f"{first:g} to {last:g} {least.symbol}".strip()


def amount_in(amount: float, unit: str, system: System) -> str:
    """Return an amount as a shop on this system reads it, with three digits and its unit."""
    shown = in_system(amount, unit, system)
    return f"{float(f'{shown.number:.3g}'):g} {shown.symbol}".strip()
