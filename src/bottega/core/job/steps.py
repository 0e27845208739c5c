"""What each kind of event makes of a job: one step of the fold a kind."""

from dataclasses import replace

from bottega.core.job.events import (
    Body,
    CauseClosed,
    Checked,
    CodesCleared,
    Complained,
    Decided,
    EntryTried,
    HandedOver,
    Identified,
    PanelRead,
    PutBack,
    Recheck,
    Repaired,
    SetAside,
    StateChanged,
    Stuck,
    Substituted,
    Temporary,
    TookOff,
    Waiting,
    Waived,
)
from bottega.core.job.job import Job
from bottega.core.machine.state import MachineState


def unchanged(job: Job, _body: Body) -> Job:
    """Return the job as it is: the event stands in the log and changes nothing but that."""
    return job


def complained(job: Job, body: Complained) -> Job:
    """Return the job with what the customer says, instead of what was noted or beside it."""
    if body.adds and job.complaint is not None:
        return replace(job, complaint=body.beside(job.complaint))
    return replace(job, complaint=body)


def state_changed(job: Job, body: StateChanged) -> Job:
    """Return the job with its machine in another state."""
    return replace(job, state=_changed(job, body))


def checked(job: Job, body: Checked) -> Job:
    """Return the job with its machine as the check left it."""
    state = job.state
    for field, to in body.leaves.items():
        state = state.changed(field, to, job.holds_charge)
    return replace(job, state=state)


def _changed(job: Job, body: StateChanged) -> MachineState:
    return job.state.changed(body.what, body.to, job.holds_charge, body.for_check)


def took_off(job: Job, body: TookOff) -> Job:
    """Return the job with one more operation done."""
    stuck = tuple(name for name in job.stuck if name != body.operation)
    off = (*job.state.off, body.operation)
    return replace(job, state=replace(job.state, off=off), stuck=stuck)


def stuck(job: Job, body: Stuck) -> Job:
    """Return the job with one operation more that cannot be done, or one less."""
    others = tuple(name for name in job.stuck if name != body.operation)
    return replace(job, stuck=others if body.moves else (*others, body.operation))


def put_back(job: Job, body: PutBack) -> Job:
    """Return the job with one operation undone."""
    off = tuple(operation for operation in job.state.off if operation != body.operation)
    return replace(job, state=replace(job.state, off=off))


def panel_read(job: Job, body: PanelRead) -> Job:
    """Return the job with what the memory showed last; a code the customer told of is no reading
    of the memory."""
    return job if body.told else replace(job, panel=body, entry_failed=0)


def entry_tried(job: Job, body: EntryTried) -> Job:
    """Return the job with one attempt at the service mode more, or none where it listened."""
    return replace(job, entry_failed=0 if body.listened else job.entry_failed + 1)


def identified(job: Job, body: Identified) -> Job:
    """Return the job with what tells this washer from all others."""
    return replace(job, label=body.label or job.label, serial=body.serial or job.serial)


def codes_cleared(job: Job, _body: CodesCleared) -> Job:
    """Return the job with its codes cleared."""
    return replace(job, cleared=True)


def set_aside(job: Job, body: SetAside) -> Job:
    """Return the job with one check set aside."""
    return replace(job, set_aside={**job.set_aside, body.check: body})


def decided(job: Job, body: Decided) -> Job:
    """Return the job with what was decided last; the customer is waited for no longer."""
    asked = job.waiting is not None and job.waiting.on == "customer"
    return replace(job, decided=body, waiting=None if asked else job.waiting)


def repaired(job: Job, body: Repaired) -> Job:
    """Return the job in a new epoch, its codes not cleared yet; what it waited for has come, since
    it was fitted."""
    repairs = (*job.repairs, body)
    return replace(job, repairs=repairs, epoch=job.epoch + 1, cleared=False, waiting=None)


def recheck(job: Job, body: Recheck) -> Job:
    """Return the job with a day on which a cure is looked at again."""
    return replace(job, rechecks={**job.rechecks, body.repair: body})


def substituted(job: Job, body: Substituted) -> Job:
    """Return the job with stock parts meant for one of the maker's."""
    return replace(job, substitutes={**job.substitutes, body.component: body})


def cause_closed(job: Job, body: CauseClosed) -> Job:
    """Return the job with one cause or consequence looked into."""
    return replace(job, causes_closed={**job.causes_closed, body.fault: body.answer})


def waived(job: Job, body: Waived) -> Job:
    """Return the job with one thing owed, or one station, waived."""
    if body.owed == "station":
        return replace(job, stations_waived={**job.stations_waived, body.subject: body.reason})
    return replace(job, waived={**job.waived, (body.owed, body.subject): body.reason})


def waiting(job: Job, body: Waiting) -> Job:
    """Return the job with what it waits for."""
    return replace(job, waiting=None if body.on == "nothing" else body)


def temporary(job: Job, body: Temporary) -> Job:
    """Return the job with something temporary made or undone."""
    rest = tuple(what for what in job.temporary if what != body.what)
    return replace(job, temporary=rest if body.undone else (*rest, body.what))


def handed_over(job: Job, body: HandedOver) -> Job:
    """Return the job handed over; it waits for nothing any more."""
    return replace(job, handed_over=body, waiting=None)
