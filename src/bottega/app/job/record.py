"""Write what happened into a job's log: checked by the rules, once, and only on top of what its
author had seen."""

from dataclasses import replace
from datetime import datetime
from typing import Any

from pydantic import TypeAdapter, ValidationError

from bottega.app.answer import Answer
from bottega.app.decide.decision import refuse_unfounded
from bottega.app.errors import BadValue, Refused, Stale, Unreadable
from bottega.app.job.answer import diagnose, foreseen, keep
from bottega.app.job.room import refuse_full
from bottega.app.job.sent import refuse_other
from bottega.app.job.standing import law_of
from bottega.app.job.summary import summary_of
from bottega.app.measure.electrical import with_limits
from bottega.app.measure.reading import judged
from bottega.app.values import refused
from bottega.app.workshop import Workshop
from bottega.core.job.events import AnyBody, Checked, Decided, Event, Proved, Rebased, Withdrawn
from bottega.core.job.kinds import allow
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law, as_left
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.store.log import LogMoved, TakenId
from bottega.store.summary import Summary

_BODY: TypeAdapter[AnyBody] = TypeAdapter(AnyBody)


def record(
    workshop: Workshop,
    number: str,
    body: AnyBody,
    author: str,
    *,
    event_id: str,
    seen: int | None = None,
) -> Answer:
    """Append one event to a job's log and return the job's new answer. Raises NotFound, and what
    ``record_on`` raises.

    Of a job that cannot be worked out, an entry can only be withdrawn.
    """
    try:
        before = diagnose(workshop, number)
    except Unreadable:
        if not isinstance(body, Withdrawn):
            raise
        return _withdraw_blind(workshop, number, new_event(workshop, body, author, event_id))
    return record_on(workshop, before, body, author, event_id=event_id, seen=seen)


def record_on(
    workshop: Workshop,
    before: Answer,
    body: AnyBody,
    author: str,
    *,
    event_id: str,
    seen: int | None = None,
) -> Answer:
    """Append one event to a job as it was read, and return the job's new answer: the one its page
    shows next. The same event again changes nothing.

    ``seen`` is how many events the author had before them; when the log has moved on since, Stale
    is raised and nothing is written. Raises Refused, BadValue, Stale, Unreadable.
    """
    event = new_event(workshop, body, author, event_id)
    if _has(before, event):
        return before
    refuse_stale(before, event.id, seen)
    event = event.model_copy(update={"body": _allowed(workshop, before, event)})
    answer = foreseen(workshop, before.number, [*before.job.events, event])
    try:
        _append(workshop, before.number, event, before.seq, summary=summary_of(workshop, answer))
    except Stale:
        after = diagnose(workshop, before.number)
        if _has(after, event):  # sent twice at once, and the other was first
            return after
        raise
    keep(workshop, answer)
    workshop.bell.ring(answer.number, answer.seq, author)
    return answer


def _has(answer: Answer, event: Event) -> bool:
    """Return whether an event is in a job's log. Raises Refused where its id is another's."""
    known = _known(answer, event.id)
    if known is not None:
        refuse_other(known.body, event.body)
    return known is not None


def _known(answer: Answer, event_id: str) -> Event | None:
    """Return the event of a job's log that has an id, or None."""
    return next((event for event in answer.job.events if event.id == event_id), None)


def refuse_stale(before: Answer, event_id: str, seen: int | None) -> None:
    """Raise Stale where the log has moved on since ``seen`` events, unless this entry is in it."""
    if seen is not None and seen != before.seq and _known(before, event_id) is None:
        raise Stale(_moved(before.seq - seen))


def parse_body(raw: dict[str, Any]) -> AnyBody:
    """Return the body of an event from plain data. Raises BadValue with the field and what was
    expected."""
    try:
        return _BODY.validate_python(raw)
    except ValidationError as error:
        raise refused(error, "kind", skip=str(raw.get("kind"))) from error


