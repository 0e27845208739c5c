"""The ledger: every event of a job in a sentence, with its weight for the fault in question."""

from dataclasses import dataclass
from datetime import datetime

from bottega.app.diagnosing import Answer
from bottega.core.diagnosis.explain import Weight
from bottega.core.job.events import (
    AnyBody,
    CauseClosed,
    Checked,
    CodesCleared,
    Complained,
    Decided,
    HandedOver,
    Marked,
    Noted,
    Opened,
    PanelRead,
    Proved,
    PutBack,
    Rebased,
    Recheck,
    Repaired,
    SetAside,
    StateChanged,
    Temporary,
    TookOff,
    Waiting,
    Waived,
    Withdrawn,
)
from bottega.core.job.job import Job
from bottega.core.job.proofs import PROOF_NAMES
from bottega.core.library.machine_type import MachineType

SHOWN_DB = 0.5


@dataclass(frozen=True)
class LedgerRow:
    """One event: what was done, what came of it, and its weight in decibans (None when it carries none)."""

    event_id: str
    seq: int
    at: datetime
    author: str
    what: str
    detail: str
    decibans: float | None
    withdrawn: bool
    superseded: bool
    """Whether the same check was answered again later, in the same epoch."""
    removable: bool
    mono: bool


def ledger(answer: Answer, fault: str | None = None) -> list[LedgerRow]:
    """Return the rows of a job's ledger in order, weighed for ``fault`` or the leading one."""
    found = answer.weights(fault)
    rows, older = [], superseded(answer.job)
    for seq, entry in enumerate(answer.job.entries, start=1):
        event = entry.event
        what, detail = describe(answer.machine, event.body)
        own = [w for w in found if w.finding.id == event.id or w.finding.id.startswith(event.id + ":")]
        rows.append(
            LedgerRow(
                event_id=event.id,
                seq=seq,
                at=event.at,
                author=event.author,
                what=what,
                detail=detail,
                decibans=None if entry.withdrawn or not own else round(sum(w.decibans for w in own), 1),
                withdrawn=entry.withdrawn,
                superseded=event.id in older,
                removable=not entry.withdrawn and not isinstance(event.body, Opened),
                mono=isinstance(event.body, Checked) and event.body.reading is not None,
            )
        )
    return rows


def superseded(job: Job) -> set[str]:
    """Return the ids of the checks that were answered again later in their epoch."""
    last = {(entry.epoch, body.check): entry.event.id for entry, body in job.checked()}
    return {entry.event.id for entry, body in job.checked() if last[entry.epoch, body.check] != entry.event.id}


def not_mentioned(found: list[Weight]) -> float:
    """Return what the customer's silence weighs in all, in decibans."""
    return round(sum(w.decibans for w in found if w.finding.answer == "not mentioned"), 1)


def describe(machine: MachineType, body: AnyBody) -> tuple[str, str]:
    """Return an event as (what was done, what came of it) in a technician's words."""
    match body:
        case Opened():
            return "Job taken", f"{machine.title}, {body.age_years:g} years, {body.place}"
        case Complained():
            says = [machine.complaints[c].record.says.lower() for c in body.said if c in machine.complaints]
            return f"Customer: “{body.text}”", "; ".join(says) or "no known phrase in it"
        case StateChanged():
            return _state_words(body)
        case TookOff():
            return _operation(machine, body.operation), "done"
        case PutBack():
            return f"Put back: {_lower(_operation(machine, body.operation))}", "done"
        case PanelRead():
            return _panel_words(machine, body)
        case CodesCleared():
            return "Codes cleared", ""
        case Checked():
            return _check_words(machine, body)
        case Marked():
            return _mark_words(machine, body)
        case SetAside():
            why = "cannot be done" if body.why == "cannot" else "not now"
            return _check_name(machine, body.check), f"{why}{': ' + body.reason if body.reason else ''}"
        case Decided():
            return _decided_words(machine, body)
        case Repaired():
            name = machine.repairs[body.repair].name if body.repair in machine.repairs else body.repair
            return name, " · ".join(x for x in (body.part_number, body.note) if x) or "done"
        case Recheck():
            name = machine.repairs[body.repair].name if body.repair in machine.repairs else body.repair
            why = "a temporary cure" if body.why == "temporary" else "a cure nobody can explain"
            return f"Look again on {body.on:%a %d %b}: {_lower(name)}", why + (f" · {body.note}" if body.note else "")
        case Proved():
            return PROOF_NAMES[body.proof], ("well" if body.went == "well" else "badly") + (
                f", {body.note}" if body.note else ""
            )
        case CauseClosed():
            fault = machine.faults.get(body.fault)
            return f"What made it fail: {fault.name if fault else body.fault}", body.answer
        case Waived():
            return f"Waived: {waived_name(machine, body.what)}", body.reason
        case Waiting():
            until = f" until {body.until:%a %d %b}" if body.until else ""
            return ("Waits for nothing" if body.on == "nothing" else f"Waits for the {body.on}{until}"), body.note
        case Temporary():
            return (
                "Undone: " if body.undone else "Temporary: "
            ) + body.what, "" if body.undone else "to be undone before hand-over"
        case Noted():
            return "Note", body.text
        case Rebased():
            return "Newer sheet", f"diagnosed with revision {body.revision} from here on"
        case HandedOver():
            return "Handed over", body.advice
        case Withdrawn():
            return "Withdrawn", body.reason or "an earlier entry"


