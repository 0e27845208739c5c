"""What rounds of counts or tones stand for when some were missed, doubled or misjudged: every code
of the table with its chance, by Bayes."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import prod

import numpy as np

from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.tables import PanelTable
from bottega.core.panel.decoder import RHYTHMS, PanelError, refuse_impossible
from bottega.core.panel.encoder import strokes_of

MOST_SLIPS = 3
"""Flashes counted too many in one group at the most; chosen."""
LEAST_CHANCE = 0.01
"""Readings less likely than this are not shown; chosen."""


@dataclass(frozen=True)
class CodeReading:
    """A code and its chance (0..1); None for what is in no table."""

    code: Code | None
    chance: float


@dataclass(frozen=True)
class PanelReadings:
    """All readings, the likeliest first, with the rounds as they were counted. ``odd`` are those of
    them that the first reading takes for miscounted, from nought."""

    rounds: tuple[tuple[int, ...], ...]
    readings: tuple[CodeReading, ...]
    odd: tuple[int, ...]

    @property
    def first(self) -> CodeReading:
        """Return the likeliest reading."""
        return self.readings[0]


def heard(
    machine: MachineType, rounds: Sequence[tuple[int, ...]], slips: PanelTable
) -> PanelReadings:
    """Return what the rounds stand for. Each flash, stroke or tone is missed, counted twice or
    taken for another with the chances of the panel's table, the codes are as likely as each other,
    and none of them with its own. Raises PanelError where nothing was counted, or not by the
    panel's groups."""
    panel = machine.panel
    if panel is None or panel.kind not in RHYTHMS:
        raise PanelError(f"found counts, expected what {machine.title} shows")
    if not rounds:
        raise PanelError("found no round, expected at least one")
    for counts in rounds:
        _refuse_uncounted(panel, counts)
    known = tuple(rounds)
    unlisted = sum(_seen(panel, show, known, slips) for show in set(rounds)) / showings(panel)
    readings = by_chance(
        machine, lambda code: _seen(panel, code.record.show, known, slips), unlisted, slips
    )
    first = readings[0].code
    true = first.record.show if first else max(set(rounds), key=rounds.count)
    odd = tuple(n for n, counts in enumerate(rounds) if counts != true)
    return PanelReadings(tuple(rounds), readings, odd)


def by_chance(
    machine: MachineType, seen: Callable[[Code], float], unlisted: float, slips: PanelTable
) -> tuple[CodeReading, ...]:
    """Return every code with its chance, the likeliest first, None for what is in no table.
    ``seen`` gives P(what was seen | a code is shown), ``unlisted`` that for what has none."""
    panel = machine.panel
    assert panel is not None
    codes = [code for code in machine.codes.values() if _shows(panel, code)]
    share = (1 - slips.code_unlisted) / max(1, len(codes))
    weights = [share * seen(code) for code in codes]
    other = slips.code_unlisted * unlisted
    whole = sum(weights) + other
    if whole == 0:
        return (CodeReading(None, 1.0),)
    found = [CodeReading(code, w / whole) for code, w in zip(codes, weights, strict=True)]
    found.append(CodeReading(None, other / whole))
    found.sort(key=lambda reading: -reading.chance)
    return tuple(r for n, r in enumerate(found) if n == 0 or r.chance >= LEAST_CHANCE)


def _shows(panel: PanelRecord, code: Code) -> bool:
    """Return whether the panel can show a code at all; one of another way of showing has stayed
    behind in its table."""
    if panel.kind == "display":
        return bool(code.record.text)
    return not panel.cannot_show(code.record.show)


def showings(panel: PanelRecord) -> int:
    """Return how many different things a panel could show."""
    if panel.kind == "melody":
        return int(2**panel.most_flashes)
    if panel.kind == "lamp_pattern":
        return int((3 if panel.blinks else 2) ** len(panel.lamps))
    if panel.kind == "lamp_weights":
        return int((sum(panel.weights) + 1) ** len(panel.lamps))
    if panel.kind == "bar":
        return 2 * panel.most_flashes
    return int(panel.most_flashes ** len(panel.lamps))


def _refuse_uncounted(panel: PanelRecord, counts: tuple[int, ...]) -> None:
    if panel.kind == "melody":
        refuse_impossible(panel, counts[: panel.most_flashes])
        if len(counts) <= panel.most_flashes + MOST_SLIPS:
            return
        raise PanelError(f"found {len(counts)} tones, expected at most {panel.most_flashes}")
    if len(counts) != len(panel.lamps):
        raise PanelError(
            f"found {len(counts)} counts, expected {len(panel.lamps)}: "
            + " then ".join(panel.lamps)
        )
    for lamp, count in zip(panel.lamps, counts, strict=True):
        if not 0 <= count <= panel.most_flashes + MOST_SLIPS * _heaviest(panel):
            raise PanelError(f"found {count} {lamp}, expected 1 to {panel.most_flashes}")


def _heaviest(panel: PanelRecord) -> int:
    return panel.long_counts if panel.kind == "strokes" else 1


def _seen(
    panel: PanelRecord,
    show: tuple[int, ...],
    rounds: tuple[tuple[int, ...], ...],
    slips: PanelTable,
) -> float:
    """Return P(the rounds were counted | the panel showed these counts)."""
    if panel.kind == "melody":
        return prod(_melody(show, tones, slips) for tones in rounds)
    return prod(
        chances[count] if count < len(chances := _counts(panel, true, slips)) else 0.0
        for counts in rounds
        for true, count in zip(show, counts, strict=True)
    )


def _counts(panel: PanelRecord, shown: int, slips: PanelTable) -> tuple[float, ...]:
    miss, double = slips.flash_missed, slips.flash_doubled
    if panel.kind != "strokes":
        return _counting(((1, 0),) * shown, miss, double, 0.0)
    long = panel.long_counts
    pieces = tuple((long, 1) if is_long else (1, long) for is_long in strokes_of(panel, shown))
    return _counting(pieces, miss, double, slips.stroke_misjudged)


@lru_cache(maxsize=512)
def _counting(
    pieces: tuple[tuple[int, int], ...], missed: float, doubled: float, misjudged: float
) -> tuple[float, ...]:
    """Return P(0.. counted | pieces shown): each counts nothing, its worth, twice it, or what it is
    taken for; the sum of them is the convolution."""
    total = np.ones(1)
    for worth, other in pieces:
        one = np.zeros(2 * max(worth, other) + 1)
        one[0] += missed
        one[worth] += 1 - missed - doubled - misjudged
        one[other] += misjudged
        one[2 * worth] += doubled
        total = np.convolve(total, one)
    return tuple(total.tolist())


def _melody(show: tuple[int, ...], tones: tuple[int, ...], slips: PanelTable) -> float:
    """Return P(tones heard | a melody played), over all ways each may have been missed, heard twice
    or heard as the other."""
    miss, double, other = slips.flash_missed, slips.flash_doubled, slips.tone_misheard
    once = 1 - miss - double
    row = [1.0] + [0.0] * len(tones)
    for tone in show:
        fits = [1 - other if heard_as == tone else other for heard_as in tones]
        after = [miss * chance for chance in row]
        for n, fit in enumerate(fits, start=1):
            after[n] += once * fit * row[n - 1]
            if n > 1:
                after[n] += double * fit * fits[n - 2] * row[n - 2]
        row = after
    return row[-1]
