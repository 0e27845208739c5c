"""Expected values from the rating plate by physics. Each function says its source, unit and range."""

from collections.abc import Callable

from bottega.core.library.records import Plate, Window

TOLERANCE_ELEMENT = (0.90, 1.05)
"""IEC 60335-1 clause 10 lets the power of a heating appliance over 200 W deviate by +5 % and -10 %."""

SUPPLY_TOLERANCE = 0.10
"""EN 50160 and IEC 60038: supply voltage within 10 % of nominal."""


def element_resistance_ohm(volts: float, watts: float) -> float:
    """Return the resistance in ohm of an element of ``watts`` at ``volts``, hot and cold nearly alike: R = U² / P."""
    if volts <= 0 or watts <= 0:
        raise ValueError(f"found {volts} V and {watts} W, expected both above 0")
    return volts * volts / watts


def element_window(plate: Plate, mains_v: float) -> Window | None:
    """Return the window of the element's resistance in ohm from the plate, or None when the plate gives no watts."""
    if plate.heater_w is None:
        return None
    volts = plate.volts or mains_v
    nominal = element_resistance_ohm(volts, plate.heater_w)
    low_share, high_share = TOLERANCE_ELEMENT
    return Window(
        low=round(nominal / high_share, 2),
        high=round(nominal / low_share, 2),
        unit="ohm",
        source=f"rating plate: {plate.heater_w:g} W at {volts:g} V, R = U²/P, +5 % and -10 % of power (IEC 60335-1)",
        grade="physics",
    )


def supply_window(plate: Plate, mains_v: float) -> Window:
    """Return the window of the mains in volt: nominal of the plate, or of the shop's mains, within 10 %."""
    volts = plate.volts or mains_v
    return Window(
        low=round(volts * (1 - SUPPLY_TOLERANCE), 1),
        high=round(volts * (1 + SUPPLY_TOLERANCE), 1),
        unit="volt",
        source=f"{volts:g} V mains within 10 % (IEC 60038)",
        grade="physics",
    )


PHYSICS: dict[str, Callable[[Plate, float], Window | None]] = {
    "element_resistance": element_window,
    "mains_supply": supply_window,
}
