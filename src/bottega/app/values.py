"""Values from outside: one wording for what cannot be used, and text that can be stored and
shown."""

from math import isfinite

from pydantic import ValidationError

from bottega.app.errors import BadValue

LONGEST_SHOWN = 60
"""Letters of a wrong value that are repeated to whoever sent it; chosen, more pushes the message
off a phone."""
MOST_FIGURES = 30
"""Figures of a number as typed; chosen, no reading or price has more."""


def refused(error: ValidationError, field: str, skip: str = "") -> BadValue:
    """Return the first problem of a validation as an error in its field; ``skip`` is left out of
    the path."""
    first = error.errors()[0]
    path = [str(part) for part in first["loc"] if part != skip]
    where = path[-1] if path else field
    found = "nothing" if first["type"] == "missing" else shown(first["input"])
    return BadValue(f"Found {found} for {where.replace('_', ' ')}: {first['msg'].lower()}.", where)


def shown(value: object) -> str:
    """Return a value as it is repeated in a message: quoted, shortened, on one line."""
    text = repr(value)
    return text if len(text) <= LONGEST_SHOWN else text[: LONGEST_SHOWN - 1] + "…"


def number(text: str, field: str, low: float | None = None, high: float | None = None) -> float:
    """Return a finite number as typed, with a point or a comma. Raises BadValue naming field, value
    and range."""
    name = field.replace("_", " ")
    within = "" if low is None or high is None else f" from {low:g} to {high:g}"
    try:
        value = float(text.strip().replace(",", ".")) if len(text) <= MOST_FIGURES else float("nan")
    except ValueError:
        value = float("nan")
    if not isfinite(value):
        raise BadValue(f"Found {shown(text)} for {name}, expected a number{within}.", field)
    if (low is not None and value < low) or (high is not None and value > high):
        raise BadValue(
            f"Found {value:g} for {name}, expected {within.removeprefix(' from ')}.", field
        )
    return value


def whole(text: str, field: str, low: int, high: int) -> int:
    """Return a whole number as typed in the figures 0 to 9. Raises BadValue naming field, value and
    range."""
    plain = text.strip()
    if not (plain.isascii() and plain.isdecimal() and len(plain) <= len(str(high))):
        expected = f"a whole number from {low} to {high}"
        raise BadValue(
            f"Found {shown(text)} for {field.replace('_', ' ')}, expected {expected}.", field
        )
    value = int(plain)
    if not low <= value <= high:
        raise BadValue(
            f"Found {value} for {field.replace('_', ' ')}, expected {low} to {high}.", field
        )
    return value
