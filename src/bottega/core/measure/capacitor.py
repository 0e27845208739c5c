"""Capacitors: what the mark allows, what runs through them, and how they lose their charge."""

from math import log, pi
from typing import NamedTuple


class CapacitorLimits(NamedTuple):
    """The least and the most a mark allows, in microfarad."""

    low_uf: float
    high_uf: float


class Discharge(NamedTuple):
    """A capacitor let empty through a resistor: ``seconds`` to the safe voltage, the watts the
    resistor takes at first, and the energy in joule."""

    seconds: float
    first_w: float
    joule: float


class OnMains(NamedTuple):
    """A capacitor on the mains: its reactance in ohm and its current in ampere."""

    ohm: float
    ampere: float


def capacitor_band(microfarad: float, less_percent: float, more_percent: float) -> CapacitorLimits:
    """Return what a marked capacitor may have; classes of tolerance as marked (IEC 60252-1: 5 or
    10 per cent)."""
    return CapacitorLimits(
        microfarad * (1 - less_percent / 100), microfarad * (1 + more_percent / 100)
    )


def discharge(microfarad: float, volts: float, ohm: float, safe_v: float) -> Discharge:
    """Return how a capacitor empties: t = RC·ln(U/Us), P = U²/R, W = CU²/2."""
    farad = microfarad * 1e-6
    seconds = ohm * farad * log(volts / safe_v) if volts > safe_v else 0.0
    return Discharge(seconds, volts * volts / ohm, farad * volts * volts / 2)


def capacitor_running(microfarad: float, volts: float, hertz: float) -> OnMains:
    """Return what runs through a capacitor on the mains: X = 1/(2·pi·f·C), I = U/X."""
    ohm = 1e6 / (2 * pi * hertz * microfarad)
    return OnMains(ohm, volts / ohm)


def capacitor_by_current(ampere: float, volts: float, hertz: float) -> float:
    """Return the microfarad of a capacitor by its current while it runs: C = I/(2·pi·f·U)."""
    return ampere / (2 * pi * hertz * volts) * 1e6
