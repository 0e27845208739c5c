"""Jobs out and in: the whole job as JSON, the same screens in an empty shop."""

import json
from typing import Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from bottega.app.bench import refresh
from bottega.app.diagnosing import Answer, diagnose, machine_of, read_events
from bottega.app.errors import BadValue, Refused
from bottega.app.workshop import Workshop
from bottega.core.job.events import Event
from bottega.core.job.job import BrokenLog, fold
from bottega.core.job.rules import JobRefusal, allow
from bottega.store.log import LogMoved

FORMAT = "bottega-job"
VERSION = 1
MAX_BYTES = 2_000_000


class JobFile(BaseModel):
    """An exported job: its number, the library revision it was diagnosed with, and its whole log."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["bottega-job"] = FORMAT
    version: int = Field(default=VERSION, ge=1)
    number: str = Field(pattern=r"^[0-9A-Za-z-]{1,12}$")
    exported_at: AwareDatetime
    library_revision: str = ""
    events: list[Event] = Field(min_length=1, max_length=600)


def export_job(workshop: Workshop, number: str) -> JobFile:
    """Return a job's file. Raises NotFound."""
    events = read_events(workshop, number)
    machine = machine_of(workshop, events)
    return JobFile(number=number, exported_at=workshop.now(), library_revision=machine.revision, events=events)


def read_job_file(raw: bytes) -> JobFile:
    """Return the job in a file. Raises BadValue for one that is cut, newer, too large, or not a job."""
    if len(raw) > MAX_BYTES:
        raise BadValue(f"The file has {len(raw)} bytes, expected at most {MAX_BYTES}.", "file")
    try:
        data: Any = json.loads(raw)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        where = f" at line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise BadValue(f"The file is cut or is not JSON{where}; expected a job exported by Bottega.", "file") from error
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadValue("The file is JSON but not a job; expected one exported by Bottega.", "file")
    if isinstance(data.get("version"), int) and data["version"] > VERSION:
        raise BadValue(
            f"The file is of version {data['version']}, this Bottega reads up to {VERSION}. Update it first.", "file"
        )
    try:
        return JobFile.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        key = ".".join(str(part) for part in first["loc"])
        raise BadValue(f"The file is broken at {key}: {first['msg'].lower()}.", "file") from error


def import_job(workshop: Workshop, raw: bytes) -> Answer:
    """Store the job in a file under its own number, or the next one when that is taken. Raises BadValue, Refused.

    Every event is put through the rules in order first; a job that breaks them is refused whole.
    """
    file = read_job_file(raw)
    replay(workshop, file)
    known = {event.id for event in file.events}
    for number in workshop.log.numbers():
        if any(workshop.log.has_event(number, event_id) for event_id in list(known)[:1]):
            raise Refused(f"This job is here already, as {number}.", "file")
    taken = file.number in workshop.log.numbers()
    number = workshop.log.next_number() if taken else file.number
    try:
        workshop.log.create(number, file.events)
    except LogMoved as error:
        raise Refused("Some of this job's events are here already, on another job.", "file") from error
    answer = diagnose(workshop, number)
    refresh(workshop, answer)
    return answer


def replay(workshop: Workshop, file: JobFile) -> None:
    """Put every event of a file through the rules. Raises BadValue naming the event that breaks them."""
    try:
        fold(file.events)
        machine_of(workshop, file.events)
    except BrokenLog as error:
        raise BadValue(f"The file is not a whole job: {error}.", "file") from error
    if len({event.id for event in file.events}) != len(file.events):
        raise BadValue("Two events of the file have the same id, expected each once.", "file")
    for place in range(1, len(file.events)):
        before = file.events[:place]
        machine = machine_of(workshop, before)
        try:
            allow(fold(before, machine.charge is not None), machine, file.events[place].body)
        except JobRefusal as error:
            raise BadValue(f"Event {place + 1} of the file could not have happened: {error}", "file") from error
