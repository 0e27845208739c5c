"""Jobs out and in: the whole job as JSON, the same screens in an empty shop. What comes in is not
believed."""

from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from bottega.app.answer import Answer
from bottega.app.bounds import json_of
from bottega.app.errors import AppError, BadValue, NotFound, Refused
from bottega.app.job.answer import foreseen, keep
from bottega.app.job.bundle import BEGINS, Unpacked, photos_in, unpacked
from bottega.app.job.machine import machine_of
from bottega.app.job.room import (
    MOST_ITEMS,
    MOST_JOB_BYTES,
    refuse_large,
    refuse_many,
    refuse_more,
)
from bottega.app.job.summary import summary_of
from bottega.app.measure.reading import judged
from bottega.app.values import shown
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked, Event, Opened, Rebased, Withdrawn
from bottega.core.job.file import FORMAT, VERSION, JobFile, restored, stored
from bottega.core.job.fold import fold, folds
from bottega.core.job.job import BrokenLog
from bottega.core.job.kinds import possible
from bottega.core.job.refusal import JobRefusal
from bottega.core.library.machine_type import MachineType
from bottega.core.wording import sentence
from bottega.store.log import TakenId, UnknownJob
from bottega.store.photos import name_of


def export_job(workshop: Workshop, number: str) -> JobFile:
    """Return a job's file, also of one that cannot be read any more. Raises NotFound."""
    try:
        events = workshop.log.stored(number)
    except UnknownJob as error:
        raise NotFound(sentence(error)) from error
    try:
        revision = machine_of(workshop, workshop.log.read(number)).revision
    except (AppError, ValueError):
        revision = ""
    return JobFile(
        number=number, exported_at=workshop.now(), library_revision=revision, events=events
    )


def read_job_file(raw: bytes) -> tuple[JobFile, list[Event]]:
    """Return the job in a file and its events as understood today.

    Raises BadValue for a file that is cut, newer, too large, or not a job; it names the place.
    """
    data = _json(raw)
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadValue("The file is JSON but not a job; expected one exported by Bottega.", "file")
    if isinstance(data.get("version"), int) and data["version"] > VERSION:
        raise BadValue(
            f"The file is of version {shown(data['version'])}, this Bottega reads up to {VERSION}. "
            "Update it first.",
            "file",
        )
    if isinstance(data.get("events"), list):
        refuse_many(len(data["events"]))
    try:
        file = JobFile.model_validate(data)
    except ValidationError as error:
        raise _broken("", error) from error
    events = []
    for place, kept in enumerate(file.events, start=1):
        try:
            events.append(restored(kept))
        except ValidationError as error:
            raise _broken(f"event {place}, ", error) from error
        except ValueError as error:
            raise BadValue(f"The file is broken at event {place}: {error}.", "file") from error
    refuse_more(file.model_copy(update={"events": [stored(event) for event in events]}))
    return file, events


def import_job(workshop: Workshop, raw: bytes) -> Answer:
    """Store the job in a file, with its photos where they are in it, under its own number, or the
    next one when that is taken. Raises BadValue, Refused.

    Every event is put through the rules in order, readings are judged again here, and the whole job
    is worked out before anything is stored; what breaks them is refused whole.
    """
    held = unpacked(raw, MOST_JOB_BYTES) if raw.startswith(BEGINS) else Unpacked(raw, {})
    file, events = read_job_file(held.job)
    named = photos_in(file)
    events = replayed(workshop, _renamed(events, held.photos))
    here = workshop.log.job_of(events[0].id)
    if here is not None:
        raise Refused(f"This job is here already, as {here}.", "file")
    answer = foreseen(workshop, file.number, events)
    summary = summary_of(workshop, answer)
    for name in named:
        if name in held.photos:
            workshop.photos.keep(held.photos[name])
    try:
        number = workshop.log.create(events, file.number, summary)
    except TakenId:
        try:
            number = workshop.log.create(events, None, summary)
        except TakenId as error:
            raise Refused(
                "Some of this job's events are here already, on another job.", "file"
            ) from error
    answer = replace(answer, number=number)
    keep(workshop, answer)
    return answer


def _renamed(events: list[Event], photos: dict[str, bytes]) -> list[Event]:
    """Return events that speak of their photos as those are named once they were drawn anew."""
    found = []
    for event in events:
        drawn = photos.get(getattr(event.body, "photo", ""))
        if drawn is not None:
            body = event.body.model_copy(update={"photo": name_of(drawn)})
            event = event.model_copy(update={"body": body})
        found.append(event)
    return found


def replayed(workshop: Workshop, events: list[Event]) -> list[Event]:
    """Return the events of a file with their readings judged here, each put through the rules in
    order.

    Raises BadValue naming the event that breaks them.
    """
    try:
        machine = machine_of(workshop, events)
        fold(events)
    except (BrokenLog, NotFound) as error:
        raise BadValue(f"The file is not a whole job: {error}", "file") from error
    if len({event.id for event in events}) != len(events):
        raise BadValue("Two events of the file have the same id, expected each once.", "file")
    _believable(workshop, machine, events[0])
    taken: list[Event] = [events[0]]
    here = machine_of(workshop, taken)
    for place, job in enumerate(folds(events, machine.charge is not None), start=2):
        event = events[place - 1]
        if isinstance(taken[-1].body, Rebased | Withdrawn):
            here = machine_of(workshop, taken)
        try:
            body = event.body
            if isinstance(body, Checked) and body.reading is not None:
                body = judged(workshop, job, here, body)
            possible(job, here, body)
        except (JobRefusal, AppError) as error:
            raise BadValue(
                f"Event {place} of the file could not have happened: {error}", "file"
            ) from error
        taken.append(event.model_copy(update={"body": body}))
    return taken


def _believable(workshop: Workshop, machine: MachineType, first: Event) -> None:
    """Refuse odds that no shop's history can have given: of unknown faults, or beyond the engine's
    bounds."""
    engine = workshop.shelf.tables.engine
    odds = first.body.odds if isinstance(first.body, Opened) else {}
    for fault, scale in odds.items():
        if fault not in machine.faults:
            raise BadValue(f"The file is broken at odds: found the fault {shown(fault)}.", "file")
        if not engine.history_least <= scale <= engine.history_most:
            expected = f"{engine.history_least:g} to {engine.history_most:g}"
            raise BadValue(
                f"The file is broken at odds: found {scale:g} for {fault}, expected {expected}.",
                "file",
            )


def _json(raw: bytes) -> Any:
    refuse_large(raw)
    return json_of(raw, MOST_ITEMS, "file", "a job exported by Bottega")


def _broken(where: str, error: ValidationError) -> BadValue:
    first = error.errors()[0]
    key = ".".join(str(part) for part in first["loc"])
    return BadValue(f"The file is broken at {where}{key}: {first['msg'].lower()}.", "file")
