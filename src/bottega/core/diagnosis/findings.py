"""From a job's events to evidence for the engine."""

from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Removal,
    Source,
    answered,
    denied,
    not_said,
    read_code,
    said,
    seen_at,
    watched,
)
from bottega.core.job.events import Checked, Complained, Marked, PanelRead, Proved, Repaired
from bottega.core.job.job import Entry, Job
from bottega.core.library.machine_type import MachineType, Mark
from bottega.core.library.tables import EngineTable, Tables


def evidence_of(job: Job, machine: MachineType, tables: Tables) -> Evidence:
    """Return the findings and removals of a job's live events. Ids begin with the event's id."""
    findings: list[Finding] = []
    spoken: list[Spoken] = []
    removals: list[Removal] = []
    stored_before: set[str] = set()
    worked_on: dict[str, int] = {}
    for entry in job.live:
        body = entry.event.body
        match body:
            case Complained():
                spoken = _spoken(spoken, entry, body)
            case PanelRead():
                findings += _panel(entry, body, machine, tables.engine, stored_before)
                stored_before |= set(body.codes)
            case Checked() if _known(machine, body):
                check = machine.checks[body.check]
                weights = body.reading.weights if body.reading else None
                since = worked_on.get(check.component, 0)
                findings.append(
                    answered(entry.event.id, check, body.outcome, entry.epoch, weights, since)
                )
            case Marked():
                findings += [
                    seen_at(entry.event.id, mark, body.age, body.phase, entry.epoch, tables.marks)
                    for mark in marks_at(machine, body.what, body.at)
                ]
            case Repaired() if body.repair in machine.repairs:
                repair = machine.repairs[body.repair]
                success = min(chance for _, chance in repair.covers)
                covered = {machine.faults[fault].component for fault, _ in repair.covers}
                worked_on |= dict.fromkeys({repair.component, *covered}, entry.epoch + 1)
                removals.append(
                    Removal(entry.epoch, frozenset(fault for fault, _ in repair.covers), success)
                )
            case Repaired():
                removals.append(Removal(entry.epoch, frozenset(), 1.0))
            case Proved() if body.proof == "run":
                findings += _run(entry, body, job, machine, tables.engine)
            case _:
                pass
    return Evidence((*_complaints(spoken, machine), *findings), tuple(removals))


def _known(machine: MachineType, body: Checked) -> bool:
    """Return whether the library still knows a check and all it answered."""
    check = machine.checks.get(body.check)
    weights = body.reading.weights if body.reading else None
    return check is not None and all(check.outcome(n) for n in (body.outcome, *(weights or ())))


def marks_at(machine: MachineType, what: str, at: str) -> list[Mark]:
    """Return what the library knows of such a mark at a component; empty when it says nothing."""
    return [
        mark for mark in machine.marks.values() if mark.record.kind == what and mark.record.at == at
    ]


Spoken = tuple[str, int, Complained]
"""A complaint that stands: the event it was noted by, the epoch it speaks of, what was said."""


def _spoken(before: list[Spoken], entry: Entry, body: Complained) -> list[Spoken]:
    """Return the complaints that stand after one more: beside those before it when it adds to them,
    else instead of them, and of the epoch they spoke of."""
    if body.adds:
        return [*before, (entry.event.id, entry.epoch, body)]
    epoch = min((epoch for _, epoch, _ in before), default=entry.epoch)
    return [(entry.event.id, epoch, body)]


def _complaints(spoken: list[Spoken], machine: MachineType) -> list[Finding]:
    found: dict[tuple[int, str], Finding] = {}
    for event, epoch, body in spoken:
        for names, finding_of in ((body.said, said), (body.well, denied)):
            for complaint in (machine.complaints[n] for n in names if n in machine.complaints):
                found[epoch, complaint.id] = finding_of(event, complaint, epoch)
    return [*found.values(), *_silence(spoken, found, machine)]


def _silence(
    spoken: list[Spoken], found: dict[tuple[int, str], Finding], machine: MachineType
) -> list[Finding]:
    """Return what a whole complaint does not mention and could hardly have missed; what only adds
    to one is no whole complaint."""
    silent = []
    for event, epoch, body in spoken:
        mentioned = {f.effect for (of, _), f in found.items() if of == epoch}
        if body.adds or not any(name in machine.complaints for name in body.said):
            continue
        silent += [
            not_said(event, complaint, epoch)
            for complaint in machine.complaints.values()
            if complaint.record.hard_to_miss > 0 and complaint.effect not in mentioned
        ]
    return silent


def _panel(
    entry: Entry,
    body: PanelRead,
    machine: MachineType,
    engine: EngineTable,
    stored_before: set[str],
) -> list[Finding]:
    """A code seen before and never cleared is old news; codes missing after a clear say nothing
    until it has run."""
    if body.result == "unreadable":
        if machine.unreadable is None:
            return []
        effect, chances = machine.unreadable
        return [
            Finding(
                entry.event.id,
                Source("panel"),
                effect,
                "unreadable",
                chances,
                engine.codes_repeatability,
                entry.epoch,
            )
        ]
    stale = engine.stale_after_clear if entry.since_clear else None
    found = []
    for code in machine.codes.values():
        stored = code.id in body.codes
        old_news = entry.epoch > 0 and not entry.since_clear
        if old_news and (stored == (code.id in stored_before) or not stored):
            continue
        found.append(
            read_code(entry.event.id, code, stored, entry.epoch, engine.codes_repeatability, stale)
        )
    return found


def _run(
    entry: Entry, body: Proved, job: Job, machine: MachineType, engine: EngineTable
) -> list[Finding]:
    """A watched run shows of each complaint whether it is still so. One that goes badly and names
    none speaks of all."""
    said = job.complaint.said if job.complaint else ()
    known = [machine.complaints[name] for name in said if name in machine.complaints]
    seen_again = {c.effect for c in known if body.went == "badly" and body.names(c.id)}
    return [
        watched(
            entry.event.id,
            effect,
            len(machine.effects[effect].states),
            effect in seen_again,
            entry.epoch,
            engine,
        )
        for effect in dict.fromkeys(complaint.effect for complaint in known)
    ]
