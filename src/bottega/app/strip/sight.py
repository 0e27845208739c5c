"""What has come into sight: checks by eye and hand that the last thing taken off has laid open."""

from bottega.app.answer import Answer
from bottega.core.library.machine_type import Check

MOST_OFFERED = 3
"""Checks offered at a time; chosen, somebody stands there with a screwdriver."""
LONGEST_MIN = 5.0
"""Minutes of one that is made in passing; chosen."""


def in_sight(answer: Answer) -> list[Check]:
    """Return the checks that what came off last has laid open and that can be answered at once, by
    what they save; none that was answered or set aside."""
    off = answer.job.state.off
    if not off:
        return []
    passed = answer.job.done_now() | set(answer.job.set_aside)
    worth = {step.check.id: place for place, step in enumerate(answer.plan.steps)}
    found = [
        check
        for check in answer.machine.checks.values()
        if check.id in worth and check.id not in passed
        if _by_eye(check) and _laid_open(answer, check, off[-1])
        if answer.job.state.meets(check.needs)
    ]
    return sorted(found, key=lambda check: worth[check.id])[:MOST_OFFERED]


def _by_eye(check: Check) -> bool:
    return (
        check.measure is None
        and not check.watches
        and check.who != "customer"
        and check.minutes <= LONGEST_MIN
    )


def _laid_open(answer: Answer, check: Check, operation: str) -> bool:
    """Return whether an operation is what a check waited for: it lies on the check's own way, or on
    that of the part it looks at."""
    machine = answer.machine
    way = (*check.needs.off, *machine.out.get(check.in_hand or check.component, ()))
    return bool(machine.done_by((operation,)) & set(way))
