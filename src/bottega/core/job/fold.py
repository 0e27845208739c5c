"""The fold: from a log of events to the job they describe."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from bottega.core.job.events import (
    Checked,
    CodesCleared,
    Event,
    Opened,
    Proved,
    Repaired,
    Withdrawn,
)
from bottega.core.job.job import BrokenLog, Entry, Job
from bottega.core.job.kinds import kind_of
from bottega.core.machine.state import MachineState


def withdrawn_ids(events: Iterable[Event]) -> set[str]:
    """Return the ids of events that do not count: withdrawn by an event that itself counts."""
    gone: set[str] = set()
    for event in reversed(list(events)):
        if isinstance(event.body, Withdrawn) and event.id not in gone:
            gone.add(event.body.event)
    return gone


def folds(events: Sequence[Event], holds_charge: bool = False) -> Iterator[Job]:
    """Yield the job as it stood before each event but the first, in order. Raises BrokenLog.

    One step an event; only a withdrawal has everything before it folded anew.
    """
    job = fold(events[:1], holds_charge)
    for place in range(1, len(events)):
        yield job
        event = events[place]
        if isinstance(event.body, Withdrawn):
            job = fold(events[: place + 1], holds_charge)
        else:
            job = after(job, event, events[: place + 1])


def fold(events: Iterable[Event], holds_charge: bool = False) -> Job:
    """Return the job its events describe, in the order given. Raises BrokenLog when the first does
    not open it.

    ``holds_charge`` says whether the machine stores a charge once its plug is pulled.
    """
    log = tuple(events)
    if not log or not isinstance(log[0].body, Opened):
        found = log[0].body.kind if log else "no events"
        raise BrokenLog(f"found {found} first, expected opened")
    opened = log[0].body
    job = Job(
        opened=opened,
        events=log,
        entries=(),
        state=arrived(opened, holds_charge),
        holds_charge=holds_charge,
        serial=opened.plate.serial or "",
    )
    gone = withdrawn_ids(log)
    entries: list[Entry] = []
    for event in log:
        withdrawn = event.id in gone
        entries.append(_entry(job, event, withdrawn, entries))
        if not withdrawn:
            job = _step(job, event)
    return replace(job, entries=tuple(entries))


def arrived(opened: Opened, holds_charge: bool) -> MachineState:
    """Return how a machine stands on arrival: what was said, and unknown else. One that stores a
    charge holds it while it is plugged in; of one that came unplugged nobody knows."""
    charge = "none" if not holds_charge else "held" if opened.power == "on" else "unknown"
    return MachineState(
        power=opened.power,
        taps=opened.taps,
        water=opened.water,
        charge=charge,
        drum=opened.drum,
        door=opened.door,
    )


def stood_of(job: Job) -> MachineState:
    """Return how the machine stood when the job was taken on."""
    return arrived(job.opened, job.holds_charge)


def after(job: Job, event: Event, log: Sequence[Event]) -> Job:
    """Return the job after one more event, the last of its ``log``, that withdraws nothing."""
    entry = _entry(job, event, False, job.entries)
    return replace(_step(job, event), events=tuple(log), entries=(*job.entries, entry))


def _entry(job: Job, event: Event, withdrawn: bool, before: Sequence[Entry]) -> Entry:
    """Return an event with its place; what is seen of an old part speaks of the machine as it was
    before that part was changed."""
    body, epoch = event.body, job.epoch
    if isinstance(body, Checked) and body.old_part_of:
        changed = (entry.epoch for entry in before if entry.event.id == body.old_part_of)
        epoch = next(changed, epoch)
    return Entry(event, epoch, withdrawn, job.cleared and job.ran_since_clear)


def _step(job: Job, event: Event) -> Job:
    """Return the job after one event that counts; a check or proof with the power on is a run since
    the codes went."""
    ran = job.ran_since_clear
    body = event.body
    at_machine = isinstance(body, Proved) or (isinstance(body, Checked) and not body.old_part_of)
    if at_machine and job.cleared and job.state.power == "on":
        ran = True
    if isinstance(body, (CodesCleared, Repaired)):
        ran = False
    after: Job = kind_of(body).fold(job, body)
    return after if ran == after.ran_since_clear else replace(after, ran_since_clear=ran)
