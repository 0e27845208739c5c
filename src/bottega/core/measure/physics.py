"""Expected values from the rating plate by physics. Each function says its source, unit and
range."""

from collections.abc import Callable
from math import sqrt

from bottega.core.library.records import Window
from bottega.core.library.sheet import Plate
from bottega.core.library.vocabulary import PhysicsName

TOLERANCE_ELEMENT = (0.90, 1.05)
"""IEC 60335-1 clause 10 lets the power of a heating appliance over 200 W deviate by +5 % and -10
%."""

RIPPLE = 0.9
"""A loaded smoothing capacitor stands about a tenth below the peak."""

SUPPLY_TOLERANCE = 0.10
"""EN 50160 and IEC 60038: supply voltage within 10 % of nominal."""


def element_resistance_ohm(volts: float, watts: float) -> float:
    """Return the resistance in ohm of an element of ``watts`` at ``volts``, hot and cold nearly
    alike: R = U² / P."""
    if volts <= 0 or watts <= 0:
        raise ValueError(f"found {volts} V and {watts} W, expected both above 0")
    return volts * volts / watts


def element_window(plate: Plate, mains_v: float) -> Window | None:
    """Return the window of the element's resistance in ohm from the plate, or None when the plate
    gives no watts."""
    if plate.heater_w is None:
        return None
    volts = plate.volts or mains_v
    nominal = element_resistance_ohm(volts, plate.heater_w)
    low_share, high_share = TOLERANCE_ELEMENT
    return Window(
        low=round(nominal / high_share, 2),
        high=round(nominal / low_share, 2),
        unit="ohm",
        source=(
            f"rating plate: {plate.heater_w:g} W at {volts:g} V, R = U²/P, +5 % and -10 % "
            "of power (IEC 60335-1)"
        ),
        grade="physics",
    )


def supply_window(plate: Plate, mains_v: float) -> Window:
    """Return the window of the mains in volt: nominal of the plate, or of the shop's mains, within
    10 %."""
    volts = plate.volts or mains_v
    return Window(
        low=round(volts * (1 - SUPPLY_TOLERANCE), 1),
        high=round(volts * (1 + SUPPLY_TOLERANCE), 1),
        unit="volt",
        source=f"{volts:g} V mains within 10 % (IEC 60038)",
        grade="physics",
    )


def heating_current_window(plate: Plate, mains_v: float) -> Window | None:
    """Return the window of the heating current in ampere, I = P / U, on a mains within its own
    tolerance (the current of an element goes with the volts), or None when the plate gives no
    watts."""
    if plate.heater_w is None:
        return None
    volts = plate.volts or mains_v
    low_share, high_share = TOLERANCE_ELEMENT
    return Window(
        low=round(plate.heater_w * low_share / volts * (1 - SUPPLY_TOLERANCE), 2),
        high=round(plate.heater_w * high_share / volts * (1 + SUPPLY_TOLERANCE), 2),
        unit="ampere",
        source=(
            f"rating plate: {plate.heater_w:g} W at {volts:g} V, I = P/U, +5 % and -10 % of "
            "power (IEC 60335-1), mains within 10 %"
        ),
        grade="physics",
    )


def bus_window(plate: Plate, mains_v: float) -> Window:
    """Return the window of an inverter's direct voltage in volt: the peak of the mains, U·√2,
    within 10 %, less ripple."""
    volts = plate.volts or mains_v
    peak = volts * sqrt(2)
    return Window(
        low=round(peak * (1 - SUPPLY_TOLERANCE) * RIPPLE, 0),
        high=round(peak * (1 + SUPPLY_TOLERANCE), 0),
        unit="volt",
        source=f"peak of {volts:g} V mains, U·√2, within 10 %, less a tenth of ripple",
        grade="physics",
    )


def fill_time_window(plate: Plate, mains_v: float) -> Window | None:
    """Return the window of the filling time in second from the capacity: 1.4 to 2.2 litre a
    kilogram at 4 to 12 l/min."""
    if plate.capacity_kg is None:
        return None
    return Window(
        low=round(plate.capacity_kg * 1.4 / 12 * 60),
        high=round(plate.capacity_kg * 2.2 / 4 * 60),
        unit="second",
        source=f"rating plate: {plate.capacity_kg:g} kg, 1.4 to 2.2 l a kilogram at 4 to 12 l/min",
        grade="physics",
    )


PHYSICS: dict[PhysicsName, Callable[[Plate, float], Window | None]] = {
    "element_resistance": element_window,
    "mains_supply": supply_window,
    "heating_current": heating_current_window,
    "bus_voltage": bus_window,
    "fill_time": fill_time_window,
}
