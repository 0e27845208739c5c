"""The past of one washer: all its jobs, by the shop's own number or the maker's serial."""

from dataclasses import dataclass
from datetime import datetime

from bottega.app.answer import Answer
from bottega.app.errors import NotFound, Unreadable
from bottega.app.job.answer import read_events
from bottega.app.job.machine import machine_of
from bottega.app.job.summary import sheet_of
from bottega.app.workshop import Workshop
from bottega.core.job.events import CodesCleared, PanelRead, Repaired
from bottega.core.job.fold import fold
from bottega.core.job.job import BrokenLog, Job
from bottega.core.job.kinds import told
from bottega.core.job.washer import plain_mark, washer_keys
from bottega.core.library.machine_type import MachineType

MOST_PAST_JOBS = 40
"""Jobs of one washer that are opened for its page; chosen, more than one comes to in its life."""


@dataclass(frozen=True)
class PastEvent:
    """One thing that happened to a washer: when, what kind of event, what, and what came of it."""

    at: datetime
    kind: str
    what: str
    came: str


@dataclass(frozen=True)
class PastJob:
    """One job of a washer."""

    number: str
    opened: datetime
    title: str
    place: str
    complaint: str
    lines: tuple[PastEvent, ...]
    """Codes read and cleared, and what was put right."""
    over: bool

    @property
    def short(self) -> str:
        """Return in a line what was read and what was put right; the complaint where nothing
        was."""
        said = [line.came if line.kind == "panel_read" else line.what for line in self.lines]
        return "; ".join(words for words in said if words) or self.complaint


@dataclass(frozen=True)
class Past:
    """A washer: what is written on it, and its jobs, the newest first."""

    key: str
    label: str
    serial: str
    jobs: tuple[PastJob, ...]


def past_of(workshop: Workshop, mark: str) -> Past:
    """Return the past of the washer with a label, or a key as ``washer_keys`` makes them. Jobs that
    know only the serial, or only the label, are joined by those that know both. Raises NotFound."""
    known = {mark.strip().lower(), plain_mark(mark)}
    found = workshop.summaries.of_washer(sorted(known), MOST_PAST_JOBS)
    while True:
        wider = known | {key for summary in found for key in sheet_of(summary).washer}
        if wider == known:
            break
        known = wider
        found = workshop.summaries.of_washer(sorted(known), MOST_PAST_JOBS)
    jobs = [job for s in found if (job := read_job(workshop, s.number)) is not None]
    if not jobs:
        raise NotFound(f"Found no washer '{mark[:40]}', expected a number or serial of one.")
    label = next((job.label for _, job in jobs if job.label), "")
    serial = next((job.serial for _, job in jobs if job.serial), "")
    key = plain_mark(label) or mark.strip().lower()
    return Past(key, label, serial, tuple(_told(*own) for own in jobs))


def jobs_before(workshop: Workshop, answer: Answer) -> tuple[PastJob, ...]:
    """Return the other jobs of a job's washer, the newest first; none where nobody wrote down which
    it is."""
    keys = washer_keys(answer.job, answer.machine.archetype)
    try:
        past = past_of(workshop, keys[0]) if keys else None
    except NotFound:
        past = None
    others = past.jobs if past else ()
    return tuple(other for other in others if other.number != answer.number)


Read = tuple[tuple[str, MachineType], Job]
"""A job as its log tells of it, without what is believed of it: its number, its machine."""


def read_job(workshop: Workshop, number: str) -> Read | None:
    """Return a job by its log alone; None for one that cannot be read."""
    try:
        events = read_events(workshop, number)
        machine = machine_of(workshop, events)
        return (number, machine), fold(events, machine.charge is not None)
    except (Unreadable, NotFound, BrokenLog):
        return None


def _told(where: tuple[str, MachineType], job: Job) -> PastJob:
    number, machine = where
    lines = tuple(
        PastEvent(entry.event.at, entry.body.kind, *told(machine, entry.body))
        for entry in job.live
        if isinstance(entry.body, PanelRead | CodesCleared | Repaired)
    )
    return PastJob(
        number=number,
        opened=job.events[0].at,
        title=machine.title,
        place=job.opened.place,
        complaint=job.complaint.text if job.complaint else "",
        lines=lines,
        over=job.handed_over is not None,
    )
