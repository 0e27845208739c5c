"""The way out: what the pump has to lift, what the hose takes away, and when it runs off by
itself."""

from math import pi
from typing import NamedTuple

from bottega.core.measure.level import GRAVITY

WATER_NU = 1.0e-6
"""Kinematic viscosity of water at 20 °C, m²/s (IAPWS)."""


class Head(NamedTuple):
    """What a pump works against, in metre of water: to be lifted, lost in the hose, together."""

    lift_m: float
    friction_m: float
    head_m: float


def drain_head(
    standpipe_mm: float, pump_mm: float, length_m: float, bore_mm: float, l_min: float
) -> Head:
    """Return the head a pump works against: the highest point above it, and the hose's friction,
    f·L/d·v²/2g (Darcy and Weisbach; Blasius, f = 0.316/Re^0.25, above Re 4000, else 64/Re)."""
    if standpipe_mm < pump_mm:
        raise ValueError(
            f"found the hose's highest point at {standpipe_mm:g} mm, expected it above the pump, "
            f"at {pump_mm:g} mm"
        )
    bore = bore_mm / 1000
    speed = l_min / 60_000 / (pi * bore * bore / 4)
    reynolds = speed * bore / WATER_NU
    factor = 0.316 / reynolds**0.25 if reynolds > 4000 else 64 / reynolds
    friction = factor * length_m / bore * speed * speed / (2 * GRAVITY)
    lift = (standpipe_mm - pump_mm) / 1000
    return Head(lift, friction, lift + friction)


def siphons(end_mm: float, water_mm: float, sealed: float) -> float:
    """Return 1 where the drain hose can siphon the tub empty, else 0. Heights in millimetre above
    the floor (hydrostatics).

    A hose that was once full siphons where its end lies below the water, whether air gets in at the
    pipe or not. An end above the water may, too, where it is ``sealed`` (1) into a pipe that falls:
    the pipe is then a longer hose.
    """
    return 1.0 if end_mm < water_mm or sealed >= 0.5 else 0.0
