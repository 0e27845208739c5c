"""What is believed of a job now, and what comes next: one answer per state of its log."""

import logging
from collections.abc import Callable, Collection

from bottega.app.answer import Answer, AnswerKey, Believed
from bottega.app.errors import AppError, NotFound, Unreadable
from bottega.app.job.machine import machine_of
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.answers_ahead import may_differ, was_told
from bottega.core.diagnosis.courses import BudgetSpent
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.explain import (
    conflict,
    leave_one_out,
)
from bottega.core.diagnosis.findings import HOW_OFTEN, evidence_of
from bottega.core.diagnosis.impossible import make_sense
from bottega.core.diagnosis.model import DiagnosisModel
from bottega.core.diagnosis.plan import Plan, Step, plan
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.gear import beyond
from bottega.core.job.aside import out_of_reach
from bottega.core.job.events import Event
from bottega.core.job.fold import fold
from bottega.core.job.job import Job
from bottega.core.kept import Same
from bottega.core.library.machine_type import MachineType
from bottega.core.shop import ShopSettings
from bottega.core.wording import sentence
from bottega.store.log import UnknownJob, UnreadableEvent

logger = logging.getLogger(__name__)

TELLING_EUR = 0.05
"""A question whose answers change the expected cost by less tells nothing; chosen, five cents."""


def read_events(workshop: Workshop, number: str) -> list[Event]:
    """Return a job's events. Raises NotFound, and Unreadable when one is kept that cannot be
    read."""
    try:
        return workshop.log.read(number)
    except UnknownJob as error:
        raise NotFound(sentence(error)) from error
    except UnreadableEvent as error:
        raise Unreadable(sentence(error)) from error


def position(workshop: Workshop, number: str) -> int:
    """Return how many events a job has. Raises NotFound."""
    try:
        return workshop.log.seq(number)
    except UnknownJob as error:
        raise NotFound(sentence(error)) from error


def diagnose(workshop: Workshop, number: str) -> Answer:
    """Return the answer for a job as its log stands, kept as long as nothing it depends on has
    changed.

    Raises NotFound, and Unreadable for a job that is kept but cannot be worked out.
    """
    settings, seq = workshop.settings, position(workshop, number)
    key = AnswerKey(number, seq, settings, workshop.edition)

    def make() -> Answer:
        events = read_events(workshop, number)[:seq]
        return readable(number, lambda: diagnose_events(workshop, number, events, settings))

    answer: Answer = workshop.answers.get(key, make)
    return answer


def foreseen(workshop: Workshop, number: str, events: list[Event]) -> Answer:
    """Return the answer a job will have once these are its events. It is not kept: they may never
    come to be.

    Raises Unreadable.
    """
    return readable(number, lambda: diagnose_events(workshop, number, events, workshop.settings))


def keep(workshop: Workshop, answer: Answer) -> None:
    """Keep the answer of a job whose events are stored by now."""
    key = AnswerKey(answer.number, answer.seq, workshop.settings, workshop.edition)
    workshop.answers.keep(key, answer)


def readable(number: str, compute: Callable[[], Answer]) -> Answer:
    """Return what is computed of a job. Raises Unreadable for whatever its log makes impossible, so
    that one job whose log does not fit the library takes down nothing but itself."""
    try:
        return compute()
    except AppError as error:
        raise Unreadable(f"Job {number} cannot be worked out. {error}") from error
    except BudgetSpent as error:
        raise Unreadable(
            f"Job {number} is too much to reason over: {error}. Its record is kept; go on in "
            "a new job."
        ) from error
    except Exception as error:
        logger.exception("job %s cannot be worked out", number)
        raise Unreadable(
            f"Job {number} cannot be worked out: {type(error).__name__}, {str(error)[:200]}."
        ) from error


def diagnose_events(
    workshop: Workshop,
    number: str,
    events: list[Event],
    settings: ShopSettings,
    *,
    machine: MachineType | None = None,
) -> Answer:
    """Return the answer for a list of events, stored or not; with another machine type than its own
    if one is given."""
    machine = machine or machine_of(workshop, events)
    job = fold(events, machine.charge is not None)
    believed = _believed(workshop, job, machine)
    belief, ranking = believed.sense.belief, believed.ranking
    was = belief.fault_was() if job.repairs else dict(ranking[:1])
    tables = workshop.shelf.tables
    return Answer(
        number=number,
        seq=len(events),
        job=job,
        machine=machine,
        believed=believed,
        plan=_planned(workshop, job, machine, settings, believed=believed),
        danger=_danger(machine, ranking, tables.engine.stop_using_above),
        reaching=workshop.reaching(machine),
        leading=max(was, key=lambda fault: was[fault]),
        engine=tables.engine,
    )


