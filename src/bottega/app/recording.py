"""Write what happened into a job's log: checked by the rules, once, and only on top of what its author had seen."""

from typing import Any

from pydantic import TypeAdapter, ValidationError

from bottega.app.bench import refresh
from bottega.app.diagnosing import Answer, diagnose, machine_of, read_events
from bottega.app.errors import BadValue, Refused, Stale
from bottega.app.measuring import judged
from bottega.app.workshop import Workshop
from bottega.core.job.events import AnyBody, Checked, Event, Rebased, Withdrawn
from bottega.core.job.job import fold
from bottega.core.job.rules import JobRefusal, allow
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.store.log import LogMoved

_BODY: TypeAdapter[AnyBody] = TypeAdapter(AnyBody)


def record(
    workshop: Workshop,
    number: str,
    body: AnyBody,
    author: str,
    event_id: str,
    seen: int | None = None,
) -> Answer:
    """Append one event and return the job's new answer. The same event id again changes nothing.

    ``seen`` is how many events the author had before them; when the log has moved on since, Stale is raised and
    nothing is written. Raises NotFound, Refused, BadValue, Stale.
    """
    event = _event(workshop, body, author, event_id)
    events = read_events(workshop, number)
    if any(known.id == event.id for known in events):
        return diagnose(workshop, number)
    if seen is not None and seen != len(events):
        raise Stale(_moved(len(events) - seen))
    machine = machine_of(workshop, events)
    job = fold(events, machine.charge is not None)
    if isinstance(body, Checked) and body.reading is not None:
        event = event.model_copy(update={"body": judged(workshop, job, machine, body)})
    if isinstance(body, Rebased):
        machine = _moved_to(workshop, machine, body)
    try:
        allow(job, machine, event.body)
    except JobRefusal as error:
        raise Refused(str(error), error.field) from error
    try:
        workshop.log.append(number, event, len(events))
    except LogMoved as error:
        raise Stale(_moved(max(1, error.seq - len(events)))) from error
    answer = diagnose(workshop, number)
    refresh(workshop, answer)
    workshop.bell.ring(number, answer.seq, author)
    return answer


def parse_body(raw: dict[str, Any]) -> AnyBody:
    """Return the body of an event from plain data. Raises BadValue with the field and what was expected."""
    try:
        return _BODY.validate_python(raw)
    except ValidationError as error:
        first = error.errors()[0]
        where = [str(part) for part in first["loc"] if part != raw.get("kind")]
        found = "nothing" if first["type"] == "missing" else repr(first["input"])[:60]
        field = where[-1] if where else "kind"
        raise BadValue(f"Found {found} for {field.replace('_', ' ')}: {first['msg'].lower()}.", field) from error


def undo(workshop: Workshop, number: str, author: str, event_id: str, seen: int | None = None) -> Answer:
    """Withdraw the newest event that may be withdrawn. Raises Refused when there is none."""
    events = read_events(workshop, number)
    if any(known.id == event_id for known in events):
        return diagnose(workshop, number)
    last = fold(events).last_to_withdraw()
    if last is None:
        raise Refused("There is nothing to withdraw but the opening of the job.")
    return record(workshop, number, Withdrawn(event=last.id), author, event_id, seen)


def _moved_to(workshop: Workshop, machine: MachineType, body: Rebased) -> MachineType:
    """Return the machine type as it was, once the sheet moved to is known to fit it. Raises BadValue."""
    try:
        target = workshop.machine(machine.archetype, body.sheet or machine.sheet)
    except UnknownMachine as error:
        raise BadValue(f"Found the sheet '{body.sheet}', expected one of the library: {error}.", "sheet") from error
    if target is machine:
        raise Refused("The job is diagnosed with this sheet already.", "revision")
    if body.revision != target.revision:
        raise BadValue(f"Found revision '{body.revision}', expected the present one, {target.revision}.", "revision")
    return machine


def _event(workshop: Workshop, body: AnyBody, author: str, event_id: str) -> Event:
    try:
        return Event(id=event_id, at=workshop.now(), author=author, body=body)
    except ValidationError as error:
        first = error.errors()[0]
        field = str(first["loc"][0])
        raise BadValue(f"Found {first['input']!r} for {field}: {first['msg'].lower()}.", field) from error


def _moved(count: int) -> str:
    things = "one thing has" if count == 1 else f"{count} things have"
    return f"Since this form was opened {things} been noted on the job. Nothing of yours was written; look at what is new and send it again."
