"""The table of event kinds: how each is folded, ruled and told, what undoing it means, how its
older bodies are read."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar, assert_never

from bottega.core.job import events, rules, steps, upcast, words
from bottega.core.job.events import AnyBody, Body
from bottega.core.job.job import Job
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law, refuse_harm
from bottega.core.job.upcast import Upcaster
from bottega.core.job.words import Told
from bottega.core.library.machine_type import MachineType

B = TypeVar("B", bound=Body)


@dataclass(frozen=True)
class Kind(Generic[B]):
    """Everything that is particular to one kind of event. ``undo`` says what withdrawing one means,
    in words."""

    body: type[B]
    fold: Callable[[Job, B], Job]
    rule: Callable[[Job, MachineType, B], None]
    tell: Callable[[MachineType, B], Told]
    undo: str
    upcasters: tuple[Upcaster, ...]
    """One a version: the first makes a body of version 1 one of version 2, and so on."""

    @property
    def version(self) -> int:
        """Return the version of the bodies written now."""
        return 1 + len(self.upcasters)


OPENED = Kind(
    events.Opened,
    steps.unchanged,
    rules.opened,
    words.opened,
    "the opening stays",
    (upcast.opened_1,),
)
COMPLAINED = Kind(
    events.Complained,
    steps.complained,
    rules.complained,
    words.complained,
    "what was said no longer counts",
    (),
)
STATE_CHANGED = Kind(
    events.StateChanged,
    steps.state_changed,
    rules.state_changed,
    words.state_changed,
    "the machine stands as before",
    (),
)
TOOK_OFF = Kind(
    events.TookOff,
    steps.took_off,
    rules.took_off,
    words.took_off,
    "it counts as on again",
    (),
)
PUT_BACK = Kind(
    events.PutBack,
    steps.put_back,
    rules.put_back,
    words.put_back,
    "it counts as off again",
    (),
)
SOAKED = Kind(
    events.Soaked,
    steps.unchanged,
    rules.soaked,
    words.soaked,
    "nothing soaks there",
    (),
)
STUCK = Kind(
    events.Stuck,
    steps.stuck,
    rules.stuck,
    words.stuck,
    "it counts as it was before",
    (),
)
PANEL_READ = Kind(
    events.PanelRead,
    steps.panel_read,
    rules.panel_read,
    words.panel_read,
    "the codes no longer count",
    (),
)
ENTRY_TRIED = Kind(
    events.EntryTried,
    steps.entry_tried,
    rules.entry_tried,
    words.entry_tried,
    "the attempt is not counted",
    (),
)
CODES_CLEARED = Kind(
    events.CodesCleared,
    steps.codes_cleared,
    rules.anything,
    words.codes_cleared,
    "the codes count as stored",
    (),
)
CHECKED = Kind(
    events.Checked,
    steps.checked,
    rules.checked,
    words.checked,
    "the check counts as not done",
    (),
)
MARKED = Kind(
    events.Marked,
    steps.unchanged,
    rules.marked,
    words.marked,
    "the mark comes off the drawing",
    (),
)
SIGHTED = Kind(
    events.Sighted,
    steps.unchanged,
    rules.sighted,
    words.sighted,
    "it was not seen",
    (),
)
SET_ASIDE = Kind(
    events.SetAside,
    steps.set_aside,
    rules.set_aside,
    words.set_aside,
    "the check is offered again",
    (upcast.set_aside_1,),
)
DECIDED = Kind(
    events.Decided,
    steps.decided,
    rules.decided,
    words.decided,
    "the job is undecided again",
    (),
)
REPAIRED = Kind(
    events.Repaired,
    steps.repaired,
    rules.repaired,
    words.repaired,
    "the repair counts as not made, and its proofs are owed no more",
    (),
)
RECHECK = Kind(
    events.Recheck,
    steps.recheck,
    rules.recheck,
    words.recheck,
    "no day to look again is set",
    (),
)
SUBSTITUTED = Kind(
    events.Substituted,
    steps.substituted,
    rules.substituted,
    words.substituted,
    "the maker's part is meant again",
    (),
)
SEATING_MEASURED = Kind(
    events.SeatingMeasured,
    steps.unchanged,
    rules.seating_measured,
    words.seating_measured,
    "its seat counts as not measured",
    (),
)
PROVED = Kind(
    events.Proved,
    steps.unchanged,
    rules.proved,
    words.proved,
    "the proof is owed again",
    (),
)
PROOF_BEGUN = Kind(
    events.ProofBegun,
    steps.unchanged,
    rules.anything,
    words.proof_begun,
    "its clock never ran",
    (),
)
CAUSE_CLOSED = Kind(
    events.CauseClosed,
    steps.cause_closed,
    rules.cause_closed,
    words.cause_closed,
    "the cause is open again",
    (),
)
WAIVED = Kind(
    events.Waived,
    steps.waived,
    rules.waived,
    words.waived,
    "it is owed again",
    (upcast.waived_1,),
)
WAITING = Kind(
    events.Waiting,
    steps.waiting,
    rules.anything,
    words.waiting,
    "the job waits for nothing",
    (),
)
TEMPORARY = Kind(
    events.Temporary,
    steps.temporary,
    rules.temporary,
    words.temporary,
    "it counts as it was before",
    (),
)
NOTED = Kind(
    events.Noted,
    steps.unchanged,
    rules.anything,
    words.noted,
    "the note is struck",
    (),
)
IDENTIFIED = Kind(
    events.Identified,
    steps.identified,
    rules.identified,
    words.identified,
    "nobody knows which washer it is",
    (),
)
REBASED = Kind(
    events.Rebased,
    steps.unchanged,
    rules.anything,
    words.rebased,
    "the job goes back to the sheet it had",
    (),
)
HANDED_OVER = Kind(
    events.HandedOver,
    steps.handed_over,
    rules.handed_over,
    words.handed_over,
    "the job is open again",
    (),
)
WITHDRAWN = Kind(
    events.Withdrawn,
    steps.unchanged,
    rules.withdrawn,
    words.withdrawn,
    "the entry counts again",
    (),
)


def kind_of(body: AnyBody) -> Kind[Any]:
    """Return the kind of an event's body. A kind without a row here does not pass the type
    check."""
    match body:
        case events.Opened():
            return OPENED
        case events.Complained():
            return COMPLAINED
        case events.StateChanged():
            return STATE_CHANGED
        case events.TookOff():
            return TOOK_OFF
        case events.PutBack():
            return PUT_BACK
        case events.Soaked():
            return SOAKED
        case events.Stuck():
            return STUCK
        case events.PanelRead():
            return PANEL_READ
        case events.EntryTried():
            return ENTRY_TRIED
        case events.CodesCleared():
            return CODES_CLEARED
        case events.Checked():
            return CHECKED
        case events.Marked():
            return MARKED
        case events.Sighted():
            return SIGHTED
        case events.SetAside():
            return SET_ASIDE
        case events.Decided():
            return DECIDED
        case events.Repaired():
            return REPAIRED
        case events.Recheck():
            return RECHECK
        case events.Substituted():
            return SUBSTITUTED
        case events.SeatingMeasured():
            return SEATING_MEASURED
        case events.Proved():
            return PROVED
        case events.ProofBegun():
            return PROOF_BEGUN
        case events.CauseClosed():
            return CAUSE_CLOSED
        case events.Waived():
            return WAIVED
        case events.Waiting():
            return WAITING
        case events.Temporary():
            return TEMPORARY
        case events.Noted():
            return NOTED
        case events.Identified():
            return IDENTIFIED
        case events.Rebased():
            return REBASED
        case events.HandedOver():
            return HANDED_OVER
        case events.Withdrawn():
            return WITHDRAWN
        case _:
            assert_never(body)


KINDS: dict[str, Kind[Any]] = {
    kind.body.model_fields["kind"].default: kind
    for kind in (
        OPENED,
        COMPLAINED,
        STATE_CHANGED,
        TOOK_OFF,
        PUT_BACK,
        SOAKED,
        STUCK,
        PANEL_READ,
        ENTRY_TRIED,
        CODES_CLEARED,
        CHECKED,
        MARKED,
        SIGHTED,
        SET_ASIDE,
        DECIDED,
        REPAIRED,
        RECHECK,
        SUBSTITUTED,
        SEATING_MEASURED,
        PROVED,
        PROOF_BEGUN,
        CAUSE_CLOSED,
        WAIVED,
        WAITING,
        TEMPORARY,
        NOTED,
        IDENTIFIED,
        REBASED,
        HANDED_OVER,
        WITHDRAWN,
    )
}
"""The table by the word that stands for the kind in a log."""


def allow(job: Job, machine: MachineType, body: AnyBody, law: Law) -> None:
    """Raise JobRefusal if this may not be the job's next event as a command given now; return
    nothing if it may."""
    possible(job, machine, body)
    rules.ready(job, machine, body)
    refuse_harm(job, machine, body, law)


def possible(job: Job, machine: MachineType, body: AnyBody) -> None:
    """Raise JobRefusal if this cannot have been the job's next event. What was done is a report: it
    is not held back by what should never be done."""
    if job.handed_over and not isinstance(body, events.Withdrawn):
        raise JobRefusal("The job is handed over. Withdraw the hand-over to go on with it.")
    kind_of(body).rule(job, machine, body)


def told(machine: MachineType, body: AnyBody) -> Told:
    """Return an event as (what was done, what came of it) in a technician's words."""
    said: Told = kind_of(body).tell(machine, body)
    return said
