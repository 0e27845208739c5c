"""Judge a reading against its expected value: which band, how near a limit, and where the expected
value comes from."""

from dataclasses import dataclass
from statistics import NormalDist

from bottega.core.library.limits import LimitSet
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import MeasureRecord, Window
from bottega.core.library.sheet import Plate
from bottega.core.library.tables import Quantity
from bottega.core.library.vocabulary import BANDS, INCONCLUSIVE, Band
from bottega.core.measure.physics import PHYSICS
from bottega.core.measure.reading import Measured, ReadingError

SHORT_SHARE = 0.1
"""Below this share of the lower limit a reading counts as shorted, not merely low."""
OPEN_SHARE = 20.0
"""Above this many times the upper limit a reading counts as open, where its quantity can be."""
BORDERLINE = 0.15
"""When another outcome keeps more than this share of the reading's spread, it is borderline:
repeat."""

LEAST_SPREAD = 1e-12
"""In the unit of the reading; chosen because a spread of nothing has no distribution (a meter may
read exactly 0)."""


class NoExpectedValue(LookupError):
    """Nothing says what this reading should be."""


@dataclass(frozen=True)
class JudgedReading:
    """A judged reading. ``weights`` spreads it over the check's outcomes by the meter's accuracy
    (sums to one; even where it is inconclusive)."""

    measured: Measured
    window: Window
    band: Band
    outcome: str
    borderline: bool
    weights: dict[str, float]


def expected_window(
    machine: MachineType,
    check: Check,
    plate: Plate,
    mains_v: float,
    *,
    own: Window | None = None,
    limits: LimitSet | None = None,
) -> Window:
    """Return the expected value of a measurement: model sheet, then rating plate by physics, then
    the shop's ``own`` good readings, then its chosen ``limits``, then the generic window as it is
    on this mains.

    Raises NoExpectedValue when none of them has it.
    """
    measure = check.measure
    if measure is None:
        raise NoExpectedValue(f"'{check.name}' is not a measurement")
    if measure.value in machine.values:
        return machine.values[measure.value]
    if measure.physics:
        window = PHYSICS[measure.physics](plate, mains_v)
        if window is not None:
            return window
    if own is not None:
        return own
    if measure.generic is not None:
        return _on_mains(_limited(measure.generic, measure, limits), measure, mains_v)
    raise NoExpectedValue(f"found no value '{measure.value}' in sheet, plate or generic windows")


def _limited(window: Window, measure: MeasureRecord, limits: LimitSet | None) -> Window:
    """Return the window with the limit of the shop's set, where the measurement names one."""
    if limits is None or measure.limit is None:
        return window
    limit: float = getattr(limits, measure.limit)
    end = {"high": limit} if measure.side == "at most" else {"low": limit}
    return window.model_copy(update={**end, "source": limits.source, "grade": "standard"})


def _on_mains(window: Window, measure: MeasureRecord, mains_v: float) -> Window:
    """Return a generic window as it is on this mains, for parts of the same power."""
    if measure.at_volts is None or measure.at_volts == mains_v:
        return window
    share = mains_v / measure.at_volts
    factor = {"ohm": share * share, "volt": share}.get(window.unit, 1 / share)
    low, high = (float(f"{limit * factor:.3g}") for limit in (window.low, window.high))
    source = f"{window.source}, on {mains_v:g} V"
    return window.model_copy(update={"low": low, "high": high, "source": source})


DANGEROUS_SHARE = 1.1
"""Of the upper limit, above which volts are dangerous to the machine and whoever touches it;
chosen, more than any mains within EN 50160 stands above another."""


def volts_said(amount: float, low: float, high: float) -> str:
    """Return what volts out of their window mean, in words; empty for those within it."""
    if low <= amount <= high:
        return ""
    if abs(amount) > high * DANGEROUS_SHARE:
        return "Dangerous: far more than belongs there. Pull the plug; look for a lost neutral"
    if amount > high:
        return "Too much"
    if amount < low * SHORT_SHARE:
        return "Nothing there"
    return "Too little: something is there, and not enough"


def judge(check: Check, measured: Measured, window: Window, quantity: Quantity) -> JudgedReading:
    """Return the verdict on a reading. Near a limit the spread is soft: a Gaussian of the meter's
    accuracy."""
    assert check.measure is not None
    shares = _shares(measured, check.measure, window, quantity)
    band = max(BANDS, key=lambda name: shares[name])
    weights: dict[str, float] = {}
    for name, share in shares.items():
        if share > 1e-9:
            outcome = check.measure.outcome_of(name)
            weights[outcome] = weights.get(outcome, 0.0) + share
    total = sum(weights.values())
    outcome = max(weights, key=lambda name: weights[name])
    borderline = 1 - weights[outcome] / total > BORDERLINE
    settled = {name: share / total for name, share in _spread(weights, check).items()}
    return JudgedReading(measured, window, band, outcome, borderline, settled)


def _spread(weights: dict[str, float], check: Check) -> dict[str, float]:
    """Return the weights with what settles nothing spread evenly over all outcomes: since their
    chances add to one in every state, that tells the states apart by nothing."""
    if INCONCLUSIVE not in weights:
        return weights
    even = weights[INCONCLUSIVE] / len(check.outcomes)
    return {outcome.id: weights.get(outcome.id, 0.0) + even for outcome in check.outcomes}


def _shares(
    measured: Measured, measure: MeasureRecord, window: Window, quantity: Quantity
) -> dict[Band, float]:
    """Return the share of each band. A reading that is only a bound ("> 1000") has to mean the same
    all the way beyond. Raises ReadingError where it does not."""
    shares = _band_shares(measured.amount, window, quantity)
    if not measured.bound:
        return shares
    far = quantity.most if measured.bound == ">" else quantity.least
    beyond = _band_shares(far, window, quantity)
    here, there = (max(BANDS, key=lambda name: found[name]) for found in (shares, beyond))
    if measure.outcome_of(here) != measure.outcome_of(there):
        raise ReadingError(
            f"found {measured.typed}, which may be in or out of {window.low:g} to {window.high:g} "
            f"{quantity.symbol or quantity.unit}; expected the number itself"
        )
    return shares


def _band_shares(amount: float | None, window: Window, quantity: Quantity) -> dict[Band, float]:
    if amount is None:
        return {name: float(name == "open") for name in BANDS}
    sigma = max(quantity.accuracy * abs(amount), quantity.floor, LEAST_SPREAD) / 2
    open_from = window.high * OPEN_SHARE if quantity.opens else float("inf")
    limits = [window.low * SHORT_SHARE, window.low, window.high, open_from]
    if window.low <= 0:
        limits[0] = limits[1] = float("-inf")
    spread = NormalDist(amount, sigma)
    below = [spread.cdf(limit) for limit in limits]
    edges = [0.0, *below, 1.0]
    return {name: max(0.0, edges[i + 1] - edges[i]) for i, name in enumerate(BANDS)}
