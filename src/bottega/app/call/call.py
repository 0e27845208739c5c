"""Take a call: what is being said, what it may be, and the job that comes of it."""

from collections.abc import Mapping
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
from bottega.core.job.events import (
    AnyBody,
    Checked,
    Complained,
    Event,
    Often,
    Opened,
    PanelRead,
)
from bottega.core.job.fold import fold
from bottega.core.job.kinds import possible
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.speech import plain
from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import Plate
from bottega.core.library.shelf import UnknownMachine
from bottega.core.library.vocabulary import Door, Drum, Plug, Taps, Unknown, Water
from bottega.core.panel.told import CodeTold, codes_told
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
    codes: tuple[str, ...] = ()
    """Codes the customer told of, ticked by hand."""
    answers: Mapping[str, str] = field(default_factory=dict)
    """What was answered to the questions, the outcome by the check."""


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
    for own, more in _told(workshop, machine, words, event_id).items():
        try:
            possible(fold(events), machine, more)
        except JobRefusal as error:
            raise BadValue(str(error), "said") from error
        events.append(new_event(workshop, more, author, own))
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
    """A complaint as it would be noted, what was heard in the text, the codes it tells of, and the
    picks that stand."""

    complaint: Complained
    codes: tuple[CodeTold, ...]
    hearing: Hearing
    said: Picks
    well: Picks


def listened(workshop: Workshop, machine: MachineType, words: Words) -> Listened:
    """Return a complaint from what was typed and picked; picks of phrases the machine does not know
    are left out. Raises BadValue for one that is too long."""
    text = plain(words.text).strip()
    checked = _complaint(text, words.exact)
    hearing = hear(machine, workshop.shelf.tables.speech, checked.text)
    codes = codes_told(machine, checked.text)
    if words.exact:
        return Listened(checked, codes, hearing, words.said, words.well)
    said, said_picks = words.said.over(hearing.said, hearing.well)
    well, well_picks = words.well.over(hearing.well, hearing.said)
    known = [name for name in said if name in machine.complaints]
    sound = [name for name in well if name in machine.complaints and name not in known]
    often = words.often or hearing.often
    complaint = _complaint(text, tuple(known), tuple(sound), often)
    return Listened(complaint, codes, hearing, said_picks, well_picks)


def _told(
    workshop: Workshop, machine: MachineType, words: Words, event_id: str
) -> dict[str, AnyBody]:
    """Return what was said on the phone as entries, each under the id it gets beside the opening's:
    the complaint, the codes told of, and the answers to questions. Raises BadValue."""
    complaint = listened(workshop, machine, words).complaint
    told: dict[str, AnyBody] = {}
    if complaint.text or complaint.said or complaint.well:
        told[_complaint_id(event_id)] = complaint
    codes = tuple(code for code in words.codes if code in machine.codes)
    if codes:
        told[f"{event_id}-p"] = PanelRead(result="codes", codes=codes, told=True)
    asked = [(check, outcome) for check, outcome in words.answers.items() if outcome]
    for n, (check, outcome) in enumerate(asked):
        told[f"{event_id}-{n}"] = Checked(check=_question(machine, check), outcome=outcome)
    return told


def _question(machine: MachineType, check: str) -> str:
    """Return a check that a customer can answer. Raises BadValue for another."""
    known = machine.checks.get(check)
    if known is None or known.who != "customer":
        raise BadValue(f"Found '{check[:40]}', expected a question to the customer.", "said")
    return check


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
    told = _told(workshop, machine, words, "preview")
    events = [
        Event(id=own, at=workshop.now(), author="preview", body=one)
        for own, one in {"preview-opened": body, **told}.items()
    ]
    for n, event in enumerate(events[1:], start=1):
        try:
            possible(fold(events[:n]), machine, event.body)
        except JobRefusal as error:
            raise BadValue(str(error), "said") from error
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
    told = _told(workshop, machine, words, event_id)
    kept = {event.id: event.body for event in rest if event.id.startswith(f"{event_id}-")}
    nothing = Complained(text="")
    for own in {**kept, **told}:
        refuse_other(kept.get(own, nothing), told.get(own, nothing))
    return diagnose(workshop, number)


def _complaint_id(event_id: str) -> str:
    return f"{event_id}-c"
