"""Take a call: what is being said, what it may be, and the job that comes of it."""

from collections.abc import Sequence
from dataclasses import replace

from pydantic import BaseModel, ConfigDict, ValidationError

from bottega.app.answer import Answer
from bottega.app.call.odds import odds_now
from bottega.app.errors import BadValue, Refused
from bottega.app.job.answer import diagnose, foreseen, keep, read_events
from bottega.app.job.record import new_event
from bottega.app.job.summary import summary_of
from bottega.app.values import refused
from bottega.app.workshop import Workshop
from bottega.core.job.complaint import Heard, hear
from bottega.core.job.events import AnyBody, Complained, Event, Opened
from bottega.core.job.fold import fold
from bottega.core.job.kinds import allow
from bottega.core.job.rules import JobRefusal
from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import Plate
from bottega.core.library.shelf import UnknownMachine
from bottega.core.library.vocabulary import Power, Taps, Water
from bottega.store.log import TakenId


class Call(BaseModel):
    """What is known of a machine when the call is taken. ``machine`` is the id of its sheet, or of
    its kind."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    machine: str
    age_years: float
    place: str
    customer: str = ""
    history: tuple[str, ...] = ()
    power: Power = "on"
    taps: Taps = "open"
    water: Water = "unknown"
    arrival: str = ""
    plate: Plate = Plate()


def open_job(
    workshop: Workshop,
    call: Call,
    text: str,
    said: Sequence[str],
    author: str,
    event_id: str,
    number: str | None = None,
) -> Answer:
    """Open a job with its complaint and return its answer. The same event id again returns the same
    job.

    Raises BadValue for anything that cannot be used, and Refused when the id is that of another
    job's entry; then nothing is written.
    """
    known = workshop.log.job_of(event_id)
    if known is not None:
        return _opened_before(workshop, known, event_id, call)
    machine, body = opening(workshop, call)
    events = [new_event(workshop, body, author, event_id)]
    if text.strip() or said:
        chosen = said or [heard.complaint.id for heard in hear(machine, text)]
        complaint = complained(text, chosen)
        try:
            allow(fold(events), machine, complaint)
        except JobRefusal as error:
            raise BadValue(str(error), "said") from error
        events.append(new_event(workshop, complaint, author, f"{event_id}-c"))
    answer = foreseen(workshop, number or "new", events)
    try:
        chosen_number = workshop.log.create(events, number, summary_of(answer))
    except TakenId as error:
        known = workshop.log.job_of(event_id)
        if known is None:
            raise Refused(f"{str(error).capitalize()}. Load the page again.", "id") from error
        return _opened_before(workshop, known, event_id, call)
    answer = replace(answer, number=chosen_number)
    keep(workshop, answer)
    return answer


def parse_call(raw: dict[str, object]) -> Call:
    """Return a call from plain data. Raises BadValue with the field to put right."""
    try:
        return Call.model_validate(raw)
    except ValidationError as error:
        raise refused(error, "machine") from error


def opening(workshop: Workshop, call: Call) -> tuple[MachineType, Opened]:
    """Return the machine type and the opening. Raises BadValue with the field to put right."""
    machine = machine_named(workshop, call.machine)
    own = {
        "archetype": machine.archetype,
        "sheet": machine.sheet,
        "revision": machine.revision,
        "odds": odds_now(workshop, machine),
    }
    try:
        return machine, Opened.model_validate({**call.model_dump(exclude={"machine"}), **own})
    except ValidationError as error:
        raise refused(error, "machine") from error


def machine_named(workshop: Workshop, name: str) -> MachineType:
    """Return the machine type of a sheet's id or a kind's. Raises BadValue."""
    shelf = workshop.shelf
    try:
        if name in shelf.sheets:
            return shelf.machine(shelf.sheets[name].archetype, name)
        return shelf.machine(name)
    except UnknownMachine as error:
        raise BadValue(f"Which machine is it? {str(error).capitalize()}.", "machine") from error


def complained(text: str, said: Sequence[str]) -> Complained:
    """Return the complaint as it is noted. Raises BadValue for one that is too long."""
    try:
        return Complained(text=text.strip(), said=tuple(said))
    except ValidationError as error:
        raise refused(error, "text") from error


def preview(
    workshop: Workshop, call: Call, text: str, said: Sequence[str] | None
) -> tuple[Answer, list[Heard]]:
    """Return the answer a job would have, without storing it, and the phrases heard in the text.
    Raises BadValue."""
    machine, body = opening(workshop, call)
    heard = hear(machine, text)
    chosen = said if said is not None else [item.complaint.id for item in heard]
    bodies: list[AnyBody] = [body, complained(text, [n for n in chosen if n in machine.complaints])]
    events = [
        Event(id=f"preview-{n}", at=workshop.now(), author="preview", body=one)
        for n, one in enumerate(bodies)
    ]
    return foreseen(workshop, "new", events), heard


def _opened_before(workshop: Workshop, number: str, event_id: str, call: Call) -> Answer:
    """Return the job this call was opened as before. Raises Refused when the id is of something
    else."""
    first = read_events(workshop, number)[0]
    body = first.body
    same = isinstance(body, Opened) and (body.place, body.age_years) == (call.place, call.age_years)
    if first.id != event_id or not same:
        raise Refused(
            "The form's id is that of another entry. Load the page again and send it once more.",
            "id",
        )
    return diagnose(workshop, number)
