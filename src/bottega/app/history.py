"""What this shop found on machines of a kind before a job was opened: the counts that feed the odds."""

from collections import Counter
from dataclasses import dataclass
from datetime import datetime

from bottega.app.workshop import Workshop
from bottega.core.diagnosis.history import scales
from bottega.core.job.causes import spoken_for
from bottega.core.job.events import Event, Opened
from bottega.core.job.job import Job, fold
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine

LEAST = 0.05
"""A correction smaller than this is no correction."""


@dataclass(frozen=True)
class Closed:
    """A job handed over: when, on what kind of machine, and the faults put right that a check had shown."""

    at: datetime
    archetype: str
    faults: tuple[str, ...]


def odds_now(workshop: Workshop, machine: MachineType) -> dict[str, float]:
    """Return by what each fault's rate is multiplied for a job opened now, from the jobs handed over before.

    It is written into the opening of the job, so that its ranking follows from its own log for good; what would
    change a rate by less than a twentieth is left out.
    """
    now = workshop.now()
    before = [c for c in _closed(workshop) if c.at < now and c.archetype == machine.archetype]
    counts = Counter(fault for closed in before for fault in closed.faults)
    scaled = scales(machine, counts, len(before), workshop.shelf.tables.engine)
    return {fault: round(scale, 3) for fault, scale in scaled.items() if abs(scale - 1) > LEAST}


def _closed(workshop: Workshop) -> list[Closed]:
    """Return the jobs handed over; each is read once for as long as nothing more happens on it."""
    for number, seq in workshop.log.positions().items():
        known = workshop.closed.get(number)
        if known is None or known[0] != seq:
            workshop.closed[number] = (seq, _read(workshop, workshop.log.read(number)))
    return [found for _, found in workshop.closed.values() if isinstance(found, Closed)]


def _read(workshop: Workshop, events: list[Event]) -> Closed | None:
    opened = events[0].body
    if not isinstance(opened, Opened) or not any(event.body.kind == "handed_over" for event in events):
        return None
    try:
        machine = workshop.machine(opened.archetype, opened.sheet)
    except UnknownMachine:
        return None
    job = fold(events, machine.charge is not None)
    if job.handed_over is None:
        return None
    at = max(entry.event.at for entry in job.live if entry.event.body == job.handed_over)
    return Closed(at, machine.archetype, tuple(_put_right(job, machine)))


def _put_right(job: Job, machine: MachineType) -> list[str]:
    made = [machine.repairs[r.repair] for r in job.repairs if r.repair in machine.repairs]
    ended = dict.fromkeys(fault for repair in made for fault, _ in repair.covers)
    return [fault for fault in ended if spoken_for(job, machine, fault)]
