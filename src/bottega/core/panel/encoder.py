"""What a panel shows for a code, the decoder's other way: the train of flashes or beeps, the lit
lamps, the characters."""

from dataclasses import dataclass
from itertools import combinations

from bottega.core.library.machine_type import Code
from bottega.core.library.sheet import PanelRecord
from bottega.core.panel.decoder import PanelError
from bottega.core.panel.rhythm import Tap

BEAT_S = 0.8
"""From one flash to the next; chosen, slow enough to be tapped along with."""
GROUP_S = 2.0
"""From the last flash of a group to the first of the next; chosen, as ROUND_S."""
ROUND_S = 4.0


@dataclass(frozen=True)
class Shown:
    """One showing of a code; empty where this panel has no such thing. ``lit`` are the lamps of
    each page, or of the one pattern, from the left, 1 for lit."""

    taps: tuple[Tap, ...] = ()
    lit: tuple[tuple[int, ...], ...] = ()
    text: str = ""


def shown(panel: PanelRecord, code: Code, rounds: int = 1) -> Shown:
    """Return what the panel shows for a code, a train ``rounds`` times over. Raises PanelError for
    a sum its lamps cannot make."""
    if panel.kind == "display":
        return Shown(text=code.record.text or "")
    if panel.kind == "lamp_pattern":
        return Shown(lit=(code.record.show,))
    if panel.kind == "lamp_weights":
        return Shown(lit=tuple(lamps_for(panel, total) for total in code.record.show))
    return Shown(taps=_train(panel, code.record.show, rounds))


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


def _train(panel: PanelRecord, counts: tuple[int, ...], rounds: int) -> tuple[Tap, ...]:
    taps, now = [], 0.0
    for _ in range(rounds):
        for group, count in enumerate(counts):
            for _ in range(count):
                taps.append(Tap(round(now, 3), group if panel.kind == "flash_trains" else 0))
                now += BEAT_S
            now += GROUP_S - BEAT_S
        now += ROUND_S - GROUP_S
    return tuple(taps)
