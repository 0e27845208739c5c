"""Decide: the choices with their quotes, and what is not known."""

from pydantic import ValidationError

from bottega.app.answer import Answer
from bottega.app.decide.verdict import fails_still, untried
from bottega.app.errors import BadValue, Refused
from bottega.app.values import refused, shown
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.explain import unlooked
from bottega.core.diagnosis.plan import Step
from bottega.core.job.events import Decided, QuoteLine
from bottega.core.job.fold import stood_of
from bottega.core.wording import upper_first
from bottega.core.worth.options import Option, needed, options


def choices(workshop: Workshop, answer: Answer) -> list[Option]:
    """Return the ways to decide, in the plan's order."""
    order, fails = answer.plan.ends.repairs, answer.evidence.keeps_failing
    stood, tables = stood_of(answer.job), workshop.shelf.tables
    found = options(
        answer.belief, stood, tables, workshop.settings, order=order, keeps_failing=fails
    )
    missing = untried(answer, workshop.settings.prove_at) or fails_still(answer)
    return [option for option in found if option.choice != "nothing_wrong" or not missing]


def refuse_unfounded(workshop: Workshop, answer: Answer, body: Decided) -> None:
    """Raise Refused where it is decided that nothing is wrong without its evidence; and, in a shop
    that proves first, on a part below its mark of proof without a reason."""
    if body.choice == "repair" and workshop.settings.school == "prove_first":
        _refuse_unproved(workshop, answer, body)
    if body.choice != "nothing_wrong":
        return
    if fails_still(answer):
        raise Refused("The machine fails since its repair: something is wrong with it.", "choice")
    missing = untried(answer, workshop.settings.prove_at)
    if missing:
        raise Refused(
            f"“Nothing wrong” wants its evidence. Still to be tried: {'; '.join(missing)}.",
            "choice",
        )


def _refuse_unproved(workshop: Workshop, answer: Answer, body: Decided) -> None:
    machine, mark = answer.machine, workshop.settings.prove_at
    for name in body.repairs:
        repair = machine.repairs.get(name)
        chance = needed(answer.belief, repair) if repair else 1.0
        if repair and repair.buys and chance < mark and not body.reason.strip():
            raise Refused(
                f"“{repair.name}” is not proved: it is needed in {int(chance * 100)}% of cases "
                f"like this one, and this shop buys from {mark:.0%} on. Write why it is decided "
                "all the same, or prove it first.",
                "reason",
            )


def proving(workshop: Workshop, answer: Answer, option: Option) -> Step | None:
    """Return the check that is made before the repairs of an ``option``: the plan's next where it
    pays and they are not likely enough to end it, else the cheapest that would show a fault their
    parts are for and costs less than the parts are expected to be bought in vain. None where no
    check does."""
    if not option.repairs:
        return None
    if answer.plan.next is not None and option.ends < workshop.settings.prove_at:
        return answer.plan.next
    shown = {
        sight[0].id: (1 - needed(answer.belief, repair)) * workshop.settings.charged(price)
        for repair in option.repairs
        if (price := repair.price_eur)
        for fault, _ in repair.covers
        if (sight := answer.machine.sight_of(fault))
    }
    steps = [
        step
        for step in answer.plan.steps
        if workshop.settings.money(step.cost) < shown.get(step.check.id, 0.0)
    ]
    return min(steps, key=lambda step: step.cost, default=None)


def bill(workshop: Workshop, option: Option) -> tuple[QuoteLine, ...]:
    """Return the lines of an option's quote, the tax last."""
    tax = QuoteLine(text=f"Tax {workshop.settings.tax_rate:.0%}", amount=option.quote.tax)
    lines = option.quote.lines
    return (*(QuoteLine(text=line.text, amount=round(line.amount, 2)) for line in lines), tax)


def decision(
    workshop: Workshop, answer: Answer, choice: str, repair: str | None, *, reason: str
) -> Decided:
    """Return the decision with its quote as it stands; ``repair`` is a repair's id, or those of a
    set joined by commas. Raises BadValue for a choice that is not offered."""
    found = next(
        (
            o
            for o in choices(workshop, answer)
            if (o.choice, o.key if o.repairs else None) == (choice, repair or None)
        ),
        None,
    )
    if found is None:
        raise BadValue(
            f"Found the choice {shown(repair or choice)}, expected one that is offered on "
            "this job.",
            "choice",
        )
    try:
        return Decided(
            choice=found.choice,
            repair=found.repairs[0].id if found.repairs else None,
            also=tuple(one.id for one in found.repairs[1:]),
            lines=bill(workshop, found),
            total=found.quote.total,
            currency=workshop.settings.currency,
            reason=reason,
        )
    except ValidationError as error:
        raise refused(error, "reason") from error


def seen_faults(answer: Answer) -> set[str]:
    """Return the faults that were seen: some check in this epoch found a state that, of all the
    faults of this machine, only one brings about."""
    machine, seen = answer.machine, set()
    for finding in answer.evidence.findings:
        if finding.source.kind != "check" or finding.epoch != answer.job.epoch:
            continue
        states = finding.likelihood
        found = max(range(len(states)), key=lambda k: states[k])
        makers = [f for f, fault in machine.faults.items() if finding.effect in fault.effects]
        if found > 0 and len(makers) == 1:
            seen.add(makers[0])
    return seen


def not_known(answer: Answer) -> list[str]:
    """Return, in sentences, what was not proved and not looked at about the likeliest faults."""
    machine, said = answer.machine, []
    seen = seen_faults(answer)
    for fault, chance in answer.ranking[:3]:
        if 0.05 <= chance < 0.95 and fault not in seen:
            said.append(
                f"{upper_first(machine.component_of(fault).name)}, "
                f"{machine.faults[fault].name}: {chance:.0%}, not ruled out."
            )
    for effect in unlooked(answer.belief.model, answer.evidence, answer.ranking[0][0])[:3]:
        said.append(f"Not looked at: {machine.effects[effect].name}.")
    if answer.belief.healthy > 0.05:
        said.append(f"Nothing wrong at all: {answer.belief.healthy:.0%}.")
    return said
