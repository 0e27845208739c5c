"""Take a reading: parse what was typed, judge it against sheet, plate or generic window, and keep
the source."""

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.values import shown
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked, Reading
from bottega.core.job.job import Job
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Window
from bottega.core.library.sheet import Plate
from bottega.core.library.tables import Quantity
from bottega.core.measure.judge import NoExpectedValue, expected_window, judge
from bottega.core.measure.reading import ReadingError, parse_reading

LONGEST = 40
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


def window_of(workshop: Workshop, job: Job, machine: MachineType, check: Check) -> Window:
    """Return the expected value of a measurement on this job. Raises BadValue when nothing says
    it."""
    try:
        return expected_window(machine, check, plate_of(job, machine), workshop.settings.mains_v)
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
            window = window_of(workshop, job, machine, check)
        except BadValue:
            continue
        if (reading.low, reading.high) != (window.low, window.high):
            found.append(check)
    return found


def take_reading(
    workshop: Workshop, job: Job, machine: MachineType, check_id: str, typed: str, unit: str = ""
) -> Checked:
    """Return the check's event for a typed reading. ``unit`` is added when the number was typed
    without one.

    Raises BadValue for an unknown check, an unreadable value, a wrong unit, or a value out of
    physical range.
    """
    check = machine.checks.get(check_id)
    if check is None:
        raise BadValue(
            f"Found the check {shown(check_id)}, expected one of this machine's.", "check"
        )
    quantity = quantity_of(workshop, check)
    text = typed.strip()
    if len(text) > LONGEST:
        raise BadValue(
            f"Found {shown(text)}, expected a reading of at most {LONGEST} letters.", "reading"
        )
    if unit and text and text[-1].isdigit():
        text = f"{text} {unit}"
    try:
        measured = parse_reading(text, quantity)
    except ReadingError as error:
        raise BadValue(str(error)[0].upper() + str(error)[1:] + ".", "reading") from error
    window = window_of(workshop, job, machine, check)
    verdict = judge(check, measured, window, quantity)
    reading = Reading(
        typed=text,
        amount=measured.amount,
        unit=measured.unit,
        verdict=verdict.band,
        borderline=verdict.borderline,
        low=window.low,
        high=window.high,
        source=window.source,
        grade=window.grade,
        weights={name: round(weight, 6) for name, weight in verdict.weights.items()},
    )
    return Checked(check=check_id, outcome=verdict.outcome, reading=reading)


def judged(workshop: Workshop, job: Job, machine: MachineType, body: Checked) -> Checked:
    """Return the check with its reading judged here again: a verdict that came from outside is not
    believed."""
    assert body.reading is not None
    text = "OL" if body.reading.amount is None else f"{body.reading.amount!r} {body.reading.unit}"
    fresh = take_reading(workshop, job, machine, body.check, text)
    assert fresh.reading is not None
    reading = fresh.reading.model_copy(update={"typed": body.reading.typed})
    return body.model_copy(update={"outcome": fresh.outcome, "reading": reading})