def waived_name(machine: MachineType, what: str) -> str:
    """Return the name of something that was waived."""
    kind, _, subject = what.partition(":")
    if kind == "proof":
        return PROOF_NAMES.get(subject, subject).lower()
    if kind == "check" and subject in machine.checks:
        return machine.checks[subject].name.lower()
    if kind == "recheck" and subject in machine.repairs:
        return f"a day to look again, {_lower(machine.repairs[subject].name)}"
    if kind == "follow" and subject in machine.faults:
        return f"{machine.component_of(subject).name}, {machine.faults[subject].name}"
    if kind == "cause" and subject in machine.faults:
        return f"what made it fail, {machine.faults[subject].name}"
    return what


def _state_words(body: StateChanged) -> tuple[str, str]:
    words = {
        ("power", "off"): "Plug pulled",
        ("power", "on"): "Plugged in",
        ("taps", "shut"): "Taps shut",
        ("taps", "open"): "Taps opened",
        ("water", "out"): "Water let out",
        ("water", "in"): "Water run in",
        ("charge", "none"): "Stored charge gone",
        ("drum", "empty"): "Drum emptied",
        ("drum", "loaded"): "Drum loaded",
        ("posture", "upright"): "Stood upright",
        ("posture", "tipped"): "Tipped back",
    }
    detail = ""
    if body.measured_v is not None:
        detail = f"measured {body.measured_v:g} V"
    elif body.waited_min is not None:
        detail = f"waited {body.waited_min:g} min"
    return words[(body.what, body.to)], detail


def _panel_words(machine: MachineType, body: PanelRead) -> tuple[str, str]:
    if body.result != "codes":
        return "Panel", "no code stored" if body.result == "none" else "could not be read"
    named = [f"{c} {machine.codes[c].record.name}" if c in machine.codes else c for c in body.codes]
    return "Panel", "; ".join(named)


def _check_words(machine: MachineType, body: Checked) -> tuple[str, str]:
    check = machine.checks.get(body.check)
    outcome = check.outcome(body.outcome) if check else None
    label = outcome.label if outcome else body.outcome
    if body.reading:
        reading = body.reading
        shown = "OL" if reading.amount is None else f"{reading.amount:g} {reading.unit}"
        edge = ", borderline: repeat" if reading.borderline else ""
        label = f"{shown}, {label.lower()} ({reading.low:g} to {reading.high:g}, {reading.grade}){edge}"
    return _check_name(machine, body.check), label + (f" · {body.note}" if body.note else "")


def _mark_words(machine: MachineType, body: Marked) -> tuple[str, str]:
    part = machine.components[body.at].name if body.at in machine.components else body.at
    what = {"rub": "rub marks", "noise": "a noise"}.get(body.what, body.what)
    age = {"live": "live", "old": "an old trail", "unsure": "live or old, not known"}[body.age]
    when = "" if body.phase == "any" else f", in the phase {body.phase}"
    return f"Seen: {what} at the {part}" if body.what != "noise" else f"Heard: {what} at the {part}", (
        (age if body.what != "noise" else "heard") + when + (f" · {body.note}" if body.note else "")
    )


def _decided_words(machine: MachineType, body: Decided) -> tuple[str, str]:
    if body.choice == "repair" and body.repair in machine.repairs:
        what = machine.repairs[body.repair].name
        return f"Decided: {what[0].lower()}{what[1:]}", f"quote {body.total:.2f} {body.currency}"
    words = {"refer": "refer it", "replace": "replace the machine", "nothing_wrong": "nothing wrong with the machine"}
    return f"Decided: {words.get(body.choice, body.choice)}", body.reason


def _check_name(machine: MachineType, check: str) -> str:
    return machine.checks[check].name if check in machine.checks else check


def _operation(machine: MachineType, operation: str) -> str:
    return machine.operations[operation].name if operation in machine.operations else operation


def _lower(text: str) -> str:
    return text[0].lower() + text[1:]
