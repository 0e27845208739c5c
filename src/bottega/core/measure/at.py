"""The expected value at the temperature or the level a reading is taken at. Sources: IEC 60028
(copper), the beta equation of IEC 60539-1 between two points of a table (thermistors), straight
between two points else."""

from bisect import bisect_right
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import CurveRecord, Window
from bottega.core.measure.thermistor import thermistor_curve, thermistor_ohm
from bottega.core.measure.windings import copper_warmed

COPPER_C = (-20.0, 155.0)
"""Between which degrees a winding may be; up to the hottest of class F (IEC 60085)."""


@dataclass(frozen=True)
class Condition:
    """What a reading depends on besides the part: the quantity it is asked in, and the range."""

    quantity: Literal["temperature", "length"]
    unit: Literal["degC", "millimeter"]
    least: float
    most: float


def asked_at(machine: MachineType, check: Check) -> Condition | None:
    """Return what a measurement's expected value moves with; None where it moves with nothing."""
    if check.measure is None:
        return None
    curve = machine.curves.get(check.measure.value)
    if curve is not None:
        warm = curve.against == "degC"
        ends = (min(curve.points), max(curve.points))
        return Condition("temperature" if warm else "length", curve.against, *ends)
    return Condition("temperature", "degC", *COPPER_C) if check.measure.copper else None


def window_at(machine: MachineType, check: Check, window: Window, at: float) -> Window:
    """Return the expected value at ``at``, in the unit of ``asked_at``; as it is for what moves
    with nothing. Raises ValueError beyond the range."""
    asked = asked_at(machine, check)
    if asked is None or check.measure is None:
        return window
    if not asked.least <= at <= asked.most:
        raise ValueError(f"found {at:g}, expected {asked.least:g} to {asked.most:g} {asked.unit}")
    curve = machine.curves.get(check.measure.value)
    if curve is None:
        low, high = (copper_warmed(limit, at) for limit in (window.low, window.high))
        source = f"{window.source}, copper at {at:g} °C (IEC 60028)"
        return window.model_copy(update={"low": low, "high": high, "source": source})
    value = on_curve(curve, at)
    low, high = sorted((value * (1 - curve.within), value * (1 + curve.within)))
    symbol = "°C" if curve.against == "degC" else "mm"
    source = f"{curve.source}, at {at:g} {symbol}"
    return Window(low=low, high=high, unit=curve.unit, source=source, grade=curve.grade)


def on_curve(curve: CurveRecord, at: float) -> float:
    """Return the value of a curve at ``at``, within its points."""
    points = list(curve.points.items())
    place = min(max(bisect_right(list(curve.points), at), 1), len(points) - 1)
    (first, low), (second, high) = list(pairwise(points))[place - 1]
    if curve.thermistor:
        between = thermistor_curve(low, first, high, second)
        return thermistor_ohm(between.r25_ohm, between.beta_k, at)
    return low + (high - low) * (at - first) / (second - first)
