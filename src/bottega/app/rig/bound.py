"""A job bound to a machine of physics: called about it, and its checks done by acting on it."""

from dataclasses import replace

from bottega.app.answer import Answer
from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record_on
from bottega.app.measure.reading import take_reading
from bottega.app.rig.fetch import stand
from bottega.app.rig.hands import told_of
from bottega.app.rig.in_hand import stand_at
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked
from bottega.core.library.machine_type import MachineType
from bottega.rig.asking import Bench


def noticed(bench: Bench, machine: MachineType) -> list[str]:
    """Return the phrases of what the world's customer noticed in the last washes, in the
    library's order."""
    return [
        complaint.id
        for complaint in machine.complaints.values()
        if bench.noticed(machine.effects[complaint.effect], "call") in complaint.record.reports
    ]


def call_about(workshop: Workshop, name: str, author: str, event_id: str) -> Answer:
    """Open a job about a machine of physics, with what its customer noticed and how plug
    and taps stand, and bind it. Raises Refused where a job is bound to it already."""
    found = stand(workshop, name)
    with found.lock:
        if found.ticket.job is not None:
            raise Refused(f"Job {found.ticket.job} is about this machine already.", "job")
        said = tuple(noticed(found.bench, found.machine_type))[:4]
        told = "; ".join(found.machine_type.complaints[phrase].record.says for phrase in said)
        call = Call(
            machine=found.ticket.sheet or found.ticket.archetype,
            place="On the rig",
            age_years=7,
            power="on" if found.machine.plugged else "off",
            taps="open" if found.machine.tap_open else "shut",
        )
        words = Words(text=told or "It is to be looked over", exact=said)
        answer = open_job(workshop, call, words, author, event_id=event_id)
        workshop.rigs.keep(replace(found.ticket, job=answer.number))
        return answer


def check_on_rig(
    workshop: Workshop, number: str, check_id: str, author: str, *, event_id: str, seen: int | None
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
    at = stand_at(workshop, ticket.name)
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
        best = answer.machine.answer_for(check, told.state)
        body = Checked(check=check_id, outcome=best.id)
    return record_on(workshop, answer, body, author, event_id=event_id, seen=seen)
