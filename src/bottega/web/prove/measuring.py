"""What stands beside a measurement at *Prove*: its window in the shop's units, what the register of
test gear says of it, and what a doubted reading may have meant."""

from dataclasses import dataclass, replace

from bottega.app.errors import AppError
from bottega.app.measure.reading import looks_like, quantity_of, window_of
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.gear import beyond, that_measures
from bottega.core.library.machine_type import Check
from bottega.core.library.records import Window
from bottega.core.library.tables import Quantity
from bottega.core.measure.at import asked_at
from bottega.core.measure.units import CUSTOMARY, customary, deserved, in_system
from bottega.web.station.sheet import Desk


@dataclass(frozen=True)
class Measuring:
    """What a measurement is judged by: its quantity, and the expected window in the shop's
    units."""

    quantity: Quantity
    window: Window | None
    symbol: str
    """The unit a bare number is taken in, as it stands beside the field."""
    unit: str
    """The same as it is sent along; empty for the quantity's own."""
    low: float
    high: float
    """The window in that unit."""
    at: "TakenAt | None" = None
    """What the window moves with, where it moves with anything."""


@dataclass(frozen=True)
class TakenAt:
    """What is asked beside a reading because its window moves with it: in words, the unit a bare
    number is taken in, as it was typed when it could not be used, and why."""

    asks: str
    symbol: str
    typed: str
    trouble: str


@dataclass(frozen=True)
class ReadingMeant:
    """One way in which a reading may have been meant: in words, and as it would be typed."""

    says: str
    typed: str


def measuring_of(desk: Desk, step: Step) -> Measuring:
    """Return what a measurement is judged by, on this job and in the shop's units."""
    return replace(_judged_by(desk, step), at=_taken_at(desk, step))


def _taken_at(desk: Desk, step: Step) -> TakenAt | None:
    asked, error = asked_at(desk.answer.machine, step.check), desk.error
    if asked is None:
        return None
    shown = in_system(asked.least, asked.unit, desk.workshop.settings.units)
    asks = "water above the chamber" if asked.quantity == "length" else "temperature of the part"
    trouble = error.message if error and error.field == "at" else ""
    typed = error.typed.get("at", "") if error else ""
    return TakenAt(asks, shown.symbol, typed, trouble)


def _judged_by(desk: Desk, step: Step) -> Measuring:
    quantity = quantity_of(desk.workshop, step.check)
    own = quantity.symbol or quantity.unit
    try:
        window = window_of(desk.workshop, desk.answer.job, desk.answer.machine, step.check)
    except AppError:
        return Measuring(quantity, None, own, "", 0.0, 0.0)
    us = desk.workshop.settings.units == "us"
    low, high = customary(window.low, window.unit), customary(window.high, window.unit)
    if us and low and high:
        limits = deserved(low[0], high[0])
        return Measuring(quantity, window, low[1], CUSTOMARY[window.unit][0], *limits)
    return Measuring(quantity, window, own, "", *deserved(window.low, window.high))


def offers_of(desk: Desk, step: Step) -> list[ReadingMeant]:
    """Return what may be kept by one press beside the reading as typed: an open circuit, nothing
    else. No press makes a bad reading a good one."""
    assert desk.error is not None
    typed, unit = (desk.error.typed.get(name, "") for name in ("typed", "unit"))
    looks = looks_like(
        desk.workshop, desk.answer.job, desk.answer.machine, step.check, typed=typed, unit=unit
    )
    return (
        [ReadingMeant("It is open: OL", "OL")] if any(doubt.open_circuit for doubt in looks) else []
    )


def gear_words(workshop: Workshop, check: Check) -> str:
    gear, measure = workshop.settings.gear, check.measure
    if measure is None or not gear:
        return ""
    if beyond(gear, [measure.quantity]):
        return (
            f"Nobody's instrument measures {measure.quantity.replace('_', ' ')}, so it is not "
            "proposed. With a borrowed one, type what it shows."
        )
    instrument = that_measures(gear, measure.quantity)
    if instrument is None or not instrument.lapsed(workshop.now().date()):
        return ""
    since = (
        f"lapsed: it was on {instrument.calibrated}" if instrument.calibrated else "is not known"
    )
    return f"The calibration of {instrument.name} {since}. Read it with that in mind."
