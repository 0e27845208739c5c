"""What was tapped along with a panel, or a lamp's record: bursts and pauses told apart by their own
gaps, one round of counts after the other."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from bottega.core.library.sheet import PanelRecord
from bottega.core.panel.decoder import PanelError

MOST_TAPS = 400
"""Taps of one reading; chosen, more than the longest train in a dozen rounds."""
MOST_ROUNDS = 6
LEAST_GAPS = 3
"""Gaps from which the usual one is taken; chosen."""
TOO_MANY = 0.55
"""Two taps nearer than this share of a beat are one; chosen, well below what a hand that follows
strays."""


@dataclass(frozen=True)
class Tap:
    """One flash or beep: when, in seconds from any start, and which lamp of the panel, counted from
    nought; nought on panels that beep."""

    at_s: float
    lamp: int = 0


Bursts = tuple[tuple[Tap, ...], ...]


def rounds_of(panel: PanelRecord, taps: Sequence[Tap]) -> Bursts:
    """Return the taps of each round of one record. A round ends where an earlier lamp begins again;
    on panels that beep, as many rounds are there as make the pauses stand out most from the other
    gaps; groups of one beep each cannot be told from one slow group. Raises PanelError as
    ``counted`` does."""
    _refuse_nonsense(panel, taps)
    if panel.kind == "flash_trains":
        edges = [n + 1 for n, (a, b) in enumerate(pairwise(taps)) if b.lamp < a.lamp]
    else:
        edges = _longest(taps, _rounds_that_stand_out(len(panel.lamps), taps) - 1)
    return _cut(taps, edges)[:MOST_ROUNDS]


def counted(panel: PanelRecord, rounds: Sequence[Sequence[Tap]]) -> tuple[tuple[int, ...], ...]:
    """Return the counts of each round. No gap is long or short in itself: lamps of several colours
    change, groups of one sound are parted by the longest gaps of their round, and within a burst a
    gap of two beats is a flash that was missed, one of hardly half a beat a tap too many.

    Raises PanelError for taps out of order, of a lamp the panel has not, or too few to be a code.
    """
    parted = []
    for taps in rounds:
        _refuse_nonsense(panel, taps)
        if panel.kind == "flash_trains":
            lamps = range(len(panel.lamps))
            parted.append([tuple(tap for tap in taps if tap.lamp == n) for n in lamps])
        else:
            parted.append(list(_cut(taps, _longest(taps, len(panel.lamps) - 1))))
    beat = _beat([burst for bursts in parted for burst in bursts])
    return tuple(tuple(_beats(burst, beat) for burst in bursts) for bursts in parted)


def _refuse_nonsense(panel: PanelRecord, taps: Sequence[Tap]) -> None:
    if panel.kind not in ("flash_trains", "beeps"):
        raise PanelError(f"found a rhythm, expected what this panel shows: {panel.how}")
    if len(taps) > MOST_TAPS:
        raise PanelError(f"found {len(taps)} taps, expected at most {MOST_TAPS}")
    for earlier, later in pairwise(taps):
        if not later.at_s > earlier.at_s:
            raise PanelError(
                f"found {later.at_s:g} s after {earlier.at_s:g} s, expected times that go on"
            )
    lamps = len(panel.lamps) if panel.kind == "flash_trains" else 1
    for tap in taps:
        if not 0 <= tap.lamp < lamps:
            raise PanelError(f"found lamp {tap.lamp + 1}, expected 1 to {lamps}")
    if len(taps) < len(panel.lamps):
        raise PanelError(
            f"found {len(taps)} in all, expected at least one for each of: "
            + " then ".join(panel.lamps)
        )


def _rounds_that_stand_out(groups: int, taps: Sequence[Tap]) -> int:
    """Return how many rounds make the shortest pause stand out most from the longest gap that is
    none; where every gap is a pause, from half of the shortest."""
    longest = sorted(_gaps(taps), reverse=True)
    fitting = [n for n in range(1, MOST_ROUNDS + 1) if groups * n <= len(taps)]
    return max(fitting, key=lambda rounds: _stands_out(longest, groups * rounds - 1))


def _stands_out(longest: Sequence[float], pauses: int) -> float:
    if pauses == 0:
        return 0.0
    beside = longest[pauses] if pauses < len(longest) else longest[-1] / 2
    return longest[pauses - 1] / beside


def _gaps(taps: Sequence[Tap]) -> list[float]:
    return [later.at_s - earlier.at_s for earlier, later in pairwise(taps)]


def _longest(taps: Sequence[Tap], count: int) -> list[int]:
    """Return the places after the ``count`` longest gaps, ascending."""
    gaps = _gaps(taps)
    return sorted(n + 1 for n in sorted(range(len(gaps)), key=lambda n: -gaps[n])[:count])


def _cut(taps: Sequence[Tap], edges: Sequence[int]) -> Bursts:
    return tuple(tuple(taps[a:b]) for a, b in pairwise((0, *edges, len(taps))))


def _beat(bursts: Sequence[Sequence[Tap]]) -> float | None:
    """Return the usual time from one flash to the next, in seconds; None where too little is
    there to tell."""
    gaps = [gap for burst in bursts for gap in _gaps(burst)]
    return median(gaps) if len(gaps) >= LEAST_GAPS else None


def _beats(burst: Sequence[Tap], beat: float | None) -> int:
    """Return how many flashes a burst was; of two in a row missed nobody is sure."""
    if beat is None or not burst:
        return len(burst)
    count, last = 1, burst[0].at_s
    for tap in burst[1:]:
        whole = (tap.at_s - last) / beat
        if whole > TOO_MANY:
            count += min(max(1, round(whole)), 2)
            last = tap.at_s
    return count
