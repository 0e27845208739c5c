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
from bottega.core.library.machine_type import Check, MachineType, Mark
from bottega.core.library.tables import EngineTable, Tables
from bottega.core.library.vocabulary import INCONCLUSIVE

HOW_OFTEN = "ask_how_often"
"""The check whose answer a complaint carries with it when the customer says how often."""
ASKED_WHERE, WATCHED_WHERE = "ask_stops_in", "watch_stops_in"
"""The checks of where a programme stops: as the customer tells it, and as it is watched."""


def where_it_stops(machine: MachineType, check: Check) -> str | None:
    """Return the check that takes the answer that a programme never gets as far as ``check``: a
    machine that stops before it heats says nothing of its heating, and much by where it stops.
    None for a check that wants no programme, and on a machine without such a check."""
    name = ASKED_WHERE if check.who == "customer" else WATCHED_WHERE
    wants_a_run = check.who == "customer" or check.needs.power == "on"
    known = machine.checks.get(name)
    return name if known and wants_a_run and known.effect != check.effect else None


def evidence_of(job: Job, machine: MachineType, tables: Tables) -> Evidence:
    """Return the findings and removals of a job's live events. Ids begin with the event's id."""
    gathered = _Gathered(job, machine, tables)
    for entry in job.live:
        gathered.take(entry)
    findings = (*_complaints(gathered.spoken, machine), *gathered.findings)
    return Evidence(findings, tuple(gathered.removals), gathered.bouts.present)


class _Gathered:
    """What a job's entries say, gathered entry by entry: findings, complaints that stand, removals;
    what the board's memory holds, and the bouts of tests."""

    def __init__(self, job: Job, machine: MachineType, tables: Tables) -> None:
        self.job, self.machine, self.tables = job, machine, tables
        self.findings: list[Finding] = []
        self.spoken: list[Spoken] = []
        self.removals: list[Removal] = []
        self.bouts = Bouts(tables.engine.pause_minutes)
        self._memory = Memory()
        self._bout = self._bout_before = self.bouts.present
        self._worked_on: dict[str, list[int]] = {}
        """By component, the epochs that began with work on it."""
        self._taken_out: dict[str, Occasion] = {}
        """By repair, the bout in which the old part was last at work."""

    def take(self, entry: Entry) -> None:
        """Take in one more entry of the log."""
        body = entry.body
        self._bout_before, self._bout = self._bout, self.bouts.of(entry)
        self._memory.follow(entry, self.machine)
        match body:
            case Complained():
                self.spoken = _spoken(self.spoken, entry, body)
            case PanelRead():
                self._read(entry, body)
            case Checked() if _known(self.machine, body):
                self._checked(entry, body)
            case Sighted():
                self._sighted(entry, body)
            case Marked():
                self._marked(entry, body)
            case Repaired():
                self._repaired(entry, body)
            case Proved():
                self._proved(entry, body)
            case _:
                pass

    def _read(self, entry: Entry, body: PanelRead) -> None:
        """Take in a reading of the memory: codes stored since the memory was cleared belong to this
        bout, older ones to the time the customer tells of."""
        found = panel_findings(entry, body, self.machine, self.tables, memory=self._memory)
        kept = self._bout if entry.since_clear else told_to_us(entry.epoch)
        self.findings += [finding.on(kept) for finding in found]
        self._memory.stored |= stored_codes(body, self.machine)

    def _checked(self, entry: Entry, body: Checked) -> None:
        """Take in a check. A check of an old part speaks of the bout in which that part was at
        work."""
        check = self.machine.checks[body.check]
        if check.watches:
            began = self.bouts.begin()
            showed = _watched(entry, body, self.job, self.machine, engine=self.tables.engine)
            self.findings += [finding.on(began) for finding in showed]
            return
        weights = body.reading.weights if body.reading else None
        before = self._worked_on.get(check.component, ())
        since = max((epoch for epoch in before if epoch <= entry.epoch), default=0)
        finding = answered(
            entry.event.id, check, body.outcome, entry.epoch, weights=weights, unchanged_since=since
        )
        seen_on = self._taken_out.get(body.old_part_of)
        self.findings.append(finding.on(seen_on or self.bouts.check(check, entry.epoch)))

    def _sighted(self, entry: Entry, body: Sighted) -> None:
        sight = self.machine.looked_at(body.fault)
        if sight is not None:
            check, outcome = sight
            finding = answered(entry.event.id, check, outcome.id, entry.epoch)
            self.findings.append(finding.on(self._bout))

    def _marked(self, entry: Entry, body: Marked) -> None:
        """Take in a mark: an old trail speaks of all the runs there were, a live one of this
        bout."""
        seen = told_to_us(entry.epoch) if body.age == "old" else self._bout
        self.findings += [
            seen_at(
                entry.event.id,
                mark,
                body.age,
                body.phase,
                epoch=entry.epoch,
                table=self.tables.marks,
            ).on(seen)
            for mark in marks_at(self.machine, body.what, body.at)
        ]

    def _repaired(self, entry: Entry, body: Repaired) -> None:
        """Take in a repair. One that the library no longer knows takes no fault away, and begins an
        epoch all the same."""
        repair = self.machine.repairs.get(body.repair)
        if repair is None:
            self.removals.append(Removal(entry.epoch, frozenset(), 1.0))
            return
        self._taken_out[entry.event.id] = self._bout_before
        covered = {self.machine.faults[fault].component for fault, _ in repair.covers}
        for component in {repair.component, *covered}:
            self._worked_on.setdefault(component, []).append(entry.epoch + 1)
        success = min(chance for _, chance in repair.covers)
        faults = frozenset(fault for fault, _ in repair.covers)
        self.removals.append(Removal(entry.epoch, faults, success))

    def _proved(self, entry: Entry, body: Proved) -> None:
        engine = self.tables.engine
        if body.proof == "run":
            found = _run(entry, body, self.job, self.machine, engine=engine)
        elif body.proof == "calibration":
            found = calibrated(entry, body, self.machine, engine)
        else:
            return
        self.findings += [finding.on(self._bout) for finding in found]


