"""What made a part fail, what it may have taken with it, and cures that nobody can explain."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.job.job import Job
from bottega.core.library.machine_type import Check, MachineType, Outcome
from bottega.core.library.speaking import speaks_for, telling_checks

FOLLOWS = 0.08
"""A fault that another brings along with at least this chance is asked about once that other is
found."""
TELLS_APART = 0.5
"""A check tells a fault when its answers move this far from those of a sound machine."""
WITHOUT_CURE = ("advise", "refer")


@dataclass(frozen=True)
class Linked:
    """A fault tied to one that was put right: what may have caused it, or what it may have
    caused."""

    fault: str
    of: str
    side: Literal["cause", "consequence"]
    check: str | None
    """The check that tells it best, if one does."""
    found: bool
    """Whether a check has found it there."""
    settled: bool


def linked(job: Job, machine: MachineType) -> list[Linked]:
    """Return the causes and consequences of every fault put right that were not put right with it,
    causes first."""
    ended = set(job.faults_ended(machine))
    found: dict[str, Linked] = {}
    for fault in (f for f in machine.faults if f in ended and spoken_for(job, machine, f)):
        causes = [
            name
            for name, record in machine.faults.items()
            if record.causes.get(fault, 0) >= FOLLOWS
        ]
        results = [
            name for name, chance in machine.faults[fault].causes.items() if chance >= FOLLOWS
        ]
        for side, names in (("cause", causes), ("consequence", results)):
            for name in (n for n in names if n not in ended):
                found.setdefault(name, _link(job, machine, name, fault, side=side))  # type: ignore[arg-type]
    return sorted(found.values(), key=lambda link: link.side)


def whys(job: Job, machine: MachineType) -> list[tuple[str, str]]:
    """Return (fault, question) for every fault put right whose failure wants to be explained."""
    asked = []
    for name in job.faults_ended(machine):
        ask = machine.faults[name].ask_why
        if ask and spoken_for(job, machine, name):
            asked.append((name, ask))
    return asked


def unexplained(job: Job, machine: MachineType) -> list[str]:
    """Return the repairs that put right something no check ever showed, in the order they were
    made."""
    made = job.repairs_made(machine)
    blind = [
        r.id
        for r in made
        if r.do not in WITHOUT_CURE and not any(spoken_for(job, machine, f) for f, _ in r.covers)
    ]
    return list(dict.fromkeys(blind))


def spoken_for(job: Job, machine: MachineType, fault: str) -> bool:
    """Return whether some check or mark found an effect of this fault in the state the fault
    brings."""
    for _, body in job.checked():
        check = machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        if check and outcome and speaks_for(machine, check, outcome, fault):
            return True
    return False


def _link(
    job: Job, machine: MachineType, name: str, of: str, *, side: Literal["cause", "consequence"]
) -> Linked:
    telling = _own_checks(machine, name)
    answers = _answers(job, telling)
    bad = any(outcome.is_bad for outcome in answers)
    settled = name in job.causes_closed or (bool(answers) and not bad)
    easiest = min(telling, key=lambda check: check.minutes, default=None)
    return Linked(name, of, side, easiest.id if easiest else None, bad, settled)


def _own_checks(machine: MachineType, fault: str) -> list[Check]:
    """Return the checks that tell a fault by the effect it shares with the fewest other faults."""
    telling = [
        machine.checks[check]
        for check, moved in telling_checks(machine, fault)
        if moved >= TELLS_APART
    ]
    shared = {
        c.effect: sum(c.effect in other.effects for other in machine.faults.values())
        for c in telling
    }
    fewest = min(shared.values(), default=0)
    return [check for check in telling if shared[check.effect] == fewest]


def _answers(job: Job, checks: list[Check]) -> list[Outcome]:
    """Return the last answer of each of the checks that has been done."""
    last = {body.check: body.outcome for _, body in job.checked()}
    outcomes = [check.outcome(last[check.id]) for check in checks if check.id in last]
    return [outcome for outcome in outcomes if outcome]
