"""The shop's own minutes of taking off and putting back, learned from its jobs."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import timedelta
from itertools import pairwise
from statistics import median

from bottega.app.errors import Refused
from bottega.app.shop.times import PAUSE_MIN, Read, last_jobs
from bottega.app.workshop import Workshop
from bottega.core.job.events import PutBack, TookOff
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType
from bottega.core.strip.pace import ALL, learned


@dataclass(frozen=True)
class Pacing:
    """An operation as the shop does it: how often it was noted, the library's minutes, the median
    of those that passed, and what a plan would count it with."""

    name: str
    times: int
    planned: float
    taken: float
    counted: float


@dataclass(frozen=True)
class Learning:
    """What there is to learn: operations, the most often noted first, and the pace they speak for;
    empty where they are too few."""

    rows: list[Pacing]
    pace: dict[str, float]
    noted: int
    """How many times anything was noted."""

    @property
    def overall(self) -> float | None:
        """Return the share of the library's minutes the shop takes; None where it is not known."""
        return self.pace.get(ALL)


def learning_of(workshop: Workshop, jobs: Iterable[Read]) -> Learning:
    """Return what jobs say of the shop's own minutes."""
    seen: dict[str, list[tuple[float, float]]] = {}
    names: dict[str, str] = {}
    for machine, job in jobs:
        for operation, planned, taken in _done(machine, job):
            seen.setdefault(operation, []).append((planned, taken))
            names[operation] = machine.operations[operation].name
    pace = learned(seen, workshop.shelf.tables.strip.pace)
    rows = []
    for operation, times in seen.items():
        planned = median(one for one, _ in times)
        counted = planned * pace.get(operation, 1.0)
        taken = median(one for _, one in times)
        name = names[operation]
        rows.append(Pacing(name, len(times), planned, round(taken, 1), round(counted, 1)))
    rows.sort(key=lambda row: (-row.times, row.name))
    return Learning(rows, pace, sum(row.times for row in rows))


def take_own_pace(workshop: Workshop) -> dict[str, float]:
    """Let the plans count with the shop's own minutes as they are known now. Raises Refused where
    too little was noted."""
    found = learning_of(workshop, last_jobs(workshop))
    if not found.pace:
        fewest = workshop.shelf.tables.strip.pace.fewest
        raise Refused(f"Found {found.noted} steps noted, expected at least {fewest} to learn from.")
    pace = tuple(found.pace.items())
    workshop.change_settings(lambda settings: replace(settings, pace=pace))
    return found.pace


def take_library_pace(workshop: Workshop) -> None:
    """Let the plans count with the library's minutes again."""
    workshop.change_settings(lambda settings: replace(settings, pace=()))


def _done(machine: MachineType, job: Job) -> list[tuple[str, float, float]]:
    """Return each operation done or undone: its name, the library's minutes, those that passed
    since the entry before. Gaps that are pauses are left out."""
    found = []
    for before, entry in pairwise(job.live):
        body = entry.body
        taken = (entry.event.at - before.event.at) / timedelta(minutes=1)
        if not isinstance(body, TookOff | PutBack) or not 0 < taken <= PAUSE_MIN:
            continue
        record = machine.operations.get(body.operation)
        if record is not None:
            back = isinstance(body, PutBack) and record.back_minutes
            found.append((body.operation, back or record.minutes, taken))
    return found
