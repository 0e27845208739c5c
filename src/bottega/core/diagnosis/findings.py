"""From a job's events to evidence for the engine."""

from bottega.core.diagnosis.board_memory import Memory, calibrated, panel_findings, stored_codes
from bottega.core.diagnosis.bouts import Bouts
from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Look,
    Occasion,
    Removal,
    answered,
    denied,
    not_said,
    said,
    seen_at,
    told_to_us,
    watched,
)
from bottega.core.job.events import (
    Checked,
    Complained,
    Marked,
    PanelRead,
    Proved,
    Repaired,
    Sighted,
)
from bottega.core.job.job import Entry, Job
from bottega.core.library.machine_type import MachineType, Mark
from bottega.core.library.tables import EngineTable, Tables
from bottega.core.library.vocabulary import INCONCLUSIVE

HOW_OFTEN = "ask_how_often"
"""The check whose answer a complaint carries with it when the customer says how often."""


def evidence_of(job: Job, machine: MachineType, tables: Tables) -> Evidence:
    """Return the findings and removals of a job's live events. Ids begin with the event's id."""
    findings: list[Finding] = []
    spoken: list[Spoken] = []
    removals: list[Removal] = []
    memory = Memory()
    worked_on: dict[str, list[int]] = {}
    bouts = Bouts(tables.engine.pause_minutes)
    taken_out: dict[str, Occasion] = {}
    bout = bouts.present
    for entry in job.live:
        body = entry.event.body
        bout_before, bout = bout, bouts.of(entry)
        memory.follow(entry, machine)
        match body:
            case Complained():
                spoken = _spoken(spoken, entry, body)
            case PanelRead():
                found = panel_findings(entry, body, machine, tables, memory)
                kept = bout if entry.since_clear else told_to_us(entry.epoch)
                findings += [finding.on(kept) for finding in found]
                memory.stored |= stored_codes(body, machine)
            case Checked() if _known(machine, body):
                check = machine.checks[body.check]
                weights = body.reading.weights if body.reading else None
                if check.watches:
                    began = bouts.begin()
                    showed = _watched(entry, body, job, machine, tables.engine)
                    findings += [finding.on(began) for finding in showed]
                    continue
                before = worked_on.get(check.component, ())
                since = max((epoch for epoch in before if epoch <= entry.epoch), default=0)
                finding = answered(entry.event.id, check, body.outcome, entry.epoch, weights, since)
                seen_on = taken_out.get(body.old_part_of)
                findings.append(finding.on(seen_on or bouts.check(check, entry.epoch)))
            case Sighted():
                sight = machine.looked_at(body.fault)
                if sight is not None:
                    check, outcome = sight
                    finding = answered(entry.event.id, check, outcome.id, entry.epoch)
                    findings.append(finding.on(bout))
            case Marked():
                seen = told_to_us(entry.epoch) if body.age == "old" else bout
                findings += [
                    seen_at(
                        entry.event.id, mark, body.age, body.phase, entry.epoch, tables.marks
                    ).on(seen)
                    for mark in marks_at(machine, body.what, body.at)
                ]
            case Repaired() if body.repair in machine.repairs:
                repair = machine.repairs[body.repair]
                taken_out[entry.event.id] = bout_before
                success = min(chance for _, chance in repair.covers)
                covered = {machine.faults[fault].component for fault, _ in repair.covers}
                for component in {repair.component, *covered}:
                    worked_on.setdefault(component, []).append(entry.epoch + 1)
                removals.append(
                    Removal(entry.epoch, frozenset(fault for fault, _ in repair.covers), success)
                )
            case Repaired():
                removals.append(Removal(entry.epoch, frozenset(), 1.0))
            case Proved() if body.proof == "run":
                found = _run(entry, body, job, machine, tables.engine)
                findings += [finding.on(bout) for finding in found]
            case Proved() if body.proof == "calibration":
                findings += [
                    finding.on(bout) for finding in calibrated(entry, body, machine, tables.engine)
                ]
            case _:
                pass
    complaints = _complaints(spoken, machine)
    return Evidence((*complaints, *findings), tuple(removals), bouts.present)


def _known(machine: MachineType, body: Checked) -> bool:
    """Return whether the library still knows a check and all it answered."""
    check = machine.checks.get(body.check)
    weights = body.reading.weights if body.reading else None
    if check is not None and weights and body.outcome == INCONCLUSIVE:
        return all(check.outcome(name) for name in weights)
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
    often: dict[int, Finding] = {}
    for event, epoch, body in spoken:
        for names, finding_of in ((body.said, said), (body.well, denied)):
            for complaint in (machine.complaints[n] for n in names if n in machine.complaints):
                found[epoch, complaint.id] = finding_of(event, complaint, epoch)
        asked = machine.checks.get(HOW_OFTEN)
        if body.often and asked is not None:
            often[epoch] = answered(event, asked, body.often, epoch)
    told = [*found.values(), *_silence(spoken, found, machine), *often.values()]
    return [finding.on(told_to_us(finding.epoch)) for finding in told]


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


def _run(
    entry: Entry, body: Proved, job: Job, machine: MachineType, engine: EngineTable
) -> list[Finding]:
    """A watched run shows of everything a customer could complain of whether it is so; what was
    complained of is looked at most closely. One that goes badly and names nothing speaks of all
    that was complained of."""
    said = job.complaint.said if job.complaint else ()
    seen = (body.still or said) if body.went == "badly" else ()
    return _shown(entry, said, seen, machine, engine, "by the way")


def _watched(
    entry: Entry, body: Checked, job: Job, machine: MachineType, engine: EngineTable
) -> list[Finding]:
    """A run through every function shows the same as one after a repair, and looks at each in its
    turn."""
    said = job.complaint.said if job.complaint else ()
    well = body.outcome == machine.checks[body.check].outcomes[0].id
    return _shown(entry, said, () if well else body.showed or said, machine, engine, "in turn")


def _shown(
    entry: Entry,
    said: tuple[str, ...],
    seen: tuple[str, ...],
    machine: MachineType,
    engine: EngineTable,
    others: Look,
) -> list[Finding]:
    """Return what a watched run showed: the phrases ``seen`` were so, and nothing else was;
    ``others`` is how what nobody complained of was looked at."""

    phrases = machine.complaints
    bad, complained = (
        {phrases[name].effect for name in names if name in phrases} for names in (seen, said)
    )
    return [
        watched(
            entry.event.id,
            effect,
            len(machine.effects[effect].states),
            effect in bad,
            entry.epoch,
            engine,
            "complained of" if effect in complained else others,
        )
        for effect in machine.noticeable
    ]
