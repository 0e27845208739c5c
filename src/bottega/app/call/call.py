"""Take a call: what is being said, what it may be, and the job that comes of it."""

from dataclasses import dataclass, field, replace

from pydantic import BaseModel, ConfigDict, ValidationError

from bottega.app.answer import Answer
from bottega.app.call.odds import odds_now
from bottega.app.errors import BadValue, Refused
from bottega.app.job.answer import diagnose, foreseen, keep, read_events
from bottega.app.job.record import new_event
from bottega.app.job.room import refuse_opening
from bottega.app.job.sent import refuse_other
from bottega.app.job.summary import summary_of
from bottega.app.values import refused
from bottega.app.workshop import Workshop
from bottega.core.job.complaint import Hearing, Picks, hear
from bottega.core.job.events import AnyBody, Complained, Event, Often, Opened
from bottega.core.job.fold import fold
from bottega.core.job.kinds import possible
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.speech import plain
from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import Plate
from bottega.core.library.shelf import UnknownMachine
from bottega.core.library.vocabulary import Door, Drum, Plug, Taps, Unknown, Water
from bottega.core.wording import sentence
from bottega.store.log import TakenId

TELLING = ("heater_w", "motor_w", "capacity_kg", "spin_rpm")
"""Fields of a rating plate that tell models apart; volts and hertz are everybody's."""
PLATE_AGREES = 2
"""Fields that must agree before a sheet is suggested; chosen, one figure is many machines'."""


@dataclass(frozen=True)
class Words:
    """What the customer says: as typed, and what was picked by hand. Without picks the text alone
    is heard."""

    text: str = ""
    said: Picks = field(default_factory=Picks)
    well: Picks = field(default_factory=Picks)
    often: Often = ""
    """How often, chosen by hand; empty for what the text says."""
    exact: tuple[str, ...] = ()
    """Phrases that stand for whatever might be heard; for callers who sort the words themselves."""


class Call(BaseModel):
    """What is known of a machine when the call is taken. ``machine`` is the id of its sheet, or of
    its kind."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    machine: str
    age_years: float | None = None
    place: str
    customer: str = ""
    history: tuple[str, ...] = ()
    power: Plug = "unknown"
    taps: Taps | Unknown = "unknown"
    water: Water = "unknown"
    drum: Drum | Unknown = "unknown"
    door: Door | Unknown = "unknown"
    arrival: str = ""
    plate: Plate = Plate()


def open_job(
    workshop: Workshop,
    call: Call,
    words: Words,
    author: str,
    *,
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
        return _opened_before(workshop, known, event_id, call, words=words)
    machine, body = opening(workshop, call)
    events = [new_event(workshop, body, author, event_id)]
    complaint = listened(workshop, machine, words).complaint
    if complaint.text or complaint.said or complaint.well:
        try:
            possible(fold(events), machine, complaint)
        except JobRefusal as error:
            raise BadValue(str(error), "said") from error
        events.append(new_event(workshop, complaint, author, _complaint_id(event_id)))
    refuse_opening(events)
    answer = foreseen(workshop, number or "new", events)
    try:
        chosen_number = workshop.log.create(events, number, summary_of(workshop, answer))
    except TakenId as error:
        known = workshop.log.job_of(event_id)
        if known is None:
            raise Refused(f"{sentence(error)} Load the page again.", "id") from error
        return _opened_before(workshop, known, event_id, call, words=words)
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
        raise BadValue(f"Which machine is it? {sentence(error)}", "machine") from error


@dataclass(frozen=True)
class Listened:
    """A complaint as it would be noted, what was heard in the text, and the picks that stand."""

    complaint: Complained
    hearing: Hearing
    said: Picks
    well: Picks


def listened(workshop: Workshop, machine: MachineType, words: Words) -> Listened:
    """Return a complaint from what was typed and picked; picks of phrases the machine does not know
    are left out. Raises BadValue for one that is too long."""
    text = plain(words.text).strip()
    checked = _complaint(text, words.exact)
    hearing = hear(machine, workshop.shelf.tables.speech, checked.text)
    if words.exact:
        return Listened(checked, hearing, words.said, words.well)
    said, said_picks = words.said.over(hearing.said, hearing.well)
    well, well_picks = words.well.over(hearing.well, hearing.said)
    known = [name for name in said if name in machine.complaints]
    sound = [name for name in well if name in machine.complaints and name not in known]
    often = words.often or hearing.often
    complaint = _complaint(text, tuple(known), tuple(sound), often)
    return Listened(complaint, hearing, said_picks, well_picks)


def _complaint(
    text: str, said: tuple[str, ...] = (), well: tuple[str, ...] = (), often: Often = ""
) -> Complained:
    try:
        return Complained(text=text, said=said, well=well, often=often)
    except ValidationError as error:
        raise refused(error, "text") from error


def preview(workshop: Workshop, call: Call, words: Words) -> tuple[Answer, Listened]:
    """Return the answer a job would have, without storing it, and what was made of the words.
    Raises BadValue."""
    machine, body = opening(workshop, call)
    made = listened(workshop, machine, words)
    bodies: list[AnyBody] = [body, made.complaint]
    events = [
        Event(id=f"preview-{n}", at=workshop.now(), author="preview", body=one)
        for n, one in enumerate(bodies)
    ]
    return foreseen(workshop, "new", events), made


def sheets_like(workshop: Workshop, plate: Plate) -> list[tuple[str, str]]:
    """Return the sheets a rating plate fits, id and name: at least two fields agree and none
    differs. The year and the serial number say nothing of the model."""
    typed = {k: v for k, v in plate.model_dump().items() if k in TELLING and v is not None}
    found = []
    for name in workshop.shelf.sheets:
        sheet = workshop.shelf.sheet(name)
        written = {k: v for k, v in sheet.plate.model_dump().items() if v is not None}
        both = typed.keys() & written.keys()
        if len(both) >= PLATE_AGREES and all(typed[k] == written[k] for k in both):
            found.append((sheet.sheet, sheet.title))
    return found


def _opened_before(
    workshop: Workshop, number: str, event_id: str, call: Call, *, words: Words
) -> Answer:
    """Return the job this call was opened as before. Raises Refused when the id is of something
    else, or the call is another."""
    first, *rest = read_events(workshop, number)
    if first.id != event_id:
        raise Refused(
            "The form's id is that of another entry. Load the page again and send it once more.",
            "id",
        )
    machine, body = opening(workshop, call)
    refuse_other(first.body, body)
    heard = next((event.body for event in rest if event.id == _complaint_id(event_id)), None)
    complaint = listened(workshop, machine, words).complaint
    refuse_other(heard or Complained(text=""), complaint)
    return diagnose(workshop, number)


def _complaint_id(event_id: str) -> str:
    return f"{event_id}-c"
