"""What the shop measured itself on parts that proved good, as an expected value."""

from collections.abc import Sequence
from math import exp, log
from statistics import median

from bottega.core.library.records import MeasureRecord, Window
from bottega.core.library.tables import Quantity

LEAST_OWN = 5
"""Readings from which on a shop's own are a source; as the design asks."""
MAD_TO_SIGMA = 1.4826
"""The spread of a normal distribution over its median deviation (any textbook of robust
statistics)."""
SPREADS = 3.0
"""Spreads to each side of the median that still count as good; chosen, one sound part in four
hundred lies beyond."""
LEAST_SHARE = 0.05
"""Of the median to each side at least, however alike the readings are; chosen, the spread of
makers' parts."""
OWN = "this shop's own"
"""How the source of such a window begins."""


def may_be_own(measure: MeasureRecord, quantity: Quantity) -> bool:
    """Return whether a shop's own good readings may be the expected value of a measurement.

    A limit on one side only (earth, insulation, play, a brake's time) is a limit, whatever good
    parts show, and so is one that keeps people from harm.
    """
    return measure.side == "" and not quantity.guarded


def own_window(amounts: Sequence[float], unit: str) -> Window | None:
    """Return the window of a shop's own good readings, or None where there are fewer than five.

    The window is median and spread. Readings that are all above nought are reckoned in logarithms,
    so that the lower limit is above nought, too.
    """
    if len(amounts) < LEAST_OWN:
        return None
    middle, spread = median(amounts), _half(amounts) / SPREADS
    if min(amounts) > 0:
        logs = [log(amount) for amount in amounts]
        half = max(_half(logs), log(1 + LEAST_SHARE))
        low, high = exp(median(logs) - half), exp(median(logs) + half)
    else:
        half = max(_half(amounts), LEAST_SHARE * abs(middle))
        low, high = middle - half, middle + half
    return Window(
        low=low,
        high=high,
        unit=unit,
        source=f"{OWN} {len(amounts)} good ones: median {middle:.4g}, spread {spread:.2g}",
        grade="measured",
    )


def _half(amounts: Sequence[float]) -> float:
    """Return half the width of a window: three spreads, told by the median deviation."""
    middle = median(amounts)
    return SPREADS * MAD_TO_SIGMA * median(abs(amount - middle) for amount in amounts)
