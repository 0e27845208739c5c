"""A round: what else pays while the machine stands as the next check wants it."""

from dataclasses import dataclass

from bottega.core.diagnosis.plan import Plan, Step
from bottega.core.library.machine_type import MachineType
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

MOST_IN_A_ROUND = 4
"""The most checks of a round; after them the ranking is another one anyway."""


@dataclass(frozen=True)
class CheckRound:
    """Checks done one after the other in one state: the first is the next step. Minutes exclude
    reaching."""

    words: str
    checks: tuple[Step, ...]
    minutes: float


def round_of(
    machine: MachineType,
    plan: Plan,
    state: MachineState,
    reaching: Reaching,
    *,
    rate_per_min: float,
    least_saving: float,
    first: Step | None = None,
) -> CheckRound | None:
    """Return the round that begins with ``first`` (the next step if none is given); None when
    nothing else belongs to it.

    A check belongs to it when it can be done where the first one leaves the machine, and would save
    more than its own minutes cost once there. Questions to the customer can be asked in any state
    and make no round.
    """
    first = first or plan.next
    if first is None or first.check.who == "customer":
        return None
    there = reaching.arrived(state, first.check.needs)
    others = [
        step
        for step in plan.steps
        if step.check.id != first.check.id
        and step.check.who != "customer"
        and step.worth + step.reach.minutes * rate_per_min > least_saving
        and there.meets(step.check.needs)
    ][: MOST_IN_A_ROUND - 1]
    if not others:
        return None
    checks = (first, *others)
    return CheckRound(
        state_words(machine, there), checks, sum(step.check.minutes for step in checks)
    )


def state_words(machine: MachineType, state: MachineState) -> str:
    """Return how the machine stands, as said before a list of checks: "While it is on its back"."""
    if state.posture == "tipped":
        return "While it is on its back"
    if state.off:
        name = machine.operations[state.off[-1]].name
        return f"After “{name[0].lower()}{name[1:]}”"
    if state.power == "on":
        return "While it is plugged in"
    return "While it stands unplugged" if state.power == "off" else "As it stands"
