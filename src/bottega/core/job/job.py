"""The job: a pure fold over its events."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from bottega.core.job.events import (
    CauseClosed,
    Checked,
    CodesCleared,
    Complained,
    Decided,
    Event,
    HandedOver,
    Opened,
    PanelRead,
    Proved,
    PutBack,
    Recheck,
    Repaired,
    SetAside,
    StateChanged,
    Temporary,
    TookOff,
    Waiting,
    Waived,
    Withdrawn,
)
from bottega.core.job.state import MachineState


class BrokenLog(ValueError):
    """A log that does not begin with the opening of a job."""


@dataclass(frozen=True)
class Entry:
    """An event as the ledger shows it: its epoch (repairs made before it) and whether it was withdrawn."""

    event: Event
    epoch: int
    withdrawn: bool
    since_clear: bool
    """True when the codes were cleared and the machine was run before this entry, in its epoch."""


@dataclass(frozen=True)
class Job:
    """Everything a job's events say, without the library."""

    opened: Opened
    events: tuple[Event, ...]
    entries: tuple[Entry, ...]
    state: MachineState
    complaint: Complained | None
    panel: PanelRead | None
    decided: Decided | None
    repairs: tuple[Repaired, ...]
    waived: dict[str, str]
    causes_closed: dict[str, str]
    rechecks: dict[str, Recheck]
    set_aside: dict[str, SetAside]
    temporary: tuple[str, ...]
    waiting: Waiting | None
    handed_over: HandedOver | None
    cleared: bool
    epoch: int

    @property
    def live(self) -> tuple[Entry, ...]:
        """Return the entries that count."""
        return tuple(entry for entry in self.entries if not entry.withdrawn)

    def checked(self) -> list[tuple[Entry, Checked]]:
        """Return every check done that counts, in order."""
        return [(entry, entry.event.body) for entry in self.live if isinstance(entry.event.body, Checked)]

    def done_now(self) -> set[str]:
        """Return the checks answered in the present epoch."""
        return {body.check for entry, body in self.checked() if entry.epoch == self.epoch}

    def proofs(self) -> dict[str, Proved]:
        """Return the last proof of each kind since the last repair."""
        return {
            entry.event.body.proof: entry.event.body
            for entry in self.live
            if isinstance(entry.event.body, Proved) and entry.epoch == self.epoch
        }

    def last_to_withdraw(self) -> Event | None:
        """Return the newest event that counts and may be withdrawn, or None."""
        for entry in reversed(self.live):
            if not isinstance(entry.event.body, (Opened, Withdrawn)):
                return entry.event
        return None


def withdrawn_ids(events: Iterable[Event]) -> set[str]:
    """Return the ids of events that do not count: withdrawn by an event that itself counts."""
    gone: set[str] = set()
    for event in reversed(list(events)):
        if isinstance(event.body, Withdrawn) and event.id not in gone:
            gone.add(event.body.event)
    return gone


def fold(events: Iterable[Event], holds_charge: bool = False) -> Job:
    """Return the job its events describe, in the order given. Raises BrokenLog when the first does not open it."""
    log = tuple(events)
    if not log or not isinstance(log[0].body, Opened):
        found = log[0].body.kind if log else "no events"
        raise BrokenLog(f"found {found} first, expected opened")
    opened = log[0].body
    job = Job(
        opened=opened,
        events=log,
        entries=(),
        state=MachineState(power=opened.power, taps=opened.taps, water=opened.water),
        complaint=None,
        panel=None,
        decided=None,
        repairs=(),
        waived={},
        causes_closed={},
        rechecks={},
        set_aside={},
        temporary=(),
        waiting=None,
        handed_over=None,
        cleared=False,
        epoch=0,
    )
    gone = withdrawn_ids(log)
    entries: list[Entry] = []
    ran_since_clear = False
    for event in log:
        withdrawn = event.id in gone
        entries.append(Entry(event, job.epoch, withdrawn, job.cleared and ran_since_clear))
        if withdrawn:
            continue
        if isinstance(event.body, (Proved, Checked)) and job.cleared and job.state.power == "on":
            ran_since_clear = True
        job = _step(job, event, holds_charge)
        if isinstance(event.body, (CodesCleared, Repaired)):
            ran_since_clear = False
    return replace(job, entries=tuple(entries))


def _step(job: Job, event: Event, holds_charge: bool) -> Job:
    body = event.body
    match body:
        case Complained():
            return replace(job, complaint=body)
        case StateChanged():
            return replace(job, state=job.state.changed(body.what, body.to, holds_charge))
        case TookOff():
            return replace(job, state=replace(job.state, off=(*job.state.off, body.operation)))
        case PutBack():
            off = tuple(operation for operation in job.state.off if operation != body.operation)
            return replace(job, state=replace(job.state, off=off))
        case PanelRead():
            return replace(job, panel=body)
        case CodesCleared():
            return replace(job, cleared=True)
        case SetAside():
            return replace(job, set_aside={**job.set_aside, body.check: body})
        case Decided():
            return replace(job, decided=body)
        case Repaired():
            return replace(job, repairs=(*job.repairs, body), epoch=job.epoch + 1, cleared=False)
        case CauseClosed():
            return replace(job, causes_closed={**job.causes_closed, body.fault: body.answer})
        case Recheck():
            return replace(job, rechecks={**job.rechecks, body.repair: body})
        case Waived():
            return replace(job, waived={**job.waived, body.what: body.reason})
        case Temporary():
            rest = tuple(what for what in job.temporary if what != body.what)
            return replace(job, temporary=rest if body.undone else (*rest, body.what))
        case Waiting():
            return replace(job, waiting=None if body.on == "nothing" else body)
        case HandedOver():
            return replace(job, handed_over=body, waiting=None)
        case _:
            return job
