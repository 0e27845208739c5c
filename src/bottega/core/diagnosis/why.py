"""Why this check is first, why not another one, and what has not been looked at: in plain sentences
with numbers."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from bottega.core.diagnosis.evidence import Evidence, Source
from bottega.core.diagnosis.explain import unlooked
from bottega.core.diagnosis.model import DiagnosisModel
from bottega.core.diagnosis.plan import Plan, Step
from bottega.core.diagnosis.words import fault_phrase, shares
from bottega.core.library.machine_type import MachineType
from bottega.core.wording import lower_first

Money = Callable[[float], str]
"""Says an amount in the library's euro in the shop's currency."""
SMALL = 0.02
"""A check that moves no fault by more than this on any answer hardly says anything."""

ASKED_FIRST = "it needs no machine, so it comes before any check"


@dataclass(frozen=True)
class Unlooked:
    """An effect of a suspected fault that nothing is known about yet, and the check that reads it
    soonest."""

    effect: str
    check: str | None
    check_name: str


def why_first(
    machine: MachineType,
    plan: Plan,
    now: Mapping[str, float],
    found: Evidence,
    *,
    step: Step,
    money: Money,
) -> list[str]:
    """Return why ``step`` is done now, in sentences with numbers. ``now`` is the present
    probability of every fault, ``found`` what was found so far."""
    told = [_taken(step), _without(machine, plan, money)]
    told += _on_purpose(machine, now, found, step)
    if step.safety:
        told.append("It tells whether a dangerous fault is there; that goes before money.")
    likely = max(step.outcomes, key=lambda outcome: outcome.chance, default=None)
    told_shares = shares([outcome.chance for outcome in step.outcomes])
    for outcome, share in zip(step.outcomes, told_shares, strict=True):
        fault, chance = outcome.after[0]
        most = " and the likeliest answer" if outcome is likely else ""
        told.append(
            f"“{outcome.label}” comes with {share}{most}; "
            f"then {fault_phrase(machine, fault)} stands at {chance:.0%}."
        )
    others = [other for other in plan.steps if other.check.id != step.check.id]
    if others:
        told.append(_against(step, others[0], money))
    return told


def why_not(
    machine: MachineType, plan: Plan, now: Mapping[str, float], step: Step, *, money: Money
) -> list[str]:
    """Return why ``step`` is not done before the plan's own next step; empty when it is that step.

    ``now`` is the present probability of every fault.
    """
    first = plan.next
    if first is None:
        return [
            f"Nothing left is worth checking. {_taken(step)}",
            f"It would {_saves(step, money)}.",
        ]
    if first.check.id == step.check.id:
        return []
    told = [f"It would {_saves(step, money)}; “{first.check.name}” would {_saves(first, money)}."]
    if first.safety:
        told.append("The first one is there for safety, which goes before money.")
    elif _asked_first(first, step):
        told.append(f"The first one is a question: {ASKED_FIRST}.")
    if step.reach.minutes > first.reach.minutes + 0.5:
        way = ", ".join(s.name.lower() for s in step.reach.steps[:4])
        told.append(
            f"Reaching it takes {step.reach.minutes:.0f} min ({way}); reaching the first one "
            f"{first.reach.minutes:.0f} min."
        )
    moved = max((abs(p - now[f]) for o in step.outcomes for f, p in o.after), default=0.0)
    if step.outcomes and moved < SMALL:
        told.append("Whatever it shows, the ranking stays almost as it is.")
    elif step.parts_faults:
        named = " and ".join(
            f"{fault_phrase(machine, f)} ({now[f]:.0%} now)" for f in step.parts_faults
        )
        apart = len(step.parts_faults) > 1
        told.append(f"It tells {named} apart." if apart else f"It speaks for or against {named}.")
    return told


def not_looked_at(
    model: DiagnosisModel, evidence: Evidence, steps: Sequence[Step], fault: str
) -> list[Unlooked]:
    """Return what a fault would show that nobody has looked at, each with the open check that is
    quickest to reach."""
    machine = model.machine
    steps = sorted(steps, key=lambda step: step.minutes)
    found = []
    for effect in unlooked(model, evidence, fault):
        step = next((step for step in steps if step.check.effect == effect), None)
        found.append(
            Unlooked(
                machine.effects[effect].name,
                step.check.id if step else None,
                step.check.name if step else "",
            )
        )
    return found


def _on_purpose(
    machine: MachineType, now: Mapping[str, float], found: Evidence, step: Step
) -> list[str]:
    """Return why to flex, warm or repeat: for what comes and goes."""
    told = []
    for name, chance in step.check.provokes:
        if name in now and now[name] > SMALL:
            told.append(
                f"{fault_phrase(machine, name)} comes and goes: it shows in "
                f"{machine.faults[name].shows:.0%} of the runs by itself, and in {chance:.0%} "
                "while this is done."
            )
    if any(f.source == Source("check", step.check.id) for f in found.findings):
        told.append(
            "It was answered before. What it reads may come and go, so it may say something else "
            "now."
        )
    return told


def _taken(step: Step) -> str:
    reach = (
        f", {step.reach.minutes:.0f} of them to reach it"
        if step.reach.minutes >= 0.5
        else ", and it is at hand"
    )
    return f"It takes {max(step.minutes, 1):.0f} min{reach}."


def _without(machine: MachineType, plan: Plan, money: Money) -> str:
    cost = money(plan.ends.cost)
    names = [
        machine.repairs[r].name if r in machine.repairs else "call it sound"
        for r in plan.ends.repairs[:3]
    ]
    if not names:
        return f"Without another check the cheapest end is to hand it to another firm, {cost}."
    if plan.ends.open_end:
        return (
            "Without another check the cheapest is to begin with one repair, "
            f"{lower_first(names[0])}, and to find out after it what is left: {cost} on average."
        )
    return (
        "Without another check, one repair after the other, none telling of the next, costs "
        f"{cost} on average: "
        f"{', then '.join(lower_first(n) for n in names)}."
    )


def _asked_first(step: Step, other: Step) -> bool:
    return step.check.who == "customer" and other.check.who != "customer"


def _against(step: Step, other: Step, money: Money) -> str:
    less = money(max(step.saving - other.saving, 0.0))
    if step.safety or step.saving <= other.saving:
        asked = f" But this is a question: {ASKED_FIRST}." if _asked_first(step, other) else ""
        return (
            f"By money alone “{other.check.name}” would come first; it would "
            f"{_saves(other, money)}.{asked}"
        )
    if other.saving < 0:
        return f"The next best, “{other.check.name}”, would {_saves(other, money)}."
    return f"The next best, “{other.check.name}”, saves {less} less."


def _saves(step: Step, money: Money) -> str:
    if step.saving >= 0:
        return f"save {money(step.saving)}"
    return f"cost {money(-step.saving)} more than it saves"
