"""The report: what was wrong, how it was shown, what was done and proved, what stays open."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.decide.decision import not_known
from bottega.core.diagnosis.evidence import Finding
from bottega.core.diagnosis.explain import WEAK_DB
from bottega.core.diagnosis.words import check_of, fault_title, finding_words, percent
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
from bottega.core.measure.units import System

REASONS = 8
"""Findings a report names; chosen, half a page."""
SHOWN = 3
"""Findings the customer reads; chosen, who wants more turns the page."""
SURE = 0.9
"""From what probability the report says what was wrong without a figure; chosen."""
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
    debts: list[Owed]
    unknown: list[str]
    authors: list[str]


def report_of(answer: Answer, system: System = "metric") -> Report:
    """Return the report of a job as it stands, with its readings as a shop on this system reads
    them."""
    job, machine = answer.job, answer.machine
    fault = _cause(answer)
    was = answer.belief.fault_was()[fault]
    found = sorted(
        (w for w in answer.weights(fault) if w.decibans >= WEAK_DB), key=lambda w: -w.decibans
    )[:REASONS]
    reasons = [(_reason(answer, w.finding), w.decibans) for w in found]
    title = fault_title(machine, fault)
    verdict = f"{title}." if was >= SURE else f"Most likely: {title} ({percent(was)})."
    if job.decided and job.decided.choice == "nothing_wrong":
        verdict = "Nothing wrong with the machine was found." + (
            f" {job.decided.reason}" if job.decided.reason else ""
        )
        normal = [told(machine, body) for _, body in job.checked()]
        reasons = [(f"{what}: {detail}", 0.0) for what, detail in normal]
    done = []
    for entry in job.live:
        if isinstance(entry.event.body, DONE):
            what, detail = told(machine, entry.event.body)
            done.append(f"{what}{': ' + detail if detail else ''}")
    return Report(
        answer=answer,
        verdict=verdict,
        shown_by=[words for words, _ in reasons[:SHOWN]],
        reasons=reasons,
        done=done,
        readings=_readings(answer, system),
        debts=[debt for debt in owed(job, machine) if debt.waivable],
        unknown=[] if job.repairs else not_known(answer),
        authors=list(dict.fromkeys(event.author for event in job.events)),
    )


def _cause(answer: Answer) -> str:
    """Return the fault the report speaks of: of those a repair was made for the one believed most;
    without a repair the leading one."""
    was, machine = answer.belief.fault_was(), answer.machine
    repaired = [r.repair for r in answer.job.repairs if r.repair in machine.repairs]
    covered = [fault for name in repaired for fault, _ in machine.repairs[name].covers]
    return max(covered, key=lambda fault: was[fault], default=answer.leading)


def _reason(answer: Answer, finding: Finding) -> str:
    words = finding_words(answer.machine, finding)
    check = check_of(answer.machine, finding)
    return f"{check.name}: {words.lower()}" if check else words[0].upper() + words[1:]


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
