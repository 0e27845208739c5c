"""What this shop found on machines of a kind before a job was opened: the counts that feed the
odds."""

from bottega.app.workshop import Workshop
from bottega.core.diagnosis.history import scales
from bottega.core.library.machine_type import MachineType

LEAST_CORRECTION = 0.05
"""A correction smaller than this is no correction; chosen, a twentieth of a rate is below what
rates are known to."""


def odds_now(workshop: Workshop, machine: MachineType) -> dict[str, float]:
    """Return by what each fault's rate is multiplied for a job opened now, from the jobs handed
    over before.

    It is written into the opening of the job, so that its ranking follows from its own log for
    good; what would change a rate by less than a twentieth is left out. Counted by the database, in
    two statements.
    """
    closed, counts = workshop.summaries.put_right_before(workshop.now(), machine.archetype)
    scaled = scales(machine, counts, closed, workshop.shelf.tables.engine)
    return {
        fault: round(scale, 3)
        for fault, scale in scaled.items()
        if abs(scale - 1) > LEAST_CORRECTION
    }