def undo(
    workshop: Workshop, number: str, author: str, event_id: str, *, seen: int | None = None
) -> Answer:
    """Withdraw the newest event that may be withdrawn. Raises Refused when there is none."""
    before = diagnose(workshop, number)
    known = _known(before, event_id)
    if known is not None:
        if not isinstance(known.body, Withdrawn):
            refuse_other(known.body, Withdrawn(event="the last entry"))
        return before
    last = before.job.last_to_withdraw()
    if last is None:
        raise Refused("There is nothing to withdraw but the opening of the job.")
    return record_on(
        workshop, before, Withdrawn(event=last.id), author, event_id=event_id, seen=seen
    )


def new_event(workshop: Workshop, body: AnyBody, author: str, event_id: str) -> Event:
    """Return an event of this moment. Raises BadValue for an id or an author that cannot be."""
    try:
        return Event(id=event_id, at=workshop.now(), author=author, body=body)
    except ValidationError as error:
        raise refused(error, "event") from error


def _allowed(workshop: Workshop, before: Answer, event: Event) -> AnyBody:
    """Return the body as it may be written: readings judged here. Raises Refused or BadValue when
    it may not."""
    job, machine, body = before.job, before.machine, event.body
    if isinstance(body, Checked) and body.reading is not None:
        body = judged(workshop, job, machine, body)
    if isinstance(body, Proved):
        body = with_limits(workshop, body)
    if isinstance(body, Rebased):
        machine = _moved_to(workshop, machine, body)
    if isinstance(body, Decided):
        refuse_unfounded(workshop, before, body)
    try:
        allow(job, machine, body, _law(workshop, before, event.at))
    except JobRefusal as error:
        raise Refused(str(error), error.field) from error
    return as_left(job, machine, body) if isinstance(body, Checked) else body


def why_not(workshop: Workshop, answer: Answer, body: AnyBody, at: datetime) -> str:
    """Return why a command would be refused at a moment, with the way out; empty where it would
    be taken."""
    try:
        allow(answer.job, answer.machine, body, _law(workshop, answer, at))
    except JobRefusal as refusal:
        return str(refusal)
    return ""


def _law(workshop: Workshop, answer: Answer, at: datetime) -> Law:
    """Return what a command on this job is held against at a moment."""
    return replace(law_of(workshop, answer), at=at)


def _append(
    workshop: Workshop, number: str, event: Event, after_seq: int, *, summary: Summary | None = None
) -> None:
    refuse_full(workshop, number, event)
    try:
        workshop.log.append(number, event, after_seq, summary)
    except LogMoved as error:
        raise Stale(_moved(max(1, error.seq - after_seq))) from error
    except TakenId as error:
        raise Refused(
            "The form's id is that of another entry. Load the page again.", "id"
        ) from error


def _withdraw_blind(workshop: Workshop, number: str, event: Event) -> Answer:
    """Withdraw an event of a job that cannot be worked out, and return what is believed then.

    All that can be checked is that it is there and not the opening. Raises Refused, and Unreadable
    when there is more that does not fit; the withdrawal is written then.
    """
    stored = workshop.log.stored(number)
    target = event.body.event if isinstance(event.body, Withdrawn) else ""
    places = [place for place, kept in enumerate(stored) if kept.id == target]
    if not places or places == [0]:
        raise Refused("Found no such entry but the opening of the job; that stays.", "event")
    _append(workshop, number, event, len(stored))
    return diagnose(workshop, number)


def _moved_to(workshop: Workshop, machine: MachineType, body: Rebased) -> MachineType:
    """Return the machine type as it was, once the sheet moved to is known to fit it. Raises
    BadValue."""
    try:
        target = workshop.machine(machine.archetype, body.sheet or machine.sheet)
    except UnknownMachine as error:
        raise BadValue(
            f"Found the sheet '{body.sheet}', expected one of the library: {error}.", "sheet"
        ) from error
    if target is machine:
        raise Refused("The job is diagnosed with this sheet already.", "revision")
    if body.revision != target.revision:
        raise BadValue(
            f"Found revision '{body.revision}', expected the present one, {target.revision}.",
            "revision",
        )
    return machine


def _moved(count: int) -> str:
    things = "one thing has" if count == 1 else f"{count} things have"
    return (
        f"Since this form was opened {things} been noted on the job. "
        "Nothing of yours was written; look at what is new and send it again."
    )
