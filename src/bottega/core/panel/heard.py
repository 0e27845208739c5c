"""What rounds of counts stand for when some were missed or counted twice: every code of the table
with its chance, by Bayes."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import prod

import numpy as np

from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.tables import EngineTable
from bottega.core.panel.decoder import PanelError

MOST_SLIPS = 3
"""Flashes counted too many in one group at the most; chosen."""
LEAST_CHANCE = 0.01
"""Readings less likely than this are not shown; chosen."""


@dataclass(frozen=True)
class Reading:
    """A code and its chance (0..1); None for what is in no table."""

    code: Code | None
    chance: float


@dataclass(frozen=True)
class Heard:
    """All readings, the likeliest first, with the rounds as they were counted. ``odd`` are those of
    them that the first reading takes for miscounted, from nought."""

    rounds: tuple[tuple[int, ...], ...]
    readings: tuple[Reading, ...]
    odd: tuple[int, ...]

    @property
    def first(self) -> Reading:
        """Return the likeliest reading."""
        return self.readings[0]


def heard(machine: MachineType, rounds: Sequence[tuple[int, ...]], engine: EngineTable) -> Heard:
    """Return what the rounds stand for. Each flash is missed or counted twice with the chances of
    the engine's table, the codes are as likely as each other, and none of them with its own.
    Raises PanelError where nothing was counted, or not by the panel's groups."""
    panel = machine.panel
    if panel is None or panel.kind not in ("flash_trains", "beeps"):
        raise PanelError(f"found counts, expected what {machine.title} shows")
    if not rounds:
        raise PanelError("found no round, expected at least one")
    for counts in rounds:
        if len(counts) != len(panel.lamps):
            raise PanelError(
                f"found {len(counts)} counts, expected {len(panel.lamps)}: "
                + " then ".join(panel.lamps)
            )
        for lamp, count in zip(panel.lamps, counts, strict=True):
            if not 0 <= count <= panel.most_flashes + MOST_SLIPS:
                raise PanelError(f"found {count} {lamp}, expected 1 to {panel.most_flashes}")
    codes = list(machine.codes.values())
    spread = 1 / panel.most_flashes ** len(panel.lamps)
    weights = [
        (1 - engine.code_unlisted) / len(codes) * _seen(code.record.show, tuple(rounds), engine)
        for code in codes
    ]
    unlisted = engine.code_unlisted * sum(
        spread * _seen(counts, tuple(rounds), engine) for counts in set(rounds)
    )
    whole = sum(weights) + unlisted
    found = [Reading(code, w / whole) for code, w in zip(codes, weights, strict=True)]
    found.append(Reading(None, unlisted / whole))
    found.sort(key=lambda reading: -reading.chance)
    kept = tuple(r for n, r in enumerate(found) if n == 0 or r.chance >= LEAST_CHANCE)
    true = kept[0].code.record.show if kept[0].code else max(set(rounds), key=rounds.count)
    odd = tuple(n for n, counts in enumerate(rounds) if counts != true)
    return Heard(tuple(rounds), kept, odd)


def _seen(show: tuple[int, ...], rounds: tuple[tuple[int, ...], ...], engine: EngineTable) -> float:
    """Return P(the rounds were counted | the panel showed these counts)."""
    return prod(
        _counting(true, engine.flash_missed, engine.flash_doubled)[count]
        if count <= 2 * true
        else 0.0
        for counts in rounds
        for true, count in zip(show, counts, strict=True)
    )


@lru_cache(maxsize=256)
def _counting(shown: int, missed: float, doubled: float) -> tuple[float, ...]:
    """Return P(0..2n counted | n shown), (2n+1,): each flash counts none, one or two; the sum of
    them is the convolution."""
    one = np.array([missed, 1 - missed - doubled, doubled])
    total = np.ones(1)
    for _ in range(shown):
        total = np.convolve(total, one)
    return tuple(total.tolist())
