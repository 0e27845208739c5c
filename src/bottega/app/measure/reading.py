"""Take a reading: parse what was typed, judge it against sheet, plate or generic window, and keep
the source."""

from typing import Literal

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.measure.electrical import limits_of
from bottega.app.values import shown
from bottega.app.workshop import Workshop
from bottega.core.gear import that_measures
from bottega.core.job.events import Checked, Reading
from bottega.core.job.job import Job
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Window
from bottega.core.library.sheet import Plate
from bottega.core.library.tables import Quantity
from bottega.core.measure.at import asked_at, window_at
from bottega.core.measure.judge import NoExpectedValue, expected_window, judge
from bottega.core.measure.own import OWN, may_be_own, own_window
from bottega.core.measure.plausible import Suspicion, doubts
from bottega.core.measure.reading import Measured, ReadingError, parse_reading
from bottega.core.measure.units import CUSTOMARY, limits_in
from bottega.core.wording import sentence

HANDED_OVER = ("closed", "recheck")
"""The lanes of jobs that are handed over; when their number changes, the shop's own readings do."""
LONGEST_TYPED = 40
"""Letters of a reading as typed; as the event keeps them."""


def quantity_of(workshop: Workshop, check: Check) -> Quantity:
    """Return the quantity a measurement measures. Raises BadValue for a check that is not one."""
    if check.measure is None:
        raise BadValue(f"'{check.name}' is answered by its outcomes, not by a reading.", "reading")
    return workshop.shelf.tables.quantities[check.measure.quantity]


def plate_of(job: Job, machine: MachineType) -> Plate:
    """Return the rating plate: what the job read off it, and the sheet's for the rest."""
    read = {key: value for key, value in job.opened.plate.model_dump().items() if value is not None}
    return machine.plate.model_copy(update=read)


def own_of(workshop: Workshop, machine: MachineType, check: Check) -> Window | None:
    """Return what the shop itself measured on such parts that proved good, from five on; None for
    a limit on one side, and for what keeps people from harm."""
    quantity = quantity_of(workshop, check)
    assert check.measure is not None
    if not may_be_own(check.measure, quantity):
        return None
    of = (machine.archetype, machine.sheet or "")
    key = (*of, workshop.summaries.closed(HANDED_OVER))
    good = workshop.own_readings.get(key, lambda: workshop.summaries.good_readings(*of))
    return own_window(good.get(check.id, []), quantity.unit)


def window_of(
    workshop: Workshop, job: Job, machine: MachineType, check: Check, *, at: float | None = None
) -> Window:
    """Return the expected value of a measurement on this job, ``at`` the temperature or level it
    is taken at. Raises BadValue when nothing says it."""
    try:
        plate, mains_v = plate_of(job, machine), workshop.settings.mains_v
        own, limits = own_of(workshop, machine, check), limits_of(workshop)
        window = expected_window(machine, check, plate, mains_v, own=own, limits=limits)
        return window if at is None else window_at(machine, check, window, at)
    except ValueError as error:
        raise BadValue(sentence(error), "at") from error
    except NoExpectedValue as error:
        raise BadValue(
            f"No expected value: {error}. Choose the outcome yourself and note the reading.",
            "reading",
        ) from error


def judged_otherwise(workshop: Workshop, answer: Answer) -> list[Check]:
    """Return the measurements whose last reading was judged by another window than the one its
    machine has now: the job was moved to another sheet or revision since."""
    job, machine = answer.job, answer.machine
    last = {body.check: body.reading for _, body in job.checked()}
    found = []
    for name, reading in last.items():
        check = machine.checks.get(name)
        if reading is None or check is None or check.measure is None:
            continue
        try:
            window = window_of(workshop, job, machine, check, at=reading.at)
        except BadValue:
            continue
        if any(source.startswith(OWN) for source in (reading.source, window.source)):
            continue
        if (reading.low, reading.high) != (window.low, window.high):
            found.append(check)
    return found


