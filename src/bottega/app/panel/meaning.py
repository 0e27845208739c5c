"""What a code may mean before anybody has looked at the machine: what a job says that knows this
code and nothing else, in the job's own words."""

from dataclasses import dataclass

from bottega.app.job.answer import diagnose_events
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.alone import TOLD_FROM
from bottega.core.diagnosis.words import fault_title, step_reason
from bottega.core.job.events import AnyBody, Event, Opened, PanelRead
from bottega.core.library.machine_type import Check, Code, MachineType

MOST_CAUSES, MOST_CHECKS = 4, 3
"""Chosen, what is read at one look."""
NOBODY = "look-up"
"""Who opens a job that is never kept."""


@dataclass(frozen=True)
class Cause:
    """What may have stored a code, and its chance, 0..1."""

    name: str
    chance: float


@dataclass(frozen=True)
class NextCheck:
    """A check the job would propose, and its reason."""

    check: Check
    reason: str


@dataclass(frozen=True)
class Meaning:
    """The likeliest causes of a code, and what a job would check first."""

    causes: tuple[Cause, ...] = ()
    checks: tuple[NextCheck, ...] = ()


def meaning_of(workshop: Workshop, machine: MachineType, code: Code) -> Meaning:
    """Return what a job would say of a code that the customer told of, and of nothing else."""
    bodies: list[AnyBody] = [
        Opened(archetype=machine.archetype, sheet=machine.sheet, place=NOBODY),
        PanelRead(result="codes", codes=(code.id,), told=True),
    ]
    events = [
        Event(id=f"{NOBODY}-{n}", at=workshop.now(), author=NOBODY, body=body)
        for n, body in enumerate(bodies)
    ]
    answer = diagnose_events(workshop, NOBODY, events, workshop.settings, machine=machine)
    likely = [(fault, p) for fault, p in answer.ranking[:MOST_CAUSES] if p >= TOLD_FROM]
    causes = [Cause(fault_title(machine, fault), p) for fault, p in likely]
    sound = answer.belief.sound
    nothing = [Cause("Nothing wrong with it", sound)] if sound >= TOLD_FROM else []
    paying = [step for step in answer.plan.steps if step.worth_it][:MOST_CHECKS]
    checks = [
        NextCheck(step.check, step_reason(machine, step)) for step in map(answer.foretold, paying)
    ]
    return Meaning((*causes, *nothing), tuple(checks))
