"""The plan of opening a job's machine for what was decided on, from where it stands."""

from datetime import timedelta
from math import ceil

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.job.events import Soaked, TookOff
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.records import Needs, OperationRecord
from bottega.core.machine.reach import Reach
from bottega.core.strip.order import Order
from bottega.core.strip.pace import paced
from bottega.core.strip.plan import StripPlan, StripWay, plan, steps_of


def machine_here(workshop: Workshop, answer: Answer) -> MachineType:
    """Return a job's machine with the minutes this shop's plans count with."""
    return paced(answer.machine, dict(workshop.settings.pace))


def plan_of(workshop: Workshop, answer: Answer, repair: RepairOption) -> StripPlan:
    """Return the ways to a repair and back, the shortest first; what soaks already soaks on."""
    soaking = soaking_of(workshop, answer)
    tables = workshop.shelf.tables
    job, machine = answer.job, machine_here(workshop, answer)
    return plan(machine, tables, job.state, repair.way, soaking=soaking, stuck=job.stuck)


def decided_repair(answer: Answer) -> RepairOption | None:
    """Return the repair that was decided on and comes next, or the last one where all are made;
    None when there is none, or the library has lost it."""
    decided = answer.job.decided
    names = answer.job.to_make[:1] or (decided.repairs[-1:] if decided else ())
    return answer.machine.repairs.get(names[0]) if names else None


def is_made(answer: Answer) -> bool:
    """Return whether everything that was decided on last was made since."""
    decided = answer.job.decided
    return decided is not None and bool(decided.repairs) and not answer.job.to_make


def still_to_open(answer: Answer) -> bool:
    """Return whether the repair decided on has something left to be opened or made safe for it."""
    repair, state = decided_repair(answer), answer.job.state
    if repair is None or is_made(answer):
        return False
    done = answer.machine.done_by(state.off)
    lacks = state.lacks(repair.way)
    return any(field != "off" or to not in done for field, to in lacks)


def reach_by(workshop: Workshop, answer: Answer, repair: RepairOption, way: StripWay) -> Reach:
    """Return a way as steps, with what opening takes."""
    machine = machine_here(workshop, answer)
    steps = steps_of(machine, workshop.shelf.tables, way, repair.way)
    return Reach(steps, way.first_minutes + way.opening.minutes)


def way_back(workshop: Workshop, answer: Answer) -> Order:
    """Return what is off in the order in which it goes back, from how the machine stands."""
    machine = machine_here(workshop, answer)
    nothing = plan(machine, workshop.shelf.tables, answer.job.state, Needs())
    return nothing.best.closing


def soaking_of(workshop: Workshop, answer: Answer) -> dict[str, float]:
    """Return what was oiled and is still on, with the whole minutes it has yet to soak; whole ones,
    so that a plan stands for a minute."""
    left: dict[str, float] = {}
    for entry in answer.job.live:
        body = entry.body
        if isinstance(body, Soaked):
            passed = (workshop.now() - entry.event.at) / timedelta(minutes=1)
            left[body.operation] = float(max(0, ceil(body.minutes - passed)))
        elif isinstance(body, TookOff):
            left.pop(body.operation, None)
    return {name: minutes for name, minutes in left.items() if name in answer.machine.operations}


def photos_of(answer: Answer) -> dict[str, str]:
    """Return by operation the last photo that was taken before it came off."""
    return {
        body.operation: body.photo
        for entry in answer.job.live
        if isinstance(body := entry.body, TookOff) and body.photo
    }


def tags_of(answer: Answer) -> list[tuple[OperationRecord, str]]:
    """Return what came off and is off now, with what becomes of it where somebody said."""
    said = {
        body.operation: body.tag
        for entry in answer.job.live
        if isinstance(body := entry.body, TookOff) and body.tag
    }
    operations = answer.machine.operations
    return [(operations[n], said[n]) for n in answer.job.state.off if n in said and n in operations]