def _known(machine: MachineType, body: Checked) -> bool:
    """Return whether the library still knows a check and all it answered."""
    check = machine.checks.get(body.check)
    weights = body.reading.weights if body.reading else None
    if check is not None and weights and body.outcome == INCONCLUSIVE:
        return all(check.outcome(name) for name in weights)
    return check is not None and all(check.outcome(n) for n in (body.outcome, *(weights or ())))


def marks_at(machine: MachineType, what: str, at: str) -> list[Mark]:
    """Return the library's marks of this kind at a component; empty where the library knows of
    none."""
    return [
        mark for mark in machine.marks.values() if mark.record.kind == what and mark.record.at == at
    ]


Spoken = tuple[str, int, Complained]
"""A complaint that stands: the event it was noted by, the epoch it speaks of, what was said."""


def _spoken(before: list[Spoken], entry: Entry, body: Complained) -> list[Spoken]:
    """Return the complaints that stand after one more, each with the epoch it speaks of. A
    complaint that adds to the earlier ones stands beside them; any other takes their place."""
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
    """Return findings for phrases that a whole complaint leaves out and that the customer could
    hardly have missed. A complaint that only adds to an earlier one is not whole."""
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
    entry: Entry, body: Proved, job: Job, machine: MachineType, *, engine: EngineTable
) -> list[Finding]:
    """Take in a watched run: it shows of every effect a customer could complain of whether the
    effect is bad, and most surely of those complained of. A run that goes badly and names
    nothing speaks of all that was complained of."""
    said = job.complaint.said if job.complaint else ()
    seen = (body.still or said) if body.went == "badly" else ()
    return _shown(entry, said, seen, machine, engine=engine, others="by the way")


def _watched(
    entry: Entry, body: Checked, job: Job, machine: MachineType, *, engine: EngineTable
) -> list[Finding]:
    """Take in a run through every function: it shows the same effects as a run after a repair, and
    looks at each in its turn."""
    said = job.complaint.said if job.complaint else ()
    well = body.outcome == machine.checks[body.check].outcomes[0].id
    return _shown(
        entry, said, () if well else body.showed or said, machine, engine=engine, others="in turn"
    )


def _shown(
    entry: Entry,
    said: tuple[str, ...],
    seen: tuple[str, ...],
    machine: MachineType,
    *,
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
            epoch=entry.epoch,
            engine=engine,
            look="complained of" if effect in complained else others,
        )
        for effect in machine.noticeable
    ]
