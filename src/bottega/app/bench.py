"""The bench: every job by what it waits for, from summaries that are rebuilt from the log whenever they are old."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from bottega.app.diagnosing import Answer, diagnose
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.words import suspicion
from bottega.core.job.proofs import STATIONS, current_station, owed
from bottega.store.log import Summary

LANES = (
    ("person", "Waits for a hand"),
    ("part", "Waits for a part"),
    ("clock", "Soaks, cures, runs"),
    ("customer", "Waits for the customer"),
    ("recheck", "To be looked at again"),
    ("closed", "Handed over"),
)


@dataclass(frozen=True)
class BenchSheet:
    """One job as pinned on the bench."""

    number: str
    machine: str
    archetype: str
    drawing: str
    place: str
    station: str
    lane: str
    headline: str
    chance: float | None
    next_step: str
    minutes: float | None
    until: str | None
    note: str
    marks: dict[str, str]
    """Suspicion by component, for the small drawing."""
    words: str


def refresh(workshop: Workshop, answer: Answer) -> Summary:
    """Compute and keep the summary of a job."""
    summary = Summary(answer.number, answer.seq, summarise(answer))
    workshop.log.keep_summary(summary)
    return summary


def bench(workshop: Workshop) -> list[BenchSheet]:
    """Return all jobs, newest first; a summary older than its log is made again."""
    kept, positions = workshop.log.summaries(), workshop.log.positions()
    sheets = []
    for number in workshop.log.numbers():
        summary = kept.get(number)
        if summary is None or summary.seq != positions.get(number):
            summary = refresh(workshop, diagnose(workshop, number))
        sheets.append(BenchSheet(number=number, **summary.body))
    return sheets


def search(sheets: list[BenchSheet], words: str) -> list[BenchSheet]:
    """Return the sheets that hold every word searched for."""
    wanted = words.lower().split()
    return [sheet for sheet in sheets if all(word in f"{sheet.number} {sheet.words}".lower() for word in wanted)]


def next_ferry(today: date, ferry_days: tuple[int, ...]) -> date | None:
    """Return the next day after ``today`` on which parts arrive, or None when the shop has no such days."""
    for ahead in range(1, 8):
        if (today + timedelta(days=ahead)).weekday() in ferry_days:
            return today + timedelta(days=ahead)
    return None


def summarise(answer: Answer) -> dict[str, Any]:
    """Return what the bench shows of a job, as plain data."""
    job, machine = answer.job, answer.machine
    station = current_station(job, machine)
    fault, chance = answer.ranking[0]
    again = min((recheck.on for recheck in job.rechecks.values()), default=None)
    lane = "person" if job.waiting is None else job.waiting.on
    if job.handed_over:
        lane = "recheck" if again else "closed"
    headline, shown = _headline(answer, fault, chance)
    step = answer.plan.next
    if job.handed_over:
        next_step, minutes = "Nothing more to do", None
    elif job.repairs:
        debts = [debt for debt in owed(job, machine) if not debt.settled]
        next_step, minutes = (debts[0].name if debts else "Hand it over"), None
    elif job.decided:
        next_step, minutes = dict(STATIONS)[station], None
    else:
        next_step, minutes = (step.check.name, step.minutes) if step else ("Decide", None)
    components = answer.belief.component_now()
    return {
        "machine": machine.title,
        "archetype": machine.archetype,
        "drawing": machine.drawing,
        "place": job.opened.place,
        "station": station,
        "lane": lane,
        "headline": headline,
        "chance": shown,
        "next_step": next_step,
        "minutes": minutes,
        "until": _until(job.waiting.until if job.waiting else again if job.handed_over else None),
        "note": job.waiting.note if job.waiting else "Look again" if lane == "recheck" else "",
        "marks": {}
        if job.handed_over
        else {c: suspicion(p) for c, p in components.items() if suspicion(p) not in ("none", "faint")},
        "words": " ".join(
            [machine.title, machine.about, job.opened.place, job.opened.customer, headline, next_step]
            + ([job.complaint.text] if job.complaint else [])
            + (list(job.panel.codes) if job.panel else [])
        ),
    }


def _until(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _headline(answer: Answer, fault: str, chance: float) -> tuple[str, float | None]:
    job, machine = answer.job, answer.machine
    if job.repairs:
        return machine.repairs[job.repairs[-1].repair].name, None
    if job.decided and job.decided.choice != "repair":
        words = {"refer": "Referred", "replace": "To be replaced", "nothing_wrong": "Nothing wrong found"}
        return words[job.decided.choice], None
    return f"{machine.component_of(fault).name.capitalize()}: {machine.faults[fault].name}", chance
