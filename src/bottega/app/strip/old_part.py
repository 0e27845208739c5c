"""The part that came out: what looks at it on the bench, and whether anybody has."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.core.job.events import Repaired
from bottega.core.library.machine_type import Check, MachineType


@dataclass(frozen=True)
class OldPart:
    """A part that came out: its name, the event it came out by, and the check that looks at it."""

    name: str
    repaired: str
    check: Check


def looks_at(machine: MachineType, component: str) -> Check | None:
    """Return the check by which a part is looked at on the bench; None where there is none."""
    return next((check for check in machine.checks.values() if check.in_hand == component), None)


def old_part_of(answer: Answer) -> OldPart | None:
    """Return the part that came out last; None where nobody can look at it, or somebody did."""
    job, machine = answer.job, answer.machine
    last = next((e for e in reversed(job.live) if isinstance(e.body, Repaired)), None)
    made = last.body if last else None
    repair = machine.repairs.get(made.repair) if isinstance(made, Repaired) else None
    if last is None or repair is None or repair.do != "part":
        return None
    check = looks_at(machine, repair.component)
    looked = {(entry.epoch, body.check) for entry, body in job.checked()}
    if check is None or (last.epoch, check.id) in looked:
        return None
    return OldPart(machine.components[repair.component].name, last.event.id, check)
