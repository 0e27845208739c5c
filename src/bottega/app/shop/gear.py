"""Keep the register of test gear, and try an instrument's line."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from hashlib import sha256

from bottega.app.errors import BadValue, NotFound, Stale
from bottega.app.values import number
from bottega.app.workshop import Workshop
from bottega.core.gear import Instrument
from bottega.core.shop import ShopSettings
from bottega.core.wording import sentence
from bottega.devices.address import BadAddress, address_of
from bottega.devices.trial import readable

MOST_INSTRUMENTS = 40
"""Instruments a shop may write down; chosen, four times a full van."""
LONGEST_GEAR_NAME = 60
MARK = 16
"""Letters of an instrument's mark; chosen, two of one name are never alike by chance."""


@dataclass(frozen=True)
class Tried:
    """What was found so far on a line that is being tried, or was: whom, what it shows of each
    function it was asked for, what was wrong, and whether it is over."""

    name: str
    identity: str
    shows: list[tuple[str, str]]
    trouble: str
    over: bool


def keep_instrument(
    workshop: Workshop,
    typed: dict[str, str],
    measures: list[str],
    was: dict[str, str] | None = None,
) -> Instrument:
    """Write down an instrument, or write one of that name anew; ``was`` are the marks of those the
    form showed, by name. Raises BadValue naming the field, Stale where somebody else wrote one of
    that name since."""
    name, resource = typed.get("name", "").strip(), _line(typed.get("resource", "").strip())
    if not 1 <= len(name) <= LONGEST_GEAR_NAME:
        raise BadValue(f"An instrument wants a name of 1 to {LONGEST_GEAR_NAME} letters.", "name")
    known = workshop.shelf.tables.quantities
    wrong = [quantity for quantity in measures if quantity not in known]
    if wrong or not measures:
        found = f"'{wrong[0][:30]}'" if wrong else "nothing"
        raise BadValue(f"Found {found}, expected what it measures.", "measures")
    accuracy = typed.get("accuracy", "").strip()
    share = number(accuracy, "accuracy", 0.001, 50) / 100 if accuracy else None
    instrument = Instrument(name, tuple(measures), share, _day(workshop, typed), resource)

    def change(settings: ShopSettings) -> ShopSettings:
        others = [kept for kept in settings.gear if kept.name != name]
        if len(others) >= MOST_INSTRUMENTS:
            raise BadValue(f"Found {MOST_INSTRUMENTS} instruments already, expected fewer.", "name")
        _refuse_overtaken(settings, name, was, instrument)
        return replace(settings, gear=(*others, instrument))

    workshop.change_settings(change)
    return instrument


def drop_instrument(workshop: Workshop, name: str, was: dict[str, str] | None = None) -> None:
    """Strike an instrument out. Raises NotFound, Stale where somebody else wrote it anew since."""

    def change(settings: ShopSettings) -> ShopSettings:
        left = tuple(kept for kept in settings.gear if kept.name != name)
        if len(left) == len(settings.gear):
            raise NotFound(f"Found no instrument '{name[:40]}', expected one of the register.")
        _refuse_overtaken(settings, name, was, None)
        return replace(settings, gear=left)

    workshop.change_settings(change)


def marks(gear: Iterable[Instrument]) -> dict[str, str]:
    """Return a mark of each instrument by its name, by which another entry of that name is
    known."""
    return {one.name: sha256(repr(one).encode()).hexdigest()[:MARK] for one in gear}


def _refuse_overtaken(
    settings: ShopSettings, name: str, was: dict[str, str] | None, wanted: Instrument | None
) -> None:
    now = next((kept for kept in settings.gear if kept.name == name), None)
    if was is None or now == wanted or marks(settings.gear).get(name) == was.get(name):
        return
    yours = _in_short(wanted) if wanted else "nothing"
    raise Stale(
        f"Somebody else wrote {name} down since you opened the form: {_in_short(now)}. You wrote: "
        f"{yours}. Nothing of yours was written; send it again if yours is to stand."
    )


def _in_short(one: Instrument | None) -> str:
    if one is None:
        return "struck out"
    accuracy = f"{one.accuracy:.3%}" if one.accuracy else "usual accuracy"
    return f"{', '.join(one.measures)}; {accuracy}; {one.calibrated or 'no day'}; {one.resource}"


def try_line(workshop: Workshop, name: str) -> None:
    """Begin to try the line of an instrument. Raises NotFound."""
    instrument = _known(workshop, name)
    if instrument.resource:
        workshop.links.begin_trial(instrument.resource, readable(instrument.measures))


def tried(workshop: Workshop, name: str) -> Tried:
    """Return what was found on the line of an instrument. Raises NotFound."""
    instrument = _known(workshop, name)
    if not instrument.resource:
        return Tried(name, "", [], "It has no line: its readings are typed.", True)
    trial = workshop.links.trial_of(instrument.resource)
    if trial is None:
        return Tried(name, "", [], "Its line was not tried since Bottega was started.", True)
    over = trial.over
    shows = [(what, "OL" if shown is None else f"{shown:.4g}") for what, shown in [*trial.shows]]
    trouble = sentence(trial.trouble) if trial.trouble else ""
    return Tried(name, trial.identity, shows, trouble, over)


def _known(workshop: Workshop, name: str) -> Instrument:
    for instrument in workshop.settings.gear:
        if instrument.name == name:
            return instrument
    raise NotFound(f"Found no instrument '{name[:40]}', expected one of the register.")


def _line(text: str) -> str:
    """Return the line of an instrument as it is kept; empty where its readings are typed."""
    try:
        return str(address_of(text)) if text else ""
    except BadAddress as error:
        raise BadValue(sentence(error), "resource") from error


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