def _believed(workshop: Workshop, job: Job, machine: MachineType) -> Believed:
    """Return what is believed from what was found. A note, a quote, or the plug pulled changes none
    of it, so it is kept by all that it depends on."""
    tables = workshop.shelf.tables
    found = evidence_of(job, machine, tables)
    age, odds = job.opened.age_years, job.opened.odds

    def make() -> Believed:
        model = workshop.engine.model(machine)
        before = prior(model, age, tables.engine, odds)
        sense = make_sense(model, before, found)
        out = leave_one_out(model, before, sense.evidence)
        odd = conflict(model, before, sense.evidence, sense.belief, out=out)
        chances = sense.belief.fault_now().items()
        ranking = tuple(sorted(chances, key=lambda item: (-item[1], item[0])))
        return Believed(before, sense, out, odd, ranking)

    key = (machine, workshop.edition, age, tuple(sorted(odds.items())), found)
    return workshop.beliefs.get(key, make)


def _planned(
    workshop: Workshop,
    job: Job,
    machine: MachineType,
    settings: ShopSettings,
    *,
    believed: Believed,
) -> Plan:
    """Return what to do next by what is believed, from how the machine stands: kept like the
    belief."""
    sense, engine = believed.sense, workshop.shelf.tables.engine
    money = prices(settings, machine)
    gone = frozenset(out_of_reach(job, machine) | not_measured(machine, settings))
    done = frozenset(job.done_now())
    often = job.complaint is not None and bool(job.complaint.often)

    def make() -> Plan:
        model, evidence = sense.belief.model, sense.evidence
        return plan(
            sense.belief,
            evidence,
            job.state,
            workshop.reaching(machine),
            prices=money,
            engine=engine,
            available=available(machine, model, evidence, gone, done=done, often=often),
        )

    key = (Same(believed), workshop.edition, job.state, money, gone, done, often)
    return workshop.plans.get(key, make)


def not_measured(machine: MachineType, settings: ShopSettings) -> set[str]:
    """Return the measurements nobody in the shop has an instrument for: they are not proposed, and
    can still be chosen."""
    measured = {c.id: c.measure.quantity for c in machine.checks.values() if c.measure}
    lacking = beyond(settings.gear, measured.values())
    return {check for check, quantity in measured.items() if quantity in lacking}


def _danger(
    machine: MachineType, ranking: tuple[tuple[str, float], ...], above: float
) -> tuple[str, float] | None:
    """Return the likeliest dangerous fault of a ranking with its chance, where that is above."""
    dangerous = ((f, p) for f, p in ranking if machine.faults[f].severity == "dangerous")
    fault, p = next(dangerous, ("", 0.0))
    return (fault, p) if p > above else None


def available(
    machine: MachineType,
    model: DiagnosisModel,
    found: Evidence,
    gone: Collection[str],
    *,
    done: Collection[str],
    often: bool,
) -> list[str]:
    """Return the checks that may come next: not ``gone``, set aside or taken along by what was, and
    not ``done`` in this epoch; again on another occasion where what they read may come and go. What
    the complaint has said is not asked, nor how ``often`` it happens once that is said."""
    left = set(gone) | {name for name in done if not may_differ(name, model, found)}
    left |= {check.id for check in machine.checks.values() if was_told(check, found)}
    if often:
        left.add(HOW_OFTEN)
    return [name for name in machine.checks if name not in left]


def prices(settings: ShopSettings, machine: MachineType) -> ShopPrices:
    """Return what the engine reckons with, in the library's euro."""
    return ShopPrices(
        rate_per_min=settings.rate_per_hour / 60 / settings.per_eur,
        refer=machine.new_price_eur,
        prove_at=settings.prove_at if settings.school == "prove_first" else 0.0,
        part_factor=1 + settings.part_markup,
    )


def questions(answer: Answer) -> list[Step]:
    """Return the safe questions that would change the picture if asked on the phone, best first."""
    return [
        s for s in answer.plan.steps if s.check.who == "customer" and s.worth + s.cost > TELLING_EUR
    ]


def step_for(workshop: Workshop, answer: Answer, check_id: str) -> Step:
    """Return the step of any one check of the machine among all that are open, with what it may
    answer; also of one done before or set aside."""
    engine, belief, job = workshop.shelf.tables.engine, answer.belief, answer.job
    steps = {step.check.id: step for step in answer.plan.steps}
    if check_id not in steps:
        money = prices(workshop.settings, answer.machine)
        among = [*steps, check_id]
        found = plan(
            belief,
            answer.evidence,
            job.state,
            answer.reaching,
            prices=money,
            engine=engine,
            available=among,
        )
        steps = {step.check.id: step for step in found.steps}
    return answer.foretold(steps[check_id])
