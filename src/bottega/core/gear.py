"""The shop's test gear: what each instrument measures, how well, and until when that is proved."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

BY_HAND = ("length", "flow", "duration", "ratio")
"""Quantities taken with a tape, a bucket and a watch, or worked out: no instrument is wanted."""
STANDS_IN = {"earth_bond": ("insulation", "resistance")}
"""By quantity those whose instruments read it, too, where no other is there: a tester of insulation
usually reads the earth, and any ohmmeter reads one that is broken."""
DUE_DAYS = 365
"""Days a calibration holds; chosen, as rules for testing after repair usually ask."""


@dataclass(frozen=True)
class Instrument:
    """One instrument: its name, the quantities it measures, its accuracy as a share of the reading
    (None for the ordinary class of such meters), the day it was calibrated, and the line
    it can be read by, as `devices/address.py` writes it; empty where its readings are typed."""

    name: str
    measures: tuple[str, ...]
    accuracy: float | None = None
    calibrated: date | None = None
    resource: str = ""

    def lapsed(self, today: date) -> bool:
        """Return whether its calibration holds no more, or nobody knows of one."""
        return self.calibrated is None or (today - self.calibrated).days > DUE_DAYS


def that_measures(gear: Iterable[Instrument], quantity: str) -> Instrument | None:
    """Return the best instrument for a quantity: one by wire first, then the more accurate; None
    where the shop has none."""
    known = list(gear)
    for wanted in (quantity, *STANDS_IN.get(quantity, ())):
        able = [instrument for instrument in known if wanted in instrument.measures]
        if able:
            return min(able, key=lambda i: (not i.resource, i.accuracy or 1.0, i.name))
    return None


def beyond(gear: Iterable[Instrument], quantities: Iterable[str]) -> set[str]:
    """Return those of the ``quantities`` nobody here has an instrument for; none where no gear is
    written down."""
    able = {quantity for instrument in gear for quantity in instrument.measures}
    wanted = {q for q in quantities if q not in BY_HAND} if able else set()
    return {q for q in wanted if not able & {q, *STANDS_IN.get(q, ())}}
