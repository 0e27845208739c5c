"""A machine on the rig as whoever has it in hand left it: by its own page, or by the job that is
bound to it."""

from collections.abc import Iterator
from contextlib import contextmanager

from bottega.app.errors import Refused, Stale
from bottega.app.job.answer import diagnose
from bottega.app.rig.fetch import stand
from bottega.app.rig.left import left_of
from bottega.app.rig.stand import MOVED, Stand
from bottega.app.workshop import Workshop
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType
from bottega.store.rigs import MovedSince


def stand_at(workshop: Workshop, name: str) -> Stand:
    """Return a machine as it stands; where a job is bound to it, opened, plugged in and turned over
    as the job says, and without what the job has put right. Raises NotFound."""
    found = stand(workshop, name)
    if found.ticket.job is None:
        return found
    answer = diagnose(workshop, found.ticket.job)
    with found.lock:
        found.without(_put_right(answer.job, answer.machine))
        _follow(found, answer.job)
    return found


@contextmanager
def one_act(workshop: Workshop, name: str, seen: int) -> Iterator[Stand]:
    """Give a machine as it stands, for one act nobody comes between; how the act leaves the machine
    is kept in the database when the block ends. Raises NotFound, and Stale where somebody else did
    something to the machine since ``seen`` acts."""
    found = stand_at(workshop, name)
    with found.lock:
        if seen != found.acts:
            raise Stale(MOVED)
        yield found
        found.acts += 1
        try:
            workshop.rigs.leave(name, found.acts, left_of(found))
        except BaseException as error:
            workshop.stands.pop(name, None)
            if isinstance(error, MovedSince):
                raise Stale(MOVED) from error
            raise


def refuse_in_hand(at: Stand, does: str) -> None:
    """Raise Refused where a job has the machine in hand; ``does`` says what is done there."""
    if at.ticket.job is not None:
        raise Refused(f"Job {at.ticket.job} has it in hand: {does} it there.", "value")


def _put_right(job: Job, machine: MachineType) -> frozenset[str]:
    return frozenset(job.faults_ended(machine))


def _follow(at: Stand, job: Job) -> None:
    """Let plug and taps of the machine follow what its job says of them since the last look."""
    now, before = job.state, at.followed
    if before is None or now.power != before.power:
        if now.power == "on" and not at.machine.plugged:
            at.plug_in()
        elif now.power == "off" and at.machine.plugged:
            at.unplug()
    if now.taps != "unknown" and (before is None or now.taps != before.taps):
        at.machine.tap_open = now.taps == "open"
    at.hands = at.followed = now
