"""The report: what was wrong, how it was shown, what was done and proved, what stays open."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.decide.decision import not_known
from bottega.app.decide.verdict import verdict_of
from bottega.app.report.words import found_words, proved_words
from bottega.core.diagnosis.evidence import NOT_MENTIONED
from bottega.core.diagnosis.explain import WEAK_DB
from bottega.core.job.events import (
    CauseClosed,
    CodesCleared,
    Recheck,
    Repaired,
    SeatingMeasured,
    Substituted,
)
from bottega.core.job.kinds import told
from bottega.core.job.proofs import Owed, owed
from bottega.core.job.words import expected_shown, reading_shown
from bottega.core.library.machine_type import MachineType
from bottega.core.measure.units import System
from bottega.core.wording import lower_first

REASONS = 8
"""Findings a report names; chosen, half a page."""
SHOWN_FINDINGS = 3
"""Findings the customer reads; chosen, who wants more turns the page."""
DONE = (Repaired, CauseClosed, CodesCleared, Recheck, Substituted, SeatingMeasured)
"""What of a job is told as done."""


@dataclass(frozen=True)
class ReadingLine:
    """One measurement of the report."""

    name: str
    shown: str
    expected: str
    source: str
    after: bool


@dataclass(frozen=True)
class Proof:
    """One thing that was to be proved: in words, and whether it was done, left out, or is open."""

    words: str
    status: str


@dataclass(frozen=True)
class Report:
    """Everything the report says, computed from the job's events."""

    answer: Answer
    verdict: str
    """What was wrong, in a sentence for the customer."""
    shown_by: list[str]
    """What showed it, in the customer's part."""
    reasons: list[tuple[str, float]]
    """The same with its weight in decibans, for technicians."""
    done: list[str]
    readings: list[ReadingLine]
    debts: list[Proof]
    unknown: list[str]
    authors: list[str]


def report_of(answer: Answer, prove_at: float, system: System = "metric") -> Report:
    """Return the report of a job as it stands, with its readings as a shop on this system reads
    them."""
    job, machine = answer.job, answer.machine
    fault = _cause(answer)
    found = sorted(
        (
            w
            for w in answer.weights(fault)
            if w.decibans >= WEAK_DB and w.finding.answer != NOT_MENTIONED
        ),
        key=lambda w: -w.decibans,
    )[:REASONS]
    reasons = [(found_words(machine, w.finding), w.decibans) for w in found]
    verdict = verdict_of(answer, prove_at)
    if verdict.state == "nothing":
        well = [f for f in answer.evidence.findings if f.source.kind == "check" and f.is_well]
        reasons = [(found_words(machine, finding), 0.0) for finding in well]
    done = []
    for entry in job.live:
        if isinstance(entry.body, DONE):
            what, detail = told(machine, entry.body)
            done.append(f"{what}{': ' + detail if detail else ''}")
    debts = [debt for debt in owed(job, machine) if debt.waivable]
    return Report(
        answer=answer,
        verdict=verdict.customer,
        shown_by=[words for words, _ in reasons[:SHOWN_FINDINGS]],
        reasons=reasons,
        done=done,
        readings=_readings(answer, system),
        debts=[_proof(machine, debt) for debt in debts],
        unknown=[*_waived(machine, debts), *([] if job.repairs else not_known(answer))],
        authors=list(dict.fromkeys(event.author for event in job.events)),
    )


def _proof(machine: MachineType, debt: Owed) -> Proof:
    left = f"left out, {debt.waived}" if debt.waived else "not done yet"
    return Proof(proved_words(machine, debt), "done" if debt.done else left)


def _waived(machine: MachineType, debts: list[Owed]) -> list[str]:
    """Return what was waived, with its reason: that is not proved."""
    return [
        f"Left out: {lower_first(proved_words(machine, debt))} ({debt.waived})"
        for debt in debts
        if debt.waived and not debt.done
    ]


def _cause(answer: Answer) -> str:
    """Return the fault the report speaks of: of those a repair was made for the one believed most;
    without a repair the leading one."""
    was, machine = answer.belief.fault_was(), answer.machine
    covered = answer.job.faults_ended(machine)
    return max(covered, key=lambda fault: was[fault], default=answer.leading)


def _readings(answer: Answer, system: System) -> list[ReadingLine]:
    lines = []
    for entry, body in answer.job.checked():
        reading = body.reading
        if reading:
            check = answer.machine.checks.get(body.check)
            source = f"{reading.grade}: {reading.source}"
            if reading.instrument:
                source += f"; with {reading.instrument}"
            lines.append(
                ReadingLine(
                    check.name if check else body.check,
                    reading_shown(reading, system),
                    expected_shown(reading, system),
                    source,
                    entry.epoch > 0,
                )
            )
    return lines
