"""Water in, its level, and what leaks: orifices in series, the tub's shape, trapped air."""

from bisect import bisect_left
from dataclasses import dataclass
from functools import lru_cache
from math import acos, pi, sqrt

from bottega.rig.units import MICRO

RHO_G = 998.0 * 9.81
"""Weight of a cubic metre of water at 20 °C, in newton."""
AIR_PA = 101_325.0
"""Standard atmosphere (ISO 2533)."""
STEP_L = 0.25
DISCHARGE = 0.62
"""Discharge coefficient of a sharp-edged orifice (Munson, Fundamentals of Fluid Mechanics)."""


def in_series(*coefficients: float) -> float:
    """Return the flow coefficient of restrictions in series, in the unit of each: 1/K² is the
    sum of 1/Kᵢ²; nought when one is shut."""
    if min(coefficients) <= 0:
        return 0.0
    return 1 / sqrt(sum(1 / (k * k) for k in coefficients))


def orifice_l_s(area_mm2: float, head_m: float) -> float:
    """Return the flow in litre/second out of a hole under a head of water: Q = C·A·√(2gh)
    (Torricelli)."""
    if area_mm2 <= 0 or head_m <= 0:
        return 0.0
    return DISCHARGE * area_mm2 * MICRO * sqrt(2 * 9.81 * head_m) * 1000


@dataclass(frozen=True)
class Tub:
    """The tub's shape as a table: height of the water in metre above its lowest point, every
    quarter litre."""

    heights_m: tuple[float, ...]

    def height_m(self, litres: float) -> float:
        """Return how high so much water stands, in metre; above the table it goes on as at its
        end."""
        place = litres / STEP_L
        at = min(int(place), len(self.heights_m) - 2)
        low, high = self.heights_m[at], self.heights_m[at + 1]
        return low + (high - low) * (place - at)

    def litres(self, height_m: float) -> float:
        """Return how much water stands so high, in litre."""
        at = max(1, min(bisect_left(self.heights_m, height_m), len(self.heights_m) - 1))
        low, high = self.heights_m[at - 1], self.heights_m[at]
        return STEP_L * (at - 1 + (height_m - low) / max(high - low, 1e-9))


@lru_cache(maxsize=16)
def tub_of(lies: bool, radius_m: float, length_m: float, sump_l: float, *, sump_m: float) -> Tub:
    """Return a tub that lies (a cylinder on its side above a sump) or stands (a cylinder), by
    its sizes in metre and litre. Geometry of the circular segment."""
    heights, volume, height, step = [0.0], 0.0, 0.0, 2e-4
    most = 2 * radius_m if lies else length_m
    while len(heights) * STEP_L < 160 and height < most + sump_m:
        height += step
        volume += (
            _slice_m2(lies, radius_m, length_m, sump_l, sump_m=sump_m, at_m=height) * step * 1000
        )
        while volume >= len(heights) * STEP_L:
            heights.append(height)
    return Tub(tuple(heights))


def _slice_m2(
    lies: bool, radius: float, length: float, sump_l: float, *, sump_m: float, at_m: float
) -> float:
    if at_m < sump_m:
        return sump_l / 1000 / sump_m
    if not lies:
        return pi * radius * radius
    depth = min(max(at_m - sump_m, 1e-4), 2 * radius - 1e-4)
    return 2 * sqrt(depth * (2 * radius - depth)) * length


def segment_m2(radius_m: float, depth_m: float) -> float:
    """Return the area of a circle's segment of that depth, in square metre (geometry), to check
    the table by."""
    return radius_m**2 * acos((radius_m - depth_m) / radius_m) - (radius_m - depth_m) * sqrt(
        2 * radius_m * depth_m - depth_m**2
    )


def trapped_pa(above_m: float, chamber_m3: float, area_m2: float, air: float = 1.0) -> float:
    """Return the pressure in pascal over the atmosphere of air trapped under ``above_m`` of
    water over the chamber's mouth, by Boyle's law: air·p₀·V = (p₀ + p)·(V - A·x), p = ρg(h -
    x). ``air`` is the share of it still there."""
    if above_m <= 0:
        return 0.0
    a = RHO_G * area_m2
    b = area_m2 * (AIR_PA + RHO_G * above_m) + RHO_G * chamber_m3
    c = chamber_m3 * (AIR_PA * (1 - air) + RHO_G * above_m)
    root = b * b - 4 * a * c
    rise = (b - sqrt(max(root, 0.0))) / (2 * a)
    return max(0.0, RHO_G * (above_m - rise))
