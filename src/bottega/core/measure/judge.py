"""Judge a reading against its expected value: which band, how near a limit, and where the expected
value comes from."""

from dataclasses import dataclass
from statistics import NormalDist

from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Window
from bottega.core.library.sheet import Plate
from bottega.core.library.tables import Quantity
from bottega.core.library.vocabulary import BANDS, INCONCLUSIVE, Band
from bottega.core.measure.physics import PHYSICS
from bottega.core.measure.reading import Measured

SHORT_SHARE = 0.1
"""Below this share of the lower limit a reading counts as shorted, not merely low."""
OPEN_SHARE = 20.0
"""Above this many times the upper limit a reading counts as open."""
BORDERLINE = 0.15
"""When another outcome keeps more than this share of the reading's spread, it is borderline:
repeat."""

LEAST_SPREAD = 1e-12
"""In the unit of the reading; chosen because a spread of nothing has no distribution (a meter may
read exactly 0)."""


class NoExpectedValue(LookupError):
    """Nothing says what this reading should be."""


@dataclass(frozen=True)
class Verdict:
    """A judged reading. ``weights`` spreads it over the check's outcomes by the meter's accuracy
    (sums to one; even where it is inconclusive)."""

    measured: Measured
    window: Window
    band: Band
    outcome: str
    borderline: bool
    weights: dict[str, float]


def expected_window(
    machine: MachineType, check: Check, plate: Plate, mains_v: float, own: Window | None = None
) -> Window:
    """Return the expected value of a measurement: model sheet, then rating plate by physics, then
    the shop's ``own`` good readings, then the generic window.

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
        return measure.generic
    raise NoExpectedValue(f"found no value '{measure.value}' in sheet, plate or generic windows")


def judge(check: Check, measured: Measured, window: Window, quantity: Quantity) -> Verdict:
    """Return the verdict on a reading. Near a limit the spread is soft: a Gaussian of the meter's
    accuracy."""
    assert check.measure is not None
    bands = check.measure.bands
    shares = _band_shares(measured.amount, window, quantity)
    band = max(BANDS, key=lambda name: shares[name])
    weights: dict[str, float] = {}
    for name, share in shares.items():
        if share > 1e-9:
            outcome = _outcome_of(name, bands)
            weights[outcome] = weights.get(outcome, 0.0) + share
    total = sum(weights.values())
    outcome = max(weights, key=lambda name: weights[name])
    borderline = 1 - weights[outcome] / total > BORDERLINE
    settled = {name: share / total for name, share in _spread(weights, check).items()}
    return Verdict(measured, window, band, outcome, borderline, settled)


def _spread(weights: dict[str, float], check: Check) -> dict[str, float]:
    """Return the weights with what settles nothing spread evenly over all outcomes: since their
    chances add to one in every state, that tells the states apart by nothing."""
    if INCONCLUSIVE not in weights:
        return weights
    even = weights[INCONCLUSIVE] / len(check.outcomes)
    return {outcome.id: weights.get(outcome.id, 0.0) + even for outcome in check.outcomes}


def _band_shares(amount: float | None, window: Window, quantity: Quantity) -> dict[Band, float]:
    if amount is None:
        return {name: float(name == "open") for name in BANDS}
    sigma = max(quantity.accuracy * abs(amount), quantity.floor, LEAST_SPREAD) / 2
    limits = [window.low * SHORT_SHARE, window.low, window.high, window.high * OPEN_SHARE]
    if window.low <= 0:
        limits[0] = limits[1] = float("-inf")
    spread = NormalDist(amount, sigma)
    below = [spread.cdf(limit) for limit in limits]
    edges = [0.0, *below, 1.0]
    return {name: max(0.0, edges[i + 1] - edges[i]) for i, name in enumerate(BANDS)}


def _outcome_of(band: Band, bands: dict[Band, str]) -> str:
    order = sorted(bands, key=lambda name: abs(BANDS.index(name) - BANDS.index(band)))
    return bands[order[0]]
