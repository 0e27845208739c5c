"""The table of event kinds: how each is folded, ruled and told, what undoing it means, how its
older bodies are read."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

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


ROWS: tuple[Kind[Any], ...] = (
    Kind(
        events.Opened,
        steps.unchanged,
        rules.opened,
        words.opened,
        "the opening stays",
        (upcast.opened_1,),
    ),
    Kind(
        events.Complained,
        steps.complained,
        rules.complained,
        words.complained,
        "what was said no longer counts",
        (),
    ),
    Kind(
        events.StateChanged,
        steps.state_changed,
        rules.state_changed,
        words.state_changed,
        "the machine stands as before",
        (),
    ),
    Kind(
        events.TookOff,
        steps.took_off,
        rules.took_off,
        words.took_off,
        "it counts as on again",
        (),
    ),
    Kind(
        events.PutBack,
        steps.put_back,
        rules.put_back,
        words.put_back,
        "it counts as off again",
        (),
    ),
    Kind(
        events.Soaked,
        steps.unchanged,
        rules.soaked,
        words.soaked,
        "nothing soaks there",
        (),
    ),
    Kind(
        events.Stuck,
        steps.stuck,
        rules.stuck,
        words.stuck,
        "it counts as it was before",
        (),
    ),
    Kind(
        events.PanelRead,
        steps.panel_read,
        rules.panel_read,
        words.panel_read,
        "the codes no longer count",
        (),
    ),
    Kind(
        events.EntryTried,
        steps.entry_tried,
        rules.entry_tried,
        words.entry_tried,
        "the attempt is not counted",
        (),
    ),
    Kind(
        events.CodesCleared,
        steps.codes_cleared,
        rules.anything,
        words.codes_cleared,
        "the codes count as stored",
        (),
    ),
    Kind(
        events.Checked,
        steps.checked,
        rules.checked,
        words.checked,
        "the check counts as not done",
        (),
    ),
    Kind(
        events.Marked,
        steps.unchanged,
        rules.marked,
        words.marked,
        "the mark comes off the drawing",
        (),
    ),
    Kind(
        events.Sighted,
        steps.unchanged,
        rules.sighted,
        words.sighted,
        "it was not seen",
        (),
    ),
    Kind(
        events.SetAside,
        steps.set_aside,
        rules.set_aside,
        words.set_aside,
        "the check is offered again",
        (upcast.set_aside_1,),
    ),
    Kind(
        events.Decided,
        steps.decided,
        rules.decided,
        words.decided,
        "the job is undecided again",
        (),
    ),
    Kind(
        events.Repaired,
        steps.repaired,
        rules.repaired,
        words.repaired,
        "the repair counts as not made, and its proofs are owed no more",
        (),
    ),
    Kind(
        events.Recheck,
        steps.recheck,
        rules.recheck,
        words.recheck,
        "no day to look again is set",
        (),
    ),
    Kind(
        events.Substituted,
        steps.substituted,
        rules.substituted,
        words.substituted,
        "the maker's part is meant again",
        (),
    ),
    Kind(
        events.SeatingMeasured,
        steps.unchanged,
        rules.seating_measured,
        words.seating_measured,
        "its seat counts as not measured",
        (),
    ),
    Kind(
        events.Proved,
        steps.unchanged,
        rules.proved,
        words.proved,
        "the proof is owed again",
        (),
    ),
    Kind(
        events.ProofBegun,
        steps.unchanged,
        rules.anything,
        words.proof_begun,
        "its clock never ran",
        (),
    ),
    Kind(
        events.CauseClosed,
        steps.cause_closed,
        rules.cause_closed,
        words.cause_closed,
        "the cause is open again",
        (),
    ),
    Kind(
        events.Waived,
        steps.waived,
        rules.waived,
        words.waived,
        "it is owed again",
        (upcast.waived_1,),
    ),
    Kind(
        events.Waiting,
        steps.waiting,
        rules.anything,
        words.waiting,
        "the job waits for nothing",
        (),
    ),
    Kind(
        events.Temporary,
        steps.temporary,
        rules.temporary,
        words.temporary,
        "it counts as it was before",
        (),
    ),
    Kind(
        events.Noted,
        steps.unchanged,
        rules.anything,
        words.noted,
        "the note is struck",
        (),
    ),
    Kind(
        events.Identified,
        steps.identified,
        rules.identified,
        words.identified,
        "nobody knows which washer it is",
        (),
    ),
    Kind(
        events.Rebased,
        steps.unchanged,
        rules.anything,
        words.rebased,
        "the job goes back to the sheet it had",
        (),
    ),
    Kind(
        events.HandedOver,
        steps.handed_over,
        rules.handed_over,
        words.handed_over,
        "the job is open again",
        (),
    ),
    Kind(
        events.Withdrawn,
        steps.unchanged,
        rules.withdrawn,
        words.withdrawn,
        "the entry counts again",
        (),
    ),
)
"""The table: one row for each kind in the union ``AnyBody``."""
KINDS: dict[str, Kind[Any]] = {row.body.model_fields["kind"].default: row for row in ROWS}
"""The table by the word that stands for the kind in a log."""


def kind_of(body: AnyBody) -> Kind[Any]:
    """Return the row of an event's body."""
    return KINDS[body.kind]


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
