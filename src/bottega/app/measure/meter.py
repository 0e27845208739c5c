"""Hands on the probes: what the meter shows at a check, settled, judged, and kept when touched
again."""

from contextlib import suppress
from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.errors import BadValue, Refused
from bottega.app.measure.reading import window_of
from bottega.app.workshop import Workshop
from bottega.core.gear import Instrument, that_measures
from bottega.core.library.machine_type import Check
from bottega.core.library.records import Window
from bottega.core.library.tables import Quantity
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.measure.judge import judge, volts_said
from bottega.core.measure.reading import Measured
from bottega.core.measure.settling import Settler
from bottega.core.measure.units import in_system
from bottega.core.wording import upper_first
from bottega.devices.link import MeterSample
from bottega.devices.scpi import FUNCTIONS

WORDS = {
    "lifted": "touch the points",
    "moving": "settling",
    "settled": "settled",
    "open": "open, or not touching",
}


@dataclass(frozen=True)
class MeterShown:
    """What the page shows of one sample: the state in a word, the figure with its unit, what it
    says by its verdict, and the settled reading as it would be typed. ``keep`` says that it was
    touched again: keep it."""

    state: str
    words: str
    figure: str
    symbol: str
    verdict: str
    good: bool
    typed: str
    keep: bool
    trouble: str


def by_wire(workshop: Workshop, check: Check) -> Instrument | None:
    """Return the instrument by wire that can make a measurement, or None."""
    return heard_for(workshop, check.measure.quantity) if check.measure else None


def heard_for(workshop: Workshop, quantity: str) -> Instrument | None:
    """Return the instrument by wire that measures a quantity, or None."""
    if quantity not in FUNCTIONS:
        return None
    instrument = that_measures(workshop.settings.gear, quantity)
    return instrument if instrument and instrument.resource else None


class Ear:
    """Follows the meter at one check of a job, or at one of the readings, of a ``quantity``, that
    it is worked out of. Raises Refused where no instrument can be heard."""

    def __init__(
        self, workshop: Workshop, answer: Answer, check: Check, quantity: str | None = None
    ) -> None:
        own = check.measure.quantity if check.measure else ""
        self.quantity_name = quantity or own
        instrument = heard_for(workshop, self.quantity_name)
        if instrument is None:
            raise Refused("No instrument by wire measures that: type the reading.", "meter")
        self.instrument = instrument
        self._check, self._system = check, workshop.settings.units
        self._quantity: Quantity = workshop.shelf.tables.quantities[self.quantity_name]
        if instrument.accuracy is not None:
            self._quantity = self._quantity.model_copy(update={"accuracy": instrument.accuracy})
        self._window: Window | None = None
        if self.quantity_name == own:
            with suppress(BadValue):
                self._window = window_of(workshop, answer.job, answer.machine, check)
        self._settler = Settler(self._quantity)

    def hear(self, sample: MeterSample) -> MeterShown:
        """Return what the page shows of one sample."""
        if sample.trouble:
            self._settler.forget()
            words = upper_first(sample.trouble)
            return MeterShown("gone", "no reading", "", "", "", False, "", False, f"{words}.")
        heard = self._settler.take(sample.amount)
        typed = self._typed(heard.settled) if heard.settled is not None else ""
        if heard.state == "open":
            typed = "OL"
        verdict, good = self._verdict(heard.settled, heard.state == "open")
        if heard.amount is None:
            figure, symbol = "OL", ""
        else:
            shown = in_system(heard.amount, self._quantity.unit, self._system)
            figure, symbol = f"{shown.number:.4g}", shown.symbol
        words = WORDS[heard.state]
        if heard.state == "lifted" and typed:
            words = "touch again to keep it"
        return MeterShown(heard.state, words, figure, symbol, verdict, good, typed, heard.kept, "")

    def _typed(self, amount: float) -> str:
        return f"{amount:.4g} {self._quantity.unit}".replace("dimensionless", "").strip()

    def _verdict(self, settled: float | None, is_open: bool) -> tuple[str, bool]:
        if self._window is None or (settled is None and not is_open):
            return "", False
        measured = Measured("", None if is_open else settled, self._quantity.unit)
        found = judge(self._check, measured, self._window, self._quantity)
        edge = ", borderline: repeat" if found.borderline else ""
        if found.outcome == INCONCLUSIVE:
            volts = settled is not None and self._quantity.unit == "volt"
            said = volts_said(settled or 0.0, self._window.low, self._window.high) if volts else ""
            return f"{said.lower() or 'settles nothing'}{edge}", False
        outcome = self._check.outcome(found.outcome)
        assert outcome is not None
        return f"{outcome.label.lower()}{edge}", outcome.chances[0] == max(outcome.chances)
