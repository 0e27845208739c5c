"""Readings that look like something else: asked at once, before they are judged."""

from dataclasses import dataclass

from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Window
from bottega.core.library.tables import Quantity
from bottega.core.measure.reading import Measured

THOUSAND = 1000.0
OPEN_FROM_OHM = 1e6
"""From here on a coil's reading is that of fingers or air; chosen, a hundred times any coil's."""
COIL_BELOW_OHM = 1e5
"""A window below this is a coil's, an element's or a contact's; chosen likewise."""


@dataclass(frozen=True)
class Suspicion:
    """What a reading looks like. ``open_circuit`` where it is as good as overload: that may be kept
    by one press, for it makes no bad reading a good one."""

    says: str
    open_circuit: bool = False


def doubts(
    machine: MachineType, check: Check, measured: Measured, window: Window, *, quantity: Quantity
) -> list[Suspicion]:
    """Return what a reading outside its window looks like, likeliest first: another prefix, a
    slipped comma, an open lead, the wrong pair.

    Empty where the reading looks like nothing else or its unit was typed. Empty, too, where a limit
    stands on one side only or the quantity is ``guarded``: there a guess would make a bad reading
    good, and somebody may be hurt by it.
    """
    amount, measure = measured.amount, check.measure
    if amount is None or measure is None or _fits(amount, window) or not window.high:
        return []
    if measure.side or quantity.guarded or measured.bound:
        return []
    found: list[Suspicion] = []
    plain = measured.typed[-1:].isdigit()
    if plain and unit_is_wide(measured.unit):
        for factor, prefix in ((THOUSAND, "kilo"), (1 / THOUSAND, "milli")):
            if _fits(amount * factor, window):
                found.append(Suspicion(f"typed in {prefix}{measured.unit}"))
    if measured.unit == "ohm" and amount >= OPEN_FROM_OHM and window.high < COIL_BELOW_OHM:
        found.append(Suspicion("an open lead: so much is air, skin or damp, not a coil", True))
    if plain and any(_fits(amount * factor, window) for factor in (10.0, 0.1)):
        found.append(Suspicion("a slip of the decimal comma"))
    other = _other_pair(machine, check, amount)
    if other is not None and not found:
        found.append(Suspicion(f"the leads on another pair: it fits “{other}”"))
    return found


def unit_is_wide(unit: str) -> bool:
    """Return whether meters show a quantity of this unit with a prefix of a thousand."""
    return unit in ("ohm", "hertz", "watt")


def _fits(amount: float, window: Window) -> bool:
    return window.low <= amount <= window.high


def _other_pair(machine: MachineType, check: Check, amount: float) -> str | None:
    """Return the name of another measurement at the same part that this reading fits."""
    assert check.measure is not None
    for other in machine.checks.values():
        measure = other.measure
        if (
            measure is None
            or other.id == check.id
            or other.component != check.component
            or measure.quantity != check.measure.quantity
            or measure.value == check.measure.value
        ):
            continue
        window = machine.values.get(measure.value) or measure.generic
        if window is not None and window.low > 0 and _fits(amount, window):
            return other.name
    return None
