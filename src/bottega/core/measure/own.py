"""What the shop measured itself on parts that proved good, as an expected value."""

from collections.abc import Sequence
from statistics import median

from bottega.core.library.records import Window

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


def own_window(amounts: Sequence[float], unit: str) -> Window | None:
    """Return the window of a shop's own good readings, median and spread, or None where there are
    fewer than five."""
    if len(amounts) < LEAST_OWN:
        return None
    middle = median(amounts)
    spread = MAD_TO_SIGMA * median(abs(amount - middle) for amount in amounts)
    half = max(SPREADS * spread, LEAST_SHARE * abs(middle))
    return Window(
        low=middle - half,
        high=middle + half,
        unit=unit,
        source=f"{OWN} {len(amounts)} good ones: median {middle:.4g}, spread {spread:.2g}",
        grade="measured",
    )
