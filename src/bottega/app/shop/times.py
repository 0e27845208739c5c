"""What each stage of a job takes, gathered from when its events were noted: nobody keeps a
timesheet."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import timedelta
from itertools import pairwise
from statistics import median

from bottega.app.washer.past import read_job
from bottega.app.workshop import Workshop
from bottega.core.job.events import (
    AnyBody,
    Checked,
    Decided,
    PanelRead,
    Proved,
    PutBack,
    Repaired,
    Soaked,
    TookOff,
)
from bottega.core.job.job import Entry, Job
from bottega.core.library.machine_type import MachineType
from bottega.core.machine.state import MachineState
from bottega.core.strip.plan import plan

STAGES = ("prove", "decide", "open", "fit", "close", "proof")
"""Stages that are timed, in the order of a job."""
PAUSE_MIN = 90.0
"""A gap between two entries that is longer is a pause, a night, a wait for the ferry; chosen, no
single step takes as long."""
MOST_TIMED_JOBS = 150
"""The last so many jobs that are looked at; chosen, half a year of a small shop."""


@dataclass(frozen=True)
class TimesTaken:
    """What jobs of one kind took one person: how many, the median minutes of each stage (None where
    nothing was noted), and what the plan says of opening and closing."""

    work: str
    author: str
    jobs: int
    minutes: dict[str, float | None]
    planned: float | None


def stage_minutes(job: Job) -> dict[str, float]:
    """Return the minutes of each stage of a job: the gap before each entry is that of its stage,
    pauses left out."""
    spent: dict[str, float] = {}
    entries = job.live
    for before, entry in pairwise(entries):
        stage = _stage(entry, bool(entry.epoch))
        gap = (entry.event.at - before.event.at) / timedelta(minutes=1)
        if stage and 0 <= gap <= PAUSE_MIN:
            spent[stage] = spent.get(stage, 0.0) + gap
    return spent


def _stage(entry: Entry, repaired: bool) -> str:
    body: AnyBody = entry.body
    match body:
        case TookOff() | Soaked():
            return "open"
        case Repaired():
            return "fit"
        case PutBack():
            return "close"
        case Proved():
            return "proof"
        case Decided():
            return "decide"
        case Checked() | PanelRead():
            return "proof" if repaired else "prove"
        case _:
            return ""


Read = tuple[MachineType, Job]
"""A job that can be read, with its machine."""


def last_jobs(workshop: Workshop) -> Iterator[Read]:
    """Yield the last jobs that can be read, each with its machine."""
    for number in list(workshop.log.numbers())[-MOST_TIMED_JOBS:]:
        read = read_job(workshop, number)
        if read is not None:
            (_, machine), job = read
            yield machine, job


def times_taken(workshop: Workshop, jobs: Iterable[Read]) -> list[TimesTaken]:
    """Return what jobs took, by the kind of work and by who noted the repair, the most
    frequent first."""
    found: dict[tuple[str, str], list[dict[str, float]]] = {}
    planned: dict[str, float] = {}
    for machine, job in jobs:
        if not job.repairs:
            continue
        made = next(e.event for e in job.live if isinstance(e.body, Repaired))
        work = _planned_as(workshop, machine, job.repairs[0].repair, planned)
        found.setdefault((work, made.author), []).append(stage_minutes(job))
    rows = [
        TimesTaken(work, author, len(jobs), _medians(jobs), planned.get(work))
        for (work, author), jobs in found.items()
    ]
    return sorted(rows, key=lambda row: (-row.jobs, row.work, row.author))


def _medians(jobs: Iterable[dict[str, float]]) -> dict[str, float | None]:
    every = list(jobs)
    return {
        stage: round(median(known), 1) if known else None
        for stage in STAGES
        for known in [[job[stage] for job in every if stage in job]]
    }


def _planned_as(
    workshop: Workshop, machine: MachineType, repair_id: str, planned: dict[str, float]
) -> str:
    """Return the kind of work a repair is, and remember what its plan says."""
    repair = machine.repairs.get(repair_id)
    if repair is None:
        return repair_id
    work = f"{repair.name}, {workshop.shelf.archetypes[machine.archetype].name}"
    if work not in planned:
        best = plan(machine, workshop.shelf.tables, MachineState(), repair.way).best
        planned[work] = round(best.minutes, 1)
    return work
