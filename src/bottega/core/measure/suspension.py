"""How a pushed tub comes to rest."""

from math import log, pi
from typing import NamedTuple


class Swing(NamedTuple):
    """How a swing dies: the height of one bob over the next, and the damping ratio (1 comes back
    without a bob)."""

    ratio: float
    damping: float


def _damping(decrement: float) -> float:
    """Return the damping ratio of a logarithmic decrement: d/sqrt(4·pi² + d²)."""
    return float(decrement / (4 * pi * pi + decrement * decrement) ** 0.5)


def swing_by_heights(first_mm: float, last_mm: float, bobs: float) -> Swing:
    """Return how a swing dies by two heights so many bobs apart: d = ln(x0/xn)/n (logarithmic
    decrement)."""
    if last_mm > first_mm:
        raise ValueError(
            f"found {last_mm:g} mm after {first_mm:g} mm, expected the later bob to be smaller"
        )
    ratio = (first_mm / last_mm) ** (1 / bobs)
    return Swing(ratio, _damping(log(ratio)))


SEEN_SHARE = 0.05
"""Of the first height, below which an eye sees no bob more; chosen, two millimetres of four
centimetres."""


def swing_by_count(bobs: float) -> Swing:
    """Return the same by how many bobs are seen: the last of them is a twentieth of the first, so
    between n bobs lie n - 1 swings; of one bob alone the next would be that small."""
    decrement = log(1 / SEEN_SHARE) / max(bobs - 1, 1.0)
    return Swing(2.718281828459045**decrement, _damping(decrement))
