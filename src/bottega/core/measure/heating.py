"""Heat into water: what an element should give, what it gives, and how long it takes."""

from typing import NamedTuple

from bottega.core.measure.physics import element_resistance_ohm

WATER_J_KG_K = 4186.0
"""Specific heat of water at 15 °C, J/(kg·K); the fifteen-degree calorie."""
WATER_KG_L = 0.998
"""Kilogram a litre of water at 20 °C (IAPWS)."""


class ElementTakes(NamedTuple):
    """What an element takes: ``watts`` and ``ampere``."""

    watts: float
    ampere: float


class Warming(NamedTuple):
    """How water warms: degrees a minute, and ``minutes`` to where it is to come."""

    rise_c_min: float
    minutes: float


class Effective(NamedTuple):
    """What goes into the water, in watt, and in per cent of the plate's."""

    watts: float
    plate_percent: float


def element_ohm(volts: float, watts: float) -> float:
    """Return the resistance in ohm an element of this plate should have: R = U²/P (Joule)."""
    return element_resistance_ohm(volts, watts)


def power_at_mains(ohm: float, volts: float) -> ElementTakes:
    """Return what an element of ``ohm`` takes at the mains as it is: P = U²/R, I = U/R (Ohm,
    Joule)."""
    return ElementTakes(volts * volts / ohm, volts / ohm)


def heating_watts(total_w: float, others_w: float) -> float:
    """Return the watts of the element alone: what the whole machine takes less what else runs."""
    if others_w > total_w:
        raise ValueError(
            f"found {others_w:g} W of other loads, expected at most the total, {total_w:g} W"
        )
    return total_w - others_w


def warming(litres: float, watts: float, from_c: float, to_c: float, lost_w: float) -> Warming:
    """Return how fast so much water warms and how long it takes: (P - lost) = m·c·dT/dt (energy
    balance), ``lost_w`` the watts that go into tub, laundry and room."""
    if watts <= lost_w:
        raise ValueError(f"found {watts:g} W, expected more than the {lost_w:g} W that are lost")
    if to_c < from_c:
        raise ValueError(f"found {to_c:g} °C to come to, expected more than {from_c:g} °C")
    rise = (watts - lost_w) / (litres * WATER_KG_L * WATER_J_KG_K) * 60
    return Warming(rise, (to_c - from_c) / rise)


def effective_watts(
    litres: float, from_c: float, to_c: float, seconds: float, lost_w: float, plate_w: float
) -> Effective:
    """Return the watts that reach the machine by how the water warmed, P = m·c·dT/dt + lost, and
    which share of the plate's that is. At most as much counts as lost as the water itself took:
    where it took less, nothing says that anything heats."""
    taken = litres * WATER_KG_L * WATER_J_KG_K * (to_c - from_c) / seconds
    watts = taken + max(0.0, min(lost_w, taken))
    return Effective(watts, watts / plate_w * 100)
