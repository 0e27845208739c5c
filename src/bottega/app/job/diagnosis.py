"""The diagnosis of a job as plain data and as text: for the API, the command line, and other
programs."""

from pydantic import BaseModel

from bottega.app.answer import Answer
from bottega.app.decide.verdict import State, verdict_of
from bottega.core.diagnosis.words import fault_title, finding_words, shares, step_reason


class FaultItem(BaseModel):
    """A fault with its present probability."""

    fault: str
    name: str
    probability: float


class WeightItem(BaseModel):
    """What a finding says for the leading fault."""

    found: str
    kind: str
    source: str
    """The id of the check, phrase, code or mark in the library."""
    decibans: float


class OutcomeItem(BaseModel):
    """An outcome of a step: its chance and the ranking after it."""

    outcome: str
    label: str
    chance: float
    after: list[FaultItem]


class SetItem(BaseModel):
    """Faults that are there together, with the probability of just this set; no fault is nothing
    wrong."""

    faults: list[str]
    probability: float


class StepItem(BaseModel):
    """A next step: saving and cost in the library's euro, minutes with reaching."""

    check: str
    name: str
    saving: float
    cost: float
    minutes: float
    reach: list[str]
    reason: str
    worth_it: bool
    safety: bool
    outcomes: list[OutcomeItem]


class VerdictItem(BaseModel):
    """What a job says of itself: the state, its title, one sentence for the customer, the faults it
    speaks of."""

    state: State
    title: str
    customer: str
    faults: list[str]


class Diagnosis(BaseModel):
    """All that is believed of a job now."""

    number: str
    verdict: VerdictItem
    seq: int
    machine: str
    healthy: float
    entropy_bits: float
    expected_cost: float
    leading: str
    ranking: list[FaultItem]
    sets: list[SetItem]
    weights: list[WeightItem]
    conflict: float
    repeat: str | None
    danger: FaultItem | None
    """A fault that can hurt people and is likely: the machine is not used until it is settled."""
    repairs: list[str]
    """What to repair one after the other if nothing more is checked."""
    next: list[StepItem]


def diagnosis_of(answer: Answer, prove_at: float, most: int = 10) -> Diagnosis:
    """Return the diagnosis with the ``most`` likeliest faults and best steps; ``prove_at`` (0..1)
    is the shop's mark of proof."""
    machine, verdict = answer.machine, verdict_of(answer, prove_at)

    def item(fault: str, p: float) -> FaultItem:
        return FaultItem(fault=fault, name=fault_title(machine, fault), probability=p)

    steps = [
        StepItem(
            check=step.check.id,
            name=step.check.name,
            saving=step.saving,
            cost=step.cost,
            minutes=step.minutes,
            reach=[s.name for s in step.reach.steps],
            reason=step_reason(machine, step),
            worth_it=step.worth_it,
            safety=step.safety,
            outcomes=[
                OutcomeItem(
                    outcome=o.outcome,
                    label=o.label,
                    chance=o.chance,
                    after=[item(f, p) for f, p in o.after],
                )
                for o in step.outcomes
            ],
        )
        for step in map(answer.foretold, answer.plan.steps[:most])
    ]
    odd = answer.conflict.odd
    return Diagnosis(
        number=answer.number,
        verdict=VerdictItem(
            state=verdict.state,
            title=verdict.title,
            customer=verdict.customer,
            faults=list(verdict.faults),
        ),
        seq=answer.seq,
        machine=machine.title,
        healthy=answer.belief.healthy,
        entropy_bits=answer.belief.entropy_bits,
        expected_cost=answer.plan.expected_cost,
        leading=answer.leading,
        ranking=[item(f, p) for f, p in answer.ranking[:most]],
        sets=[
            SetItem(faults=list(faults), probability=p)
            for faults, p in answer.belief.likeliest_sets(most)
        ],
        weights=[
            WeightItem(
                found=finding_words(machine, w.finding),
                kind=w.finding.source.kind,
                source=w.finding.source.subject,
                decibans=w.decibans,
            )
            for w in answer.weights()
        ],
        conflict=answer.conflict.amount,
        repeat=odd.source.subject if odd else None,
        danger=item(*answer.danger) if answer.danger else None,
        repairs=list(answer.plan.ends.repairs),
        next=steps,
    )


def as_text(diagnosis: Diagnosis) -> str:
    """Return the diagnosis as a technician reads it: ranking, reasons, next steps."""
    lines = [f"Job {diagnosis.number}, {diagnosis.machine}"]
    if diagnosis.danger:
        lines.append(
            f"Stop using it now: {diagnosis.danger.name}, {diagnosis.danger.probability:.0%}"
        )
    lines += ["", "Ranking"]
    lines += [
        f"  {item.probability:6.1%}  {item.name}"
        for item in diagnosis.ranking
        if item.probability >= 0.005
    ]
    lines += [
        f"  {diagnosis.healthy:6.1%}  nothing wrong with it",
        "",
        "Reasons, for and against the first",
    ]
    told = sorted(
        (w for w in diagnosis.weights if abs(w.decibans) >= 0.5), key=lambda w: -abs(w.decibans)
    )
    lines += [f"  {w.decibans:+6.1f} dB  {w.found}" for w in told] or ["  by how often it happens"]
    lines += ["", "Next"]
    paying = [step for step in diagnosis.next if step.worth_it]
    if not paying:
        lines.append("  Nothing left is worth checking.")
    for step in paying[:5]:
        lines.append(
            f"  {step.name} ({step.minutes:.0f} min, saves {step.saving:.1f}): {step.reason}"
        )
        told_shares = shares([outcome.chance for outcome in step.outcomes])
        lines += [
            f"      {o.label}: {share}" for o, share in zip(step.outcomes, told_shares, strict=True)
        ]
    return "\n".join(lines)
