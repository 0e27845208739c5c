"""The summary of a job: what the bench shows of it, made whenever something is noted."""

import logging
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, get_args

from pydantic import TypeAdapter

from bottega.app.answer import Answer
from bottega.app.decide.verdict import Verdict, verdict_of
from bottega.app.errors import AppError, Unreadable
from bottega.app.job.answer import diagnose, position
from bottega.app.job.standing import unsafe_of
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.words import suspicion
from bottega.core.job.causes import spoken_for
from bottega.core.job.events import PanelRead
from bottega.core.job.job import Job
from bottega.core.job.proofs import owed
from bottega.core.job.stations import STATIONS, current_station
from bottega.core.job.washer import washer_keys
from bottega.core.library.machine_type import MachineType
from bottega.core.measure.windings import copper_at_20
from bottega.store.database import StoreUnavailable
from bottega.store.summary import Summary, washer_word

logger = logging.getLogger(__name__)

LaneName = Literal["person", "part", "clock", "customer", "recheck", "unreadable", "closed"]
LANES: dict[LaneName, str] = dict(
    zip(
        get_args(LaneName),
        (
            "Waits for a hand",
            "Waits for a part",
            "Soaks, cures, runs",
            "Waits for the customer",
            "To be looked at again",
            "Cannot be read",
            "Handed over",
        ),
        strict=True,
    )
)
"""What a job can wait for, in the order of the bench."""


@dataclass(frozen=True)
class BenchSheet:
    """One job as pinned on the bench."""

    number: str
    lane: LaneName
    machine: str
    archetype: str
    place: str
    station: str
    headline: str
    chance: float | None
    next_step: str
    minutes: float | None
    until: str | None
    note: str
    marks: dict[str, str]
    """Suspicion by component, for the small drawing."""
    sheet: str = ""
    unlisted: tuple[tuple[str, str], ...] = ()
    """What its panel showed that is in no table of its sheet, each with the name of its photo."""
    washer: tuple[str, ...] = ()
    """Keys of the washer it is, by its label and by its serial."""
    put_right: tuple[str, ...] = ()
    """Faults put right that a check had shown, on a job handed over."""
    good: tuple[tuple[str, float], ...] = ()
    """Readings of parts that proved good, by the check, on a job handed over."""


_SHEET = TypeAdapter(BenchSheet)


def refresh_stale(
    workshop: Workshop, told: Callable[[int, int], None] = lambda done, all_: None
) -> int:
    """Make every summary that is missing or old and return how many; ``told`` hears of the
    progress."""
    stale = workshop.summaries.stale()
    for done, number in enumerate(stale, start=1):
        _keep(workshop, made_now(workshop, number))
        told(done, len(stale))
    return len(stale)


def sheet_of(summary: Summary) -> BenchSheet:
    """Return a summary as it is pinned."""
    return _SHEET.validate_python({**summary.body, "number": summary.number, "lane": summary.lane})


def made_now(workshop: Workshop, number: str) -> Summary:
    """Return the summary of a job as its log stands; of one that cannot be read, with the
    reason."""
    try:
        return summary_of(workshop, diagnose(workshop, number))
    except Unreadable as error:
        return _unreadable(workshop, number, error)


def summary_of(workshop: Workshop, answer: Answer) -> Summary:
    """Return what lists show of a job."""
    job, machine = answer.job, answer.machine
    verdict = verdict_of(answer, workshop.settings.prove_at)
    headline, chance = verdict.title, _told(verdict)
    next_step, minutes = _next_step(workshop, answer)
    lane = lane_of(job)
    again = min((recheck.on for recheck in job.rechecks.values()), default=None)
    until = job.waiting.until if job.waiting else again if job.handed_over else None
    components = answer.belief.component_now()
    marks = {c: suspicion(p) for c, p in sorted(components.items())}
    sheet = BenchSheet(
        number=answer.number,
        lane=lane,
        machine=machine.title,
        archetype=machine.archetype,
        place=job.opened.place,
        station=STATIONS[current_station(job, machine)],
        headline=headline,
        chance=chance,
        next_step=next_step,
        minutes=minutes,
        until=until.isoformat() if until else None,
        note=job.waiting.note if job.waiting else "Look again" if lane == "recheck" else "",
        marks={}
        if job.handed_over
        else {c: m for c, m in marks.items() if m not in ("none", "faint")},
        sheet=machine.sheet or "",
        unlisted=_unlisted(job),
        washer=washer_keys(job, machine.archetype),
        put_right=put_right(job, machine) if job.handed_over else (),
        good=good_readings(job, machine) if job.handed_over else (),
    )
    closed = [e.event.at for e in job.live if e.body == job.handed_over]
    words = (machine.title, machine.about, sheet.place, job.opened.customer, headline, next_step)
    spoken = (job.complaint.text if job.complaint else "", *(job.panel.codes if job.panel else ()))
    return Summary(
        number=answer.number,
        seq=answer.seq,
        lane=lane,
        archetype=machine.archetype,
        closed_at=max(closed, default=None),
        words=" ".join((*words, *spoken, job.label, job.serial, *map(washer_word, sheet.washer))),
        body=_SHEET.dump_python(sheet, mode="json", exclude={"number", "lane"}),
    )


