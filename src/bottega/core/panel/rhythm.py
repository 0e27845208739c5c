"""What was tapped along with a panel, or a lamp's record: bursts and pauses told apart by their own
gaps, one round of counts or tones after the other."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import inf, sqrt
from statistics import median

from bottega.core.library.panel_record import PanelRecord
from bottega.core.panel.decoder import RHYTHMS, PanelError

MOST_TAPS = 400
"""Taps of one reading; chosen, more than the longest train in a dozen rounds."""
MOST_ROUNDS = 6
LEAST_GAPS = 3
"""Gaps from which the usual one is taken; chosen."""
TOO_MANY = 0.55
"""Two taps nearer than this share of a beat are one; chosen, well below what a hand that follows
strays."""
A_PAUSE = 1.8
"""A melody is played again where a gap is so many times as long as the next longest; chosen."""
DARK_SHARE = 0.3
"""The dark between strokes as a share of that between figures; chosen, for want of better."""
LONGER = 2.0
"""Long strokes are at least so many times as long as short ones; chosen."""


@dataclass(frozen=True)
class Tap:
    """One flash, stroke or beep: when, in seconds from any start; which lamp of the panel or which
    tone, counted from nought, nought where there is but one; and how long, in seconds, nought where
    that was not seen."""

    at_s: float
    lamp: int = 0
    held_s: float = 0.0


Bursts = tuple[tuple[Tap, ...], ...]


def rounds_of(panel: PanelRecord, taps: Sequence[Tap]) -> Bursts:
    """Return the taps of each round of one record. A round ends where an earlier lamp begins again;
    on panels of one lamp or sound, as many rounds are there as make the pauses stand out most from
    the other gaps; groups of one each cannot be told from one slow group. Raises PanelError as
    ``counted`` does."""
    _refuse_nonsense(panel, taps)
    if panel.kind == "flash_trains":
        edges = [n + 1 for n, (a, b) in enumerate(pairwise(taps)) if b.lamp < a.lamp]
    else:
        rounds = _rounds_that_stand_out(_parts(panel), taps)
        edges = _longest(taps, rounds - 1)
    return _cut(taps, edges)[:MOST_ROUNDS]


def counted(panel: PanelRecord, rounds: Sequence[Sequence[Tap]]) -> tuple[tuple[int, ...], ...]:
    """Return the counts of each round, of a melody its tones. No gap is long or short in itself:
    lamps of several colours change, groups of one lamp or sound are parted by the longest gaps of
    their round, and within a burst a gap of two beats is a flash that was missed, one of hardly
    half a beat a tap too many. Strokes are long or short beside each other.

    Raises PanelError for taps out of order, of a lamp the panel has not, or too few to be a code.
    """
    parted: list[list[tuple[Tap, ...]]] = []
    for taps in rounds:
        _refuse_nonsense(panel, taps)
        if panel.kind == "flash_trains":
            lamps = range(len(panel.lamps))
            parted.append([tuple(tap for tap in taps if tap.lamp == n) for n in lamps])
        else:
            parted.append(list(_cut(taps, _longest(taps, _parts(panel) - 1))))
    every = [burst for bursts in parted for burst in bursts]
    if panel.kind == "strokes":
        dark = max(_beat(every) or 0.0, _from_pauses(parted))
        struck = [[_apart(burst, dark) for burst in own] for own in parted]
        edge = _long_from([burst for own in struck for burst in own])
        return tuple(tuple(_figure(panel, burst, edge) for burst in own) for own in struck)
    beat = _beat(every)
    if panel.kind == "melody":
        return tuple(_tones(bursts[0], beat) for bursts in parted)
    return tuple(tuple(_beats(burst, beat) for burst in bursts) for bursts in parted)


def _parts(panel: PanelRecord) -> int:
    """Return the groups of one round."""
    return 1 if panel.kind == "melody" else len(panel.lamps)


def _refuse_nonsense(panel: PanelRecord, taps: Sequence[Tap]) -> None:
    if panel.kind not in RHYTHMS:
        raise PanelError(f"found a rhythm, expected what this panel shows: {panel.how}")
    if len(taps) > MOST_TAPS:
        raise PanelError(f"found {len(taps)} taps, expected at most {MOST_TAPS}")
    for earlier, later in pairwise(taps):
        if not later.at_s > earlier.at_s:
            raise PanelError(
                f"found {later.at_s:g} s after {earlier.at_s:g} s, expected times that go on"
            )
    lamps = len(panel.lamps) if panel.kind in ("flash_trains", "melody") else 1
    for tap in taps:
        if not 0 <= tap.lamp < lamps:
            raise PanelError(f"found lamp {tap.lamp + 1}, expected 1 to {lamps}")
    if len(taps) < _parts(panel):
        expected = " then ".join(panel.lamps) if panel.kind != "melody" else "a melody"
        raise PanelError(f"found {len(taps)} in all, expected at least one for each of: {expected}")
    if panel.kind == "strokes" and not all(tap.held_s > 0 for tap in taps):
        raise PanelError("found taps without a length, expected each held as long as the lamp")


def _rounds_that_stand_out(groups: int, taps: Sequence[Tap]) -> int:
    """Return how many rounds make the shortest pause stand out most from the longest gap that is
    none; where every gap is a pause, from half of the shortest. A melody has more than one tone."""
    longest = sorted(_gaps(taps), reverse=True)
    least = groups if groups > 1 else 2
    fitting = [n for n in range(1, MOST_ROUNDS + 1) if n == 1 or least * n <= len(taps)]
    return max(fitting, key=lambda rounds: _stands_out(longest, groups * rounds - 1))


def _stands_out(longest: Sequence[float], pauses: int) -> float:
    if pauses == 0:
        return A_PAUSE
    beside = longest[pauses] if pauses < len(longest) else longest[-1] / 2
    return longest[pauses - 1] / beside


def _gaps(taps: Sequence[Tap]) -> list[float]:
    """Return the times from one to the next, in seconds; of strokes those it is dark."""
    return [max(1e-3, b.at_s - a.at_s - a.held_s) for a, b in pairwise(taps)]


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


def _from_pauses(parted: Sequence[Sequence[Sequence[Tap]]]) -> float:
    """Return what the dark between strokes is at least, in seconds, by that between figures: taps
    too many make the usual one look shorter."""
    pauses = [
        _gaps([earlier[-1], later[0]])[0]
        for bursts in parted
        for earlier, later in pairwise(bursts)
    ]
    return DARK_SHARE * median(pauses) if pauses else 0.0


def _apart(burst: Sequence[Tap], dark: float) -> list[Tap]:
    """Return the strokes of a burst without those that begin when it was hardly dark yet: taps too
    many."""
    kept: list[Tap] = []
    for tap in burst:
        if not kept or _gaps([kept[-1], tap])[0] > TOO_MANY * dark:
            kept.append(tap)
    return kept


def _tones(burst: Sequence[Tap], beat: float | None) -> tuple[int, ...]:
    """Return the tones of a melody; one struck twice within half a beat is one. What is missing
    cannot be told from a pause, since nobody knows which tone it was."""
    kept: list[Tap] = []
    for tap in burst:
        if not kept or beat is None or (tap.at_s - kept[-1].at_s) / beat > TOO_MANY:
            kept.append(tap)
    return tuple(tap.lamp for tap in kept)


def _long_from(bursts: Sequence[Sequence[Tap]]) -> float:
    """Return from what length on a stroke is a long one, in seconds: where the lengths part the
    most, or, where all are alike, the usual dark between them."""
    held = sorted(tap.held_s for burst in bursts for tap in burst)
    parted = max(pairwise(held), key=lambda pair: pair[1] / pair[0], default=(1.0, 1.0))
    if parted[1] / parted[0] >= LONGER:
        return sqrt(parted[0] * parted[1])
    dark = [gap for burst in bursts for gap in _gaps(burst)]
    return median(dark) if dark else inf


def _figure(panel: PanelRecord, burst: Sequence[Tap], long_from: float) -> int:
    return sum(panel.long_counts if tap.held_s > long_from else 1 for tap in burst)
