"""What a panel shows for a code, the decoder's other way: the train of flashes, strokes or beeps,
the lit lamps, the bar, the characters."""

from dataclasses import dataclass
from itertools import combinations

from bottega.core.library.machine_type import Code
from bottega.core.library.panel_record import PanelRecord
from bottega.core.panel.decoder import RHYTHMS, PanelError
from bottega.core.panel.rhythm import Tap

BEAT_S = 0.8
"""From one flash to the next; chosen, slow enough to be tapped along with."""
GROUP_S = 2.0
"""From the last flash of a group to the first of the next; chosen, as ROUND_S."""
ROUND_S = 4.0
SHORT_S, LONG_S, DARK_S, LONG_DARK_S = 0.35, 1.3, 0.6, 2.4
"""Lit for a short stroke, for a long one, dark between strokes and between figures; chosen."""


@dataclass(frozen=True)
class CodeShowing:
    """One showing of a code; empty where this panel has no such thing. ``lit`` are the lamps of
    each page, or of the one pattern, from the left: 0 dark, 1 lit, 2 blinking. Of a bar it is its
    tone, then its length."""

    taps: tuple[Tap, ...] = ()
    lit: tuple[tuple[int, ...], ...] = ()
    text: str = ""


def shown(panel: PanelRecord, code: Code, rounds: int = 1) -> CodeShowing:
    """Return what the panel shows for a code, a train ``rounds`` times over. Raises PanelError for
    a sum its lamps cannot make."""
    if panel.kind == "display":
        return CodeShowing(text=code.record.text or "")
    if panel.kind == "lamp_pattern":
        return CodeShowing(lit=(code.record.show,))
    if panel.kind == "bar":
        return CodeShowing(lit=tuple((figure,) for figure in code.record.show))
    if panel.kind == "lamp_weights":
        return CodeShowing(lit=tuple(lamps_for(panel, total) for total in code.record.show))
    assert panel.kind in RHYTHMS
    return CodeShowing(taps=_train(panel, code.record.show, rounds))


def lamps_for(panel: PanelRecord, total: int) -> tuple[int, ...]:
    """Return which lamps of a weighted row are lit for a sum, as few as can be. Raises PanelError
    where none add up to it."""
    places = range(len(panel.weights))
    for count in range(len(panel.weights) + 1):
        for lit in combinations(places, count):
            if sum(panel.weights[n] for n in lit) == total:
                return tuple(int(n in lit) for n in places)
    weights = ", ".join(str(weight) for weight in panel.weights)
    raise PanelError(f"found the sum {total}, expected one that lamps of {weights} make")


def strokes_of(panel: PanelRecord, figure: int) -> tuple[bool, ...]:
    """Return the strokes of a figure, True for a long one; the long ones come first."""
    longs, shorts = divmod(figure, panel.long_counts)
    return (True,) * longs + (False,) * shorts


def _train(panel: PanelRecord, show: tuple[int, ...], rounds: int) -> tuple[Tap, ...]:
    taps, now = [], 0.0
    for _ in range(rounds):
        for group in _groups(panel, show):
            for lamp, lit_s in group:
                taps.append(Tap(round(now, 3), lamp, lit_s))
                now += lit_s + DARK_S if panel.kind == "strokes" else BEAT_S
            now += LONG_DARK_S - DARK_S if panel.kind == "strokes" else GROUP_S - BEAT_S
        now += ROUND_S - GROUP_S
    return tuple(taps)


def _groups(panel: PanelRecord, show: tuple[int, ...]) -> list[list[tuple[int, float]]]:
    """Return the groups of a train: of each flash its lamp, and how long it is lit in seconds where
    that counts."""
    if panel.kind == "melody":
        return [[(tone, 0.0) for tone in show]]
    if panel.kind == "strokes":
        return [
            [(0, LONG_S if long else SHORT_S) for long in strokes_of(panel, figure)]
            for figure in show
        ]
    lamps = panel.kind == "flash_trains"
    return [[(group if lamps else 0, 0.0)] * count for group, count in enumerate(show)]
