"""What breaks the table of what may never be: how a machine stands now, and what was noted of it by
older releases, from files and from elsewhere. Such entries are kept as they are, and marked."""

from collections.abc import Iterator
from dataclasses import replace

from bottega.core.job.fold import folds
from bottega.core.job.job import Job
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law, refuse_act
from bottega.core.library.machine_type import MachineType
from bottega.core.machine.deed import covers
from bottega.core.machine.invariants import Broken, broken, standing


def unsafe_now(job: Job, machine: MachineType, law: Law) -> list[Broken]:
    """Return the rows that a machine breaks as it stands; none where a declared live test lifts
    them."""
    check = machine.checks.get(job.state.live_test)
    lifted = check is not None and covers(machine, job.state, check)
    here = standing(machine, job.state, bool(job.interlocks), law.danger)
    return list(broken(law.table.rows, here, lifted))


def breaking(job: Job, machine: MachineType, law: Law) -> dict[str, str]:
    """Return by the id of an entry that counts why it would be refused today: what it did, on a
    machine that stood as it did then."""
    return dict(_breaking(job, machine, replace(law, danger=False)))


def _breaking(job: Job, machine: MachineType, law: Law) -> Iterator[tuple[str, str]]:
    log = [entry.event for entry in job.live]
    for event, before in zip(log[1:], folds(log, job.holds_charge), strict=True):
        try:
            refuse_act(before, machine, event.body, replace(law, at=event.at))
        except JobRefusal as refusal:
            yield event.id, str(refusal)
