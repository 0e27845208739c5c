"""How tight a bearing sits, what it takes to push it on, and how warm to make a seat so that it
drops in. Sources: ISO 286-2, ISO 492, Lamé's thick rings."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf, pi

from bottega.core.bearings.mark import Bearing
from bottega.core.library.bearing_record import Deviations, FitTable

STEEL_GPA, POISSON = 210.0, 0.3
RUBS = 0.15
"""Friction while a ring is pushed over an oiled seat; chosen, handbooks give 0.12 to 0.18."""


class FitError(ValueError):
    """A fit no table has."""


@dataclass(frozen=True)
class Interference:
    """How much larger than its seat a ring is, in thousandths of a mm: least and most; below nought
    it is loose."""

    least_um: float
    most_um: float

    @property
    def says(self) -> str:
        """Return what that is: pressed in, loose, or either."""
        if self.least_um >= 0:
            return "always tight"
        return "always loose" if self.most_um <= 0 else "tight or loose as they come"


def on_shaft(table: FitTable, bearing: Bearing, fit: str) -> Interference:
    """Return the interference of a bearing's inner ring on a shaft of a class: the shaft's
    deviation less the bore's. Raises FitError."""
    shaft = _of(table.shafts, fit, bearing.bore_mm)
    bore = _at(table.bearing.bore, bearing.bore_mm)
    return Interference(shaft[1] - bore[0], shaft[0] - bore[1])


def in_housing(table: FitTable, bearing: Bearing, fit: str) -> Interference:
    """Return the interference of its outer ring in a housing of a class: the ring's deviation less
    the hole's. Raises FitError."""
    hole = _of(table.housings, fit, bearing.outside_mm)
    ring = _at(table.bearing.outside, bearing.outside_mm)
    return Interference(ring[1] - hole[0], ring[0] - hole[1])


def _of(classes: Mapping[str, dict[float, Deviations]], fit: str, mm: float) -> Deviations:
    if fit not in classes:
        raise FitError(f"found the fit '{fit[:10]}', expected one of {', '.join(classes)}")
    return _at(classes[fit], mm)


def _at(ranges: dict[float, Deviations], mm: float) -> Deviations:
    for most, deviations in ranges.items():
        if mm <= most:
            return deviations
    raise FitError(f"found {mm:g} mm, expected at most {max(ranges):g} mm")


def press_force(
    interference_um: float, diameter_mm: float, width_mm: float, wall_mm: float, seat_gpa: float
) -> tuple[float, float]:
    """Return the newton it takes to push a steel ring into a seat, and the pressure between them in
    megapascal: p from Lamé's thick rings, F = mu·p·pi·d·w.

    ``wall_mm`` is how thick the seat is round the ring; the ring is taken as a fifth of its radius
    thick. Nothing where there is no interference.
    """
    if interference_um <= 0:
        return 0.0, 0.0
    d, outer, inner = diameter_mm, diameter_mm + 2 * wall_mm, diameter_mm * 0.8
    seat = ((outer**2 + d**2) / (outer**2 - d**2) + POISSON) / (seat_gpa * 1000)
    ring = ((d**2 + inner**2) / (d**2 - inner**2) - POISSON) / (STEEL_GPA * 1000)
    pressure = interference_um / 1000 / (d * (seat + ring))
    return RUBS * pressure * pi * d * width_mm, pressure


def warm_up(
    interference_um: float, gap_um: float, diameter_mm: float, expands_um_m_k: float, room_c: float
) -> float:
    """Return how warm to make a seat, in °C, so that a ring drops in with a gap: dT =
    (interference + gap)/(a·d)."""
    if diameter_mm <= 0:
        return inf
    return room_c + (interference_um + gap_um) / (expands_um_m_k * diameter_mm / 1000)
