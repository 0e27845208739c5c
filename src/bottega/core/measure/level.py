"""The level by the water's pressure, and the sensor that tells it. Sources: hydrostatics."""

from typing import NamedTuple

from bottega.core.measure.heating import WATER_KG_L

GRAVITY = 9.80665
"""Standard gravity, m/s² (ISO 80000-3)."""


class Span(NamedTuple):
    """What a sensor's signal moved by, and which share of what it should that is, in per cent."""

    moved: float
    right_percent: float


def column_pascal(millimetres: float) -> float:
    """Return the pressure in pascal of a column of water: p = rho·g·h."""
    return WATER_KG_L * GRAVITY * millimetres


def sensor_signal(zero: float, per_kpa: float, millimetres: float) -> float:
    """Return the signal of a level sensor under so much water, in its own unit (hertz or volt):
    its zero and what it moves a kilopascal, as its sheet says."""
    return zero + per_kpa * column_pascal(millimetres) / 1000


def sensor_level(zero: float, per_kpa: float, signal: float) -> float:
    """Return the millimetres of water a level sensor speaks of: the same, turned round."""
    if not per_kpa:
        raise ValueError("found 0 a kilopascal, expected a sensor whose signal moves")
    return (signal - zero) / per_kpa * 1000 / (WATER_KG_L * GRAVITY)


def sensor_span(zero: float, signal: float, per_kpa: float, millimetres: float) -> Span:
    """Return how far the signal moved for so much water, and how right that is."""
    wanted = sensor_signal(zero, per_kpa, millimetres) - zero
    if not wanted:
        raise ValueError("found no water or a signal that does not move, expected both")
    return Span(signal - zero, (signal - zero) / wanted * 100)
