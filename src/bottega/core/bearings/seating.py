"""What is measured when it is together: how far a part stands out, at three points or more, and how
it is tilted. Source: the plane through the points by least squares."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan, cos, degrees, hypot, pi, sin
from statistics import mean
from typing import Literal

from bottega.core.library.hub_record import Seating

LEAST_POINTS = 3
INCH_MM, CENTIMETRE_MM = 25.4, 10.0
NEAR_MM = 1.0
"""How far a figure read in another unit may lie from the window to be taken for a slip; chosen, a
division of a rule."""
Sits = Literal["sits", "too deep", "too far out", "tilted"]


class SeatingError(ValueError):
    """Points that cannot be: says what was found and what was expected."""


@dataclass(frozen=True)
class Seated:
    """How a part sits: the mean of its points and the difference across, in mm, and what that
    is."""

    mean_mm: float
    tilt_mm: float
    verdict: Sits


def plane_of(points_mm: Sequence[float]) -> tuple[float, float]:
    """Return mean and tilt of points measured evenly round: the tilt is what opposite sides differ
    by, in mm."""
    count = len(points_mm)
    turn = [2 * pi * n / count for n in range(count)]
    along = 2 / count * sum(p * cos(a) for p, a in zip(points_mm, turn, strict=True))
    across = 2 / count * sum(p * sin(a) for p, a in zip(points_mm, turn, strict=True))
    return mean(points_mm), 2 * hypot(along, across)


def slip(point_mm: float, want: Seating) -> str:
    """Return what a figure looks like when it lies far off: centimetres or inches taken for
    millimetres, or a rule read from its second end; empty for one that may be."""
    low, high = want.low, want.high
    if low - NEAR_MM <= point_mm <= high + NEAR_MM or point_mm < 0:
        return ""
    for factor, says in (
        (1 / CENTIMETRE_MM, "tenths of a millimetre"),
        (CENTIMETRE_MM, "centimetres"),
        (INCH_MM, "inches"),
    ):
        if low - NEAR_MM <= point_mm * factor <= high + NEAR_MM:
            return f"{says} instead of millimetres: {point_mm * factor:g} mm"
    if low <= point_mm - CENTIMETRE_MM <= high:
        return f"a rule read from its first centimetre: {point_mm - CENTIMETRE_MM:g} mm"
    return ""


def seated(points_mm: Sequence[float], want: Seating) -> Seated:
    """Return how a part sits by its points. Raises SeatingError for fewer than three, or one that
    looks like a slip or cannot be."""
    if len(points_mm) < LEAST_POINTS:
        raise SeatingError(f"found {len(points_mm)} points, expected three or more, evenly round")
    for point in points_mm:
        looks = slip(point, want)
        if looks:
            raise SeatingError(
                f"found {point:g} mm, expected about {want.low:g} to {want.high:g} mm; it looks "
                f"like {looks}"
            )
        if not 0 <= point <= max(3 * want.high, want.high + CENTIMETRE_MM):
            raise SeatingError(
                f"found {point:g} mm, expected about {want.low:g} to {want.high:g} mm"
            )
    middle, tilt = plane_of(points_mm)
    verdict: Sits = "sits"
    if middle < want.low:
        verdict = "too deep"
    elif middle > want.high:
        verdict = "too far out"
    elif tilt > want.tilt_mm:
        verdict = "tilted"
    return Seated(middle, tilt, verdict)


def seat_tilt(
    first_mm: float, second_mm: float, third_mm: float, across_mm: float
) -> tuple[float, float, float]:
    """Return the mean of three points evenly round, what opposite sides differ by, in mm, and the
    angle that is over the diameter, in degrees."""
    middle, tilt = plane_of((first_mm, second_mm, third_mm))
    return middle, tilt, degrees(atan(tilt / across_mm))
