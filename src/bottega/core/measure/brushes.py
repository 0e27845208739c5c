"""How long carbon brushes will last."""

from typing import NamedTuple

WEEKS = 52.18
"""Weeks a year."""


class BrushLeft(NamedTuple):
    """What is left of a brush: millimetres to its limit, millimetres worn a year, years and washes
    until then."""

    left_mm: float
    wear_mm_year: float
    years: float
    cycles: float


def brush_left(
    new_mm: float, now_mm: float, least_mm: float, years: float, washes_a_week: float
) -> BrushLeft:
    """Return how long brushes will last if they wear on as they did (a straight line)."""
    if now_mm > new_mm:
        raise ValueError(
            f"found {now_mm:g} mm now and {new_mm:g} mm new, expected it to be shorter by now"
        )
    wear = (new_mm - now_mm) / years
    left = max(0.0, now_mm - least_mm)
    lasts = left / wear if wear else float("inf")
    return BrushLeft(left, wear, lasts, lasts * washes_a_week * WEEKS)
