"""A job bound to a machine of physics: its checks are done by acting on it, and what was put
right is right there."""

from random import Random

from bottega.app.answer import Answer
from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.measure.reading import take_reading
from bottega.app.rig.hands import told_of
from bottega.app.rig.stand import Stand, stand
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked
from bottega.core.library.machine_type import MachineType
from bottega.rig.asking import Bench, perceived
from bottega.store.rigs import RigTicket


def noticed(bench: Bench, machine: MachineType) -> list[str]:
    """Return the phrases of what the world's customer noticed in the last washes, in the
    library's order."""
    diary, found = bench.diary("call"), []
    for complaint in machine.complaints.values():
        recipe = machine.effects[complaint.effect].on_rig
        if recipe is None or recipe.act == "social":
            continue
        try:
            state = perceived(
                recipe, diary, "run", Random(f"{bench.seed}:{complaint.id}"), lapses=False
            )
        except KeyError:
            continue
        if state in complaint.record.reports:
            found.append(complaint.id)
    return found


def call_about(workshop: Workshop, name: str, author: str, event_id: str) -> Answer:
    """Open a job about a machine of physics, with what its customer noticed, and bind it. Raises
    Refused where a job is bound to it already."""
    found = stand(workshop, name)
    if found.ticket.job is not None:
        raise Refused(f"Job {found.ticket.job} is about this machine already.", "job")
    said = tuple(noticed(found.bench, found.machine_type))[:4]
    told = "; ".join(found.machine_type.complaints[phrase].record.says for phrase in said)
    call = Call(
        machine=found.ticket.sheet or found.ticket.archetype, place="On the rig", age_years=7
    )
    words = Words(text=told or "It is to be looked over", exact=said)
    answer = open_job(workshop, call, words, author, event_id)
    bound = RigTicket(
        found.ticket.name,
        found.ticket.archetype,
        found.ticket.sheet,
        found.ticket.seed,
        found.ticket.faults,
        answer.number,
    )
    workshop.rigs.keep(bound)
    return answer


def bench_of(workshop: Workshop, answer: Answer, ticket: RigTicket) -> Stand:
    """Return the machine a job is bound to, without what the job has put right."""
    found = stand(workshop, ticket.name)
    covered = {
        fault
        for repair in answer.job.repairs
        if repair.repair in answer.machine.repairs
        for fault, _ in answer.machine.repairs[repair.repair].covers
    }
    left = found.specimen.without(frozenset(covered))
    found.bench = Bench(left, f"{ticket.seed}:{len(covered)}")
    found.hands = answer.job.state
    return found


def check_on_rig(
    workshop: Workshop, number: str, check_id: str, author: str, event_id: str, seen: int | None
) -> Answer:
    """Do a check of a job at the machine it is bound to and write down what it tells. Raises
    Refused where the job has no machine, where something is in the way, or where nothing is
    to be seen."""
    answer = diagnose(workshop, number)
    ticket = workshop.rigs.of_job(number)
    if ticket is None:
        raise Refused("This job has no machine on the rig.", "check")
    check = answer.machine.checks.get(check_id)
    if check is None:
        raise Refused(
            f"Found the check '{check_id[:40]}', expected one of this machine's.", "check"
        )
    lacks = answer.job.state.lacks(check.needs)
    off = [
        answer.machine.operations[name].name
        for what, name in lacks
        if what == "off" and name in answer.machine.operations
    ]
    if off:
        raise Refused(f"It cannot be come at yet. First: {', '.join(off)}.", "check")
    at = bench_of(workshop, answer, ticket)
    told = told_of(at, check, f"{number}:{answer.seq}")
    if check.watches:
        shown = tuple(noticed(at.bench, answer.machine))
        body = Checked(check=check_id, outcome=check.outcomes[1 if shown else 0].id, showed=shown)
    elif told.measured:
        unit = (
            workshop.shelf.tables.quantities[check.measure.quantity].unit if check.measure else ""
        )
        typed = (
            "OL"
            if told.amount is None
            else f"{told.amount:.4g} {unit}".replace("dimensionless", "").strip()
        )
        body = take_reading(workshop, answer.job, answer.machine, check_id, typed)
    else:
        states = answer.machine.effects[check.effect].states
        at_state = states.index(told.state) if told.state in states else 0
        best = max(check.outcomes, key=lambda outcome: outcome.chances[at_state])
        body = Checked(check=check_id, outcome=best.id)
    return record(workshop, number, body, author, event_id, seen)
