"""Take a call: what is being said, what it may be, and the job that comes of it."""

from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from bottega.app.bench import refresh
from bottega.app.diagnosing import Answer, diagnose, diagnose_events
from bottega.app.errors import BadValue, Stale
from bottega.app.history import odds_now
from bottega.app.workshop import Workshop
from bottega.core.job.complaint import Heard, hear
from bottega.core.job.events import Complained, Event, Opened
from bottega.core.job.job import fold
from bottega.core.job.rules import JobRefusal, allow
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.core.worth.quote import visit_band
from bottega.store.log import LogMoved

TRIES = 5


@dataclass(frozen=True)
class Loading:
    """What to take along: parts with the chance they are needed, tools, special tools."""

    parts: tuple[tuple[str, str, float], ...]
    tools: tuple[str, ...]
    special: tuple[str, ...]
    band: tuple[float, float]


def open_job(
    workshop: Workshop,
    opened: dict[str, Any],
    text: str,
    said: list[str],
    author: str,
    event_id: str,
    number: str | None = None,
) -> Answer:
    """Open a job with its complaint and return its answer. The same event id again returns the same job.

    Raises BadValue for anything that cannot be used; then nothing is written.
    """
    for known in workshop.log.numbers():
        if workshop.log.has_event(known, event_id):
            return diagnose(workshop, known)
    machine, body = checked_opening(workshop, opened)
    events = [_event(workshop, event_id, author, body)]
    if text.strip() or said:
        if not said:
            said = [heard.complaint.id for heard in hear(machine, text)]
        complaint = Complained(text=text.strip(), said=tuple(said))
        try:
            allow(fold(events), machine, complaint)
        except JobRefusal as error:
            raise BadValue(str(error), "said") from error
        events.append(_event(workshop, f"{event_id}-c", author, complaint))
    for _ in range(TRIES):
        chosen = number or workshop.log.next_number()
        try:
            workshop.log.create(chosen, events)
        except LogMoved:
            continue
        answer = diagnose(workshop, chosen)
        refresh(workshop, answer)
        return answer
    raise Stale("The job number was taken by somebody else five times running. Send it again.")


def checked_opening(workshop: Workshop, raw: dict[str, Any]) -> tuple[MachineType, Opened]:
    """Return the machine type and the opening. Raises BadValue with the field to put right."""
    sheet = workshop.shelf.sheets.get(raw.get("sheet") or "")
    if sheet and not raw.get("archetype"):
        raw = {**raw, "archetype": sheet.archetype}
    try:
        machine = workshop.machine(raw.get("archetype") or "", raw.get("sheet") or None)
    except UnknownMachine as error:
        raise BadValue(f"Which machine is it? {str(error).capitalize()}.", "machine") from error
    try:
        own = {"sheet": machine.sheet, "revision": machine.revision, "odds": odds_now(workshop, machine)}
        return machine, Opened.model_validate({**raw, **own})
    except ValidationError as error:
        first = error.errors()[0]
        field = str(first["loc"][-1])
        found = "nothing" if first["type"] == "missing" else repr(first["input"])[:60]
        raise BadValue(f"Found {found} for {field.replace('_', ' ')}: {first['msg'].lower()}.", field) from error


def preview(
    workshop: Workshop, opened: dict[str, Any], text: str, said: list[str] | None
) -> tuple[Answer, list[Heard]]:
    """Return the answer a job would have, without storing it, and the phrases heard in the text. Raises BadValue."""
    machine, body = checked_opening(workshop, opened)
    heard = hear(machine, text)
    chosen = said if said is not None else [item.complaint.id for item in heard]
    complaint = Complained(text=text, said=tuple(name for name in chosen if name in machine.complaints))
    events = [_event(workshop, "preview-0", "preview", body), _event(workshop, "preview-1", "preview", complaint)]
    return diagnose_events(workshop, "new", events, workshop.settings), heard


def loading(workshop: Workshop, answer: Answer) -> Loading:
    """Return parts and tools worth loading for a visit, and the price band of the visit in the shop's currency."""
    machine, chances = answer.machine, answer.belief.fault_now()
    parts: dict[str, float] = {}
    for repair in machine.repairs.values():
        if repair.do == "part":
            parts[repair.component] = sum(chances[fault] for fault, _ in repair.covers)
    likely = sorted(((p, c) for c, p in parts.items() if p > 0.06), reverse=True)[:5]
    listed = []
    for chance, component in likely:
        numbers = machine.part_numbers.get(component)
        listed.append((machine.parts[component].name, numbers[-1].number if numbers else "", chance))
    names = [step.check.tool for step in answer.plan.steps[:8]]
    names += [
        machine.operations[s.to].tool
        for step in answer.plan.steps[:4]
        for s in step.reach.steps
        if s.kind == "operation"
    ]
    tools = [workshop.shelf.tables.tools[name] for name in dict.fromkeys(names) if name != "none"]
    band = visit_band(answer.belief, answer.job.state, answer.reaching, workshop.settings)
    return Loading(
        tuple(listed), tuple(t.name for t in tools if not t.special), tuple(t.name for t in tools if t.special), band
    )


def _event(workshop: Workshop, event_id: str, author: str, body: Opened | Complained) -> Event:
    try:
        return Event(id=event_id, at=workshop.now(), author=author, body=body)
    except ValidationError as error:
        first = error.errors()[0]
        raise BadValue(f"Found {first['input']!r}: {first['msg'].lower()}.", str(first["loc"][0])) from error
