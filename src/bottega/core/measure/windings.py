"""Windings of copper: at another temperature, against each other, and how hot they ran."""

from typing import NamedTuple

COPPER_PER_K = 0.00393
"""Temperature coefficient of annealed copper at 20 °C, 1/K (IEC 60028)."""
COPPER_ZERO_C = 234.5
"""Degrees below zero at which copper would have no resistance, by a straight line (IEC 60034-1)."""


class Three(NamedTuple):
    """Three windings held against each other: the largest over the smallest, and how far the one
    that is most off lies from the mean, in per cent."""

    ratio: float
    off_percent: float


class Split(NamedTuple):
    """Main and start winding: start over main, and both in a row."""

    ratio: float
    both_ohm: float


def copper_at_20(ohm: float, celsius: float) -> float:
    """Return the ohm a copper winding has at 20 °C: R20 = R/(1 + a(T - 20)) (IEC 60028)."""
    return ohm / (1 + COPPER_PER_K * (celsius - 20))


def copper_warmed(ohm: float, celsius: float) -> float:
    """Return the ohm at a temperature of a copper winding that has ``ohm`` at 20 °C: the same,
    turned round."""
    return ohm * (1 + COPPER_PER_K * (celsius - 20))


def three_windings(first_ohm: float, second_ohm: float, third_ohm: float) -> Three:
    """Return how equal three windings are; the sound ones of one motor are wound alike."""
    ohm = (first_ohm, second_ohm, third_ohm)
    mean = sum(ohm) / 3
    return Three(max(ohm) / min(ohm), max(abs(one - mean) for one in ohm) / mean * 100)


def main_against_start(main_ohm: float, start_ohm: float) -> Split:
    """Return how main and start winding stand: the start winding is of thinner wire, and from end
    to end one reads both (Ohm, in series)."""
    return Split(start_ohm / main_ohm, start_ohm + main_ohm)


def winding_rise(cold_ohm: float, cold_c: float, hot_ohm: float, room_c: float) -> float:
    """Return by how many kelvin a winding ran hotter than the room: (R2 - R1)/R1 (234.5 + T1) -
    (T2 - T1) (IEC 60335-1, resistance method)."""
    return (hot_ohm - cold_ohm) / cold_ohm * (COPPER_ZERO_C + cold_c) - (room_c - cold_c)


def quotient(first: float, second: float) -> float:
    """Return one reading over another of the same kind."""
    return first / second
