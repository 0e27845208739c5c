"""The job: everything its events say."""

from dataclasses import dataclass, field
from datetime import datetime

from bottega.core.job.events import (
    AnyBody,
    Checked,
    Complained,
    DebtKind,
    Decided,
    Event,
    HandedOver,
    Opened,
    PanelRead,
    ProofBegun,
    Proved,
    PutBack,
    Recheck,
    Repaired,
    SetAside,
    StateChanged,
    Substituted,
    Temporary,
    TookOff,
    Waiting,
    Withdrawn,
)
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.vocabulary import ProofName
from bottega.core.machine.state import MachineState

Debt = tuple[DebtKind, str]
"""Names one thing owed: its kind, and its id within the kind."""


class BrokenLog(ValueError):
    """A log that does not begin with the opening of a job."""


@dataclass(frozen=True)
class Entry:
    """An event as the ledger shows it: its epoch (repairs made before it) and whether it was
    withdrawn."""

    event: Event
    epoch: int
    withdrawn: bool
    since_clear: bool
    """True when the codes were cleared and the machine was run before this entry, in its epoch."""

    @property
    def body(self) -> AnyBody:
        """Return what the event says."""
        return self.event.body


@dataclass(frozen=True)
class Job:
    """Everything a job's events say, without the library."""

    opened: Opened
    events: tuple[Event, ...]
    entries: tuple[Entry, ...]
    state: MachineState
    complaint: Complained | None = None
    panel: PanelRead | None = None
    entry_failed: int = 0
    """Attempts at the service mode that failed since it last listened."""
    label: str = ""
    """The shop's own number of this washer; empty where it has none."""
    serial: str = ""
    decided: Decided | None = None
    repairs: tuple[Repaired, ...] = ()
    waived: dict[Debt, str] = field(default_factory=dict)
    stations_waived: dict[str, str] = field(default_factory=dict)
    causes_closed: dict[str, str] = field(default_factory=dict)
    rechecks: dict[str, Recheck] = field(default_factory=dict)
    substitutes: dict[str, Substituted] = field(default_factory=dict)
    """By component, the stock parts meant for its own."""
    set_aside: dict[str, SetAside] = field(default_factory=dict)
    stuck: tuple[str, ...] = ()
    """Operations that cannot be done with what is at hand."""
    temporary: tuple[str, ...] = ()
    waiting: Waiting | None = None
    handed_over: HandedOver | None = None
    cleared: bool = False
    ran_since_clear: bool = False
    """Whether the machine was run since the codes were cleared, in this epoch."""
    epoch: int = 0
    holds_charge: bool = False
    """Whether the machine stores a charge once its plug is pulled."""

    @property
    def live(self) -> tuple[Entry, ...]:
        """Return the entries that count."""
        return tuple(entry for entry in self.entries if not entry.withdrawn)

    @property
    def unplugged_at(self) -> datetime | None:
        """Return when the plug came out, or None while it is in or was out from the first."""
        if self.state.power != "off":
            return None
        return next(
            (
                entry.event.at
                for entry in reversed(self.live)
                if isinstance(body := entry.body, StateChanged) and body.what == "power"
            ),
            None,
        )

    @property
    def came_unplugged(self) -> bool:
        """Return whether the plug was out when the job was taken, and has been since."""
        return self.state.power == "off" and self.unplugged_at is None

    @property
    def interlocks(self) -> tuple[str, ...]:
        """Return what keeps people from what is live or turns and is defeated now."""
        if not self.temporary:
            return ()
        return tuple(what for what in self.defeated if what in self.temporary)

    @property
    def defeated(self) -> tuple[str, ...]:
        """Return every interlock that was defeated at some time."""
        bodies = (entry.body for entry in self.live)
        return tuple(
            dict.fromkeys(b.what for b in bodies if isinstance(b, Temporary) and b.interlock)
        )

    @property
    def to_make(self) -> tuple[str, ...]:
        """Return the repairs that were decided on last and are not made since, in order."""
        made: set[str] = set()
        for entry in reversed(self.live):
            body = entry.body
            if isinstance(body, Repaired):
                made.add(body.repair)
            elif isinstance(body, Decided):
                return tuple(name for name in body.repairs if name not in made)
        return ()

    def repairs_made(self, machine: MachineType) -> list[RepairOption]:
        """Return the repairs made, in order, as the machine's library knows them; what the library
        has lost since is left out."""
        return [machine.repairs[r.repair] for r in self.repairs if r.repair in machine.repairs]

    def faults_ended(self, machine: MachineType) -> list[str]:
        """Return the faults that the repairs made are for, in order, each once."""
        made = self.repairs_made(machine)
        return list(dict.fromkeys(fault for repair in made for fault, _ in repair.covers))

    def checked(self) -> list[tuple[Entry, Checked]]:
        """Return every check done that counts, in order."""
        return [(entry, entry.body) for entry in self.live if isinstance(entry.body, Checked)]

    def done_now(self) -> set[str]:
        """Return the checks answered in the present epoch."""
        return {body.check for entry, body in self.checked() if entry.epoch == self.epoch}

    def proofs(self) -> dict[str, Proved]:
        """Return the last proof of each kind since the last repair."""
        return {
            entry.body.proof: entry.body
            for entry in self.live
            if isinstance(entry.body, Proved) and entry.epoch == self.epoch
        }

    def clock_of(self, proof: ProofName) -> datetime | None:
        """Return since when a proof's clock runs: from where it was begun, as long as nothing about
        the machine was changed since; None where it does not run."""
        for entry in reversed(self.live):
            body = entry.body
            if isinstance(body, ProofBegun) and body.proof == proof:
                return entry.event.at
            left = isinstance(body, Checked) and bool(body.leaves)
            if left or isinstance(body, (StateChanged, TookOff, PutBack, Repaired)):
                return None
        return None

    def weighty(self, event_id: str) -> Event | None:
        """Return an event that nobody takes back by a slip: a decision, a repair, the hand-over;
        None for any other, and for one that does not count."""
        return next((event for event in self.weighing if event.id == event_id), None)

    @property
    def weighing(self) -> list[Event]:
        """Return the decisions, repairs and hand-overs that count."""
        bodies = (Decided, Repaired, HandedOver)
        return [one.event for one in self.live if isinstance(one.body, bodies)]

    def last_to_withdraw(self) -> Event | None:
        """Return the newest event that counts and may be withdrawn, or None."""
        for entry in reversed(self.live):
            if not isinstance(entry.body, (Opened, Withdrawn)):
                return entry.event
        return None
