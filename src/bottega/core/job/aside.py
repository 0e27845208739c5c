"""Checks that are out of the question for now: those set aside, and what shares the reason."""

from bottega.core.job.events import SetAside
from bottega.core.job.job import Job
from bottega.core.library.machine_type import Check, MachineType


def out_of_reach(job: Job, machine: MachineType) -> set[str]:
    """Return the checks that were set aside and every other one for which the same reason holds."""
    gone = set(job.set_aside)
    for aside in job.set_aside.values():
        gone |= shares(job, machine, aside)
    return gone


def shares(job: Job, machine: MachineType, aside: SetAside) -> set[str]:
    """Return the other checks a reason takes along.

    A missing tool takes all that want it. No access takes all that need something off that this
    one needs and that is not off yet, or the machine tipped as this one does. What is not allowed,
    or too dangerous, takes all that go as far: live and open, live, opened, tipped, or for
    qualified people only.
    """
    check = machine.checks.get(aside.check)
    if check is None:
        return set()
    others = [other for other in machine.checks.values() if other.id != check.id]
    match aside.why:
        case "tool_missing":
            return {o.id for o in others if check.tool != "none" and o.tool == check.tool}
        case "no_access":
            shut = set(check.needs.off) - set(job.state.off)
            tipped = not shut and check.needs.posture == "tipped"
            return {
                o.id
                for o in others
                if shut & set(o.needs.off) or (tipped and o.needs.posture == "tipped")
            }
        case "not_allowed" | "too_dangerous":
            far = _traits(check)
            return {o.id for o in others if far and far <= _traits(o)}
        case _:
            return set()


def _traits(check: Check) -> set[str]:
    """Return what about a check somebody may forbid, or find too dangerous."""
    live, opened = check.needs.power == "on", bool(check.needs.off)
    traits = {
        "live": live,
        "opened": opened,
        "tipped": check.needs.posture == "tipped",
        "qualified": check.who == "qualified",
    }
    return {name for name, has in traits.items() if has}
