"""Keep the register of test gear, and try an instrument's line."""

from dataclasses import dataclass, replace
from datetime import date

from bottega.app.errors import BadValue, NotFound
from bottega.app.values import in_words, number
from bottega.app.workshop import Workshop
from bottega.core.gear import Instrument
from bottega.devices.meter import Meter
from bottega.devices.scpi import FUNCTIONS, MeterError

MOST = 40
"""Instruments a shop may write down; chosen, four times a full van."""
LONGEST = 60
LONGEST_RESOURCE = 120


@dataclass(frozen=True)
class Tried:
    """What was found when a line was tried: whom, what it shows of each function it was asked for,
    or what was wrong."""

    resource: str
    identity: str
    shows: list[tuple[str, str]]
    trouble: str


def keep_instrument(workshop: Workshop, typed: dict[str, str], measures: list[str]) -> Instrument:
    """Write down an instrument, or write one of that name anew. Raises BadValue naming the
    field."""
    name, resource = typed.get("name", "").strip(), typed.get("resource", "").strip()
    if not 1 <= len(name) <= LONGEST:
        raise BadValue(f"An instrument wants a name of 1 to {LONGEST} letters.", "name")
    if len(resource) > LONGEST_RESOURCE:
        raise BadValue(
            f"Found {len(resource)} letters, expected at most {LONGEST_RESOURCE}.", "resource"
        )
    known = workshop.shelf.tables.quantities
    wrong = [quantity for quantity in measures if quantity not in known]
    if wrong or not measures:
        found = f"'{wrong[0][:30]}'" if wrong else "nothing"
        raise BadValue(f"Found {found}, expected what it measures.", "measures")
    accuracy = typed.get("accuracy", "").strip()
    share = number(accuracy, "accuracy", 0.001, 50) / 100 if accuracy else None
    instrument = Instrument(name, tuple(measures), share, _day(workshop, typed), resource)
    others = [kept for kept in workshop.settings.gear if kept.name != name]
    if len(others) >= MOST:
        raise BadValue(f"Found {MOST} instruments already, expected fewer.", "name")
    workshop.keep_settings(replace(workshop.settings, gear=(*others, instrument)))
    return instrument


def drop_instrument(workshop: Workshop, name: str) -> None:
    """Strike an instrument out. Raises NotFound."""
    left = tuple(kept for kept in workshop.settings.gear if kept.name != name)
    if len(left) == len(workshop.settings.gear):
        raise NotFound(f"Found no instrument '{name[:40]}', expected one of the register.")
    workshop.keep_settings(replace(workshop.settings, gear=left))


def try_line(instrument: Instrument) -> Tried:
    """Try the line of an instrument: who answers, and what it shows."""
    if not instrument.resource:
        return Tried("", "", [], "It has no line: its readings are typed.")
    shows: list[tuple[str, str]] = []
    try:
        meter = Meter(instrument.resource)
    except MeterError as error:
        return Tried(instrument.resource, "", [], in_words(error))
    try:
        for quantity in instrument.measures:
            if quantity in FUNCTIONS:
                amount = meter.read(quantity)
                shows.append((quantity, "OL" if amount is None else f"{amount:.4g}"))
    except MeterError as error:
        return Tried(instrument.resource, meter.identity, shows, in_words(error))
    finally:
        meter.close()
    return Tried(instrument.resource, meter.identity, shows, "")


def _day(workshop: Workshop, typed: dict[str, str]) -> date | None:
    text = typed.get("calibrated", "").strip()
    if not text:
        return None
    try:
        day = date.fromisoformat(text)
    except ValueError as error:
        raise BadValue(
            f"Found '{text[:20]}', expected a day as 2026-03-31.", "calibrated"
        ) from error
    if not date(1990, 1, 1) <= day <= workshop.now().date():
        raise BadValue(f"Found {day}, expected a day that is past.", "calibrated")
    return day