def _unlisted(job: Job) -> tuple[tuple[str, str], ...]:
    bodies = [entry.body for entry in job.live if isinstance(entry.body, PanelRead)]
    return tuple({shown: body.photo for body in bodies for shown in body.unlisted}.items())


def lane_of(job: Job) -> LaneName:
    """Return what a job waits for."""
    if job.handed_over:
        return "recheck" if job.rechecks else "closed"
    return "person" if job.waiting is None or job.waiting.on == "nothing" else job.waiting.on


def put_right(job: Job, machine: MachineType) -> tuple[str, ...]:
    """Return the faults put right on a job that a check had shown."""
    return tuple(f for f in job.faults_ended(machine) if spoken_for(job, machine, f))


def good_readings(job: Job, machine: MachineType) -> tuple[tuple[str, float], ...]:
    """Return the last reading of everything measured that was found as it should be, on parts
    nothing was done to."""
    touched = {repair.component for repair in job.repairs_made(machine)}
    touched |= {machine.faults[fault].component for fault in job.faults_ended(machine)}
    found: dict[str, float] = {}
    for _, body in job.checked():
        check = machine.checks.get(body.check)
        if check is None or check.measure is None or body.reading is None:
            continue
        found.pop(check.id, None)
        amount, outcome = body.reading.amount, check.outcome(body.outcome)
        sound = outcome is not None and outcome.chances[0] == max(outcome.chances)
        settled = sound and not body.reading.borderline and check.component not in touched
        if settled and amount is not None:
            warm = check.measure.copper and body.reading.at is not None
            found[check.id] = copper_at_20(amount, body.reading.at or 0.0) if warm else amount
    return tuple(found.items())


def _keep(workshop: Workshop, summary: Summary) -> None:
    try:
        workshop.summaries.keep(summary)
    except StoreUnavailable as error:
        logger.warning("the summary of job %s was not kept: %s", summary.number, error)


def _unreadable(workshop: Workshop, number: str, error: AppError) -> Summary:
    sheet = BenchSheet(
        number=number,
        lane="unreadable",
        machine="",
        archetype="",
        place="",
        station="",
        headline=str(error)[:300],
        chance=None,
        next_step="Open it to see what is kept",
        minutes=None,
        until=None,
        note="",
        marks={},
    )
    body = _SHEET.dump_python(sheet, mode="json", exclude={"number", "lane"})
    seq = position(workshop, number)
    return Summary(number, seq, "unreadable", "", None, sheet.headline, body)


def _next_step(workshop: Workshop, answer: Answer) -> tuple[str, float | None]:
    job, machine, step = answer.job, answer.machine, answer.plan.next
    if job.handed_over:
        return "Nothing more to do", None
    if unsafe_of(workshop, answer):
        return "Make it safe", None
    if job.repairs:
        debts = [debt for debt in owed(job, machine) if not debt.settled]
        return debts[0].name if debts else "Hand it over", None
    if job.decided:
        return STATIONS[current_station(job, machine)], None
    return (step.check.name, step.minutes) if step else ("Decide", None)


def _told(verdict: Verdict) -> float | None:
    """Return the chance a list shows beside the verdict; None where the verdict is no guess."""
    return verdict.chance if verdict.state in ("looking", "leading", "proved", "two") else None
