"""How a job's machine stands by the table of what may never be, and which entries break it."""

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.job.safety import Law
from bottega.core.job.unsafe import breaking, unsafe_now
from bottega.core.library.machine_type import Check
from bottega.core.machine.invariants import Broken, opened, way_of


def law_of(workshop: Workshop, answer: Answer) -> Law:
    """Return what a command on this job is held against, its time left open."""
    tables = workshop.shelf.tables
    return Law(tables.invariants, tables.proofs, answer.danger is not None)


def unsafe_of(workshop: Workshop, answer: Answer) -> list[Broken]:
    """Return what a job's machine breaks as it stands; none once it is handed over."""
    if answer.job.handed_over is not None:
        return []
    law = law_of(workshop, answer)
    return answer.once("unsafe", lambda: unsafe_now(answer.job, answer.machine, law))


def breaking_of(workshop: Workshop, answer: Answer) -> dict[str, str]:
    """Return by the id of an entry why it would be refused today."""
    law = law_of(workshop, answer)
    return answer.once("breaking", lambda: breaking(answer.job, answer.machine, law))


def declares(answer: Answer, check: Check) -> bool:
    """Return whether plugging in for a check is a live test that somebody has to answer for: with
    something open, with an interlock defeated, or with a danger not settled."""
    machine, job = answer.machine, answer.job
    return bool(
        opened(machine, way_of(machine, check.needs.off))
        or job.interlocks
        or answer.danger is not None
    )