def take_reading(
    workshop: Workshop,
    job: Job,
    machine: MachineType,
    check_id: str,
    typed: str,
    unit: str = "",
    sure: bool = True,
    at: str = "",
    by_wire: bool = False,
) -> Checked:
    """Return the check's event for a reading. ``unit`` is added when the number was typed without
    one; ``at`` is the temperature or level it was taken at, where it moves with one. The instrument
    is named where the reading came ``by_wire``: nobody knows with which one another was taken.

    Raises BadValue for an unknown check, an unreadable value, a wrong unit, or a value out of
    physical range; and, unless one is ``sure``, in the field "doubt" where it looks like something
    else.
    """
    check = _check_of(machine, check_id)
    quantity = quantity_of(workshop, check)
    at_unit, taken_at = _taken_at(workshop, machine, check, at)
    window = window_of(workshop, job, machine, check, at=taken_at)
    loose = _measured(typed, unit, quantity, within=False)
    looks = [] if sure else doubts(machine, check, loose, window, quantity=quantity)
    if looks:
        limits = limits_in(window.low, window.high, window.unit, workshop.settings.units)
        raise BadValue(
            f"Found {shown(typed)}, expected {limits}. It looks like {looks[0].says}; if so, type "
            "it again with its unit.",
            "doubt",
        )
    measured = _measured(typed, unit, quantity)
    assert check.measure is not None
    instrument = that_measures(workshop.settings.gear, check.measure.quantity)
    if instrument is not None and instrument.accuracy is not None:
        quantity = quantity.model_copy(update={"accuracy": instrument.accuracy})
    try:
        verdict = judge(check, measured, window, quantity)
    except ReadingError as error:
        raise BadValue(sentence(error), "reading") from error
    reading = Reading(
        typed=measured.typed,
        amount=measured.amount,
        unit=measured.unit,
        verdict=verdict.band,
        borderline=verdict.borderline,
        low=window.low,
        high=window.high,
        source=window.source,
        grade=window.grade,
        weights={name: round(weight, 6) for name, weight in verdict.weights.items()},
        terminals=check.measure.terminals,
        instrument=instrument.name if instrument and by_wire else "",
        conditions=conditions_of(workshop, job),
        at=taken_at,
        at_unit=at_unit,
    )
    return Checked(check=check_id, outcome=verdict.outcome, reading=reading)


def typed_amount(workshop: Workshop, typed: str, quantity: str, field: str) -> float:
    """Return an amount as typed of a quantity, in its unit; a bare number is in the shop's. Raises
    BadValue in the field."""
    text = typed.strip()
    record = workshop.shelf.tables.quantities[quantity]
    if workshop.settings.units == "us" and record.unit in CUSTOMARY and text[-1:].isdigit():
        text = f"{text} {CUSTOMARY[record.unit][0]}"
    try:
        found = parse_reading(text[:LONGEST_TYPED], record)
    except ReadingError as error:
        raise BadValue(sentence(error), field) from error
    if found.amount is None:
        raise BadValue(f"Found {shown(typed)}, expected a number in {record.symbol}.", field)
    return found.amount


def _taken_at(
    workshop: Workshop, machine: MachineType, check: Check, typed: str
) -> tuple[Literal["", "degC", "millimeter"], float | None]:
    """Return what a reading was taken at with its unit; nothing where it moves with nothing or
    nobody said it. Raises BadValue in the field "at"."""
    asked = asked_at(machine, check)
    if asked is None or not typed.strip():
        return "", None
    return asked.unit, typed_amount(workshop, typed, asked.quantity, "at")


def conditions_of(workshop: Workshop, job: Job) -> str:
    """Return how a machine stands while it is measured, and the shop's mains, in words."""
    state, shop = job.state, workshop.settings
    plug = "plugged in" if state.power == "on" else "unplugged"
    mains = f"{shop.mains_v:g} V {shop.mains_hz:g} Hz mains"
    return f"{plug}, water {state.water}, {len(state.off)} off, {mains}"


def looks_like(
    workshop: Workshop, job: Job, machine: MachineType, check: Check, *, typed: str, unit: str
) -> list[Suspicion]:
    """Return what a typed reading looks like instead; empty for one that cannot be read."""
    try:
        measured = _measured(typed, unit, quantity_of(workshop, check), within=False)
        window = window_of(workshop, job, machine, check)
    except BadValue:
        return []
    return doubts(machine, check, measured, window, quantity=quantity_of(workshop, check))


def _check_of(machine: MachineType, check_id: str) -> Check:
    check = machine.checks.get(check_id)
    if check is None:
        raise BadValue(
            f"Found the check {shown(check_id)}, expected one of this machine's.", "check"
        )
    return check


def _measured(typed: str, unit: str, quantity: Quantity, within: bool = True) -> Measured:
    text = typed.strip()
    if len(text) > LONGEST_TYPED:
        raise BadValue(
            f"Found {shown(text)}, expected a reading of at most {LONGEST_TYPED} letters.",
            "reading",
        )
    if unit and text and text[-1].isdigit():
        text = f"{text} {unit}"
    try:
        return parse_reading(text, quantity, within, bounds=True)
    except ReadingError as error:
        raise BadValue(sentence(error), "reading") from error


def judged(workshop: Workshop, job: Job, machine: MachineType, body: Checked) -> Checked:
    """Return the check with its reading judged here again: a verdict that came from outside is not
    believed."""
    assert body.reading is not None
    bound = body.reading.typed[:1] if body.reading.typed[:1] in "<>" else ""
    amount = f"{bound}{body.reading.amount!r} {body.reading.unit}"
    text = "OL" if body.reading.amount is None else amount
    at = "" if body.reading.at is None else f"{body.reading.at!r} {body.reading.at_unit}"
    by_wire = bool(body.reading.instrument)
    fresh = take_reading(workshop, job, machine, body.check, text, at=at, by_wire=by_wire)
    assert fresh.reading is not None
    reading = fresh.reading.model_copy(update={"typed": body.reading.typed})
    return body.model_copy(update={"outcome": fresh.outcome, "reading": reading})
