"""What is believed of a job now, and what comes next: one answer per state of its log."""

from dataclasses import dataclass

from bottega.app.errors import NotFound
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.explain import Conflict, LeaveOneOut, Weight, conflict, leave_one_out, weights
from bottega.core.diagnosis.infer import Belief, ImpossibleEvidence, infer
from bottega.core.diagnosis.model import Floats, compile_model, prior
from bottega.core.diagnosis.plan import Plan, Step, plan
from bottega.core.diagnosis.repairplan import Prices
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import Event, Opened, Rebased
from bottega.core.job.findings import evidence_of
from bottega.core.job.job import Job, fold, withdrawn_ids
from bottega.core.job.state import Reaching
from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Plate
from bottega.core.library.shelf import UnknownMachine
from bottega.core.shop import ShopSettings
from bottega.store.log import UnknownJob

ANSWERS_KEPT = 128
CHANGED = 0.02
"""A ranking counts as changed when a probability moves by more than this."""
TOOL_MISSING = "tool missing"
"""The reason for setting a check aside that takes all others with the same tool along."""
TELLING_EUR = 0.05
"""A question whose answers change the expected cost by less tells nothing."""


@dataclass(frozen=True)
class Answer:
    """A job with everything computed from it."""

    number: str
    seq: int
    job: Job
    machine: MachineType
    evidence: Evidence
    belief: Belief
    plan: Plan
    before: Floats
    """The prior of every fault set."""
    danger: tuple[str, float] | None
    """A fault that can hurt people and is likely enough for the machine not to be used, with its probability."""
    reaching: Reaching
    ranking: tuple[tuple[str, float], ...]
    """All faults with their present probability, likeliest first."""
    leading: str
    out: LeaveOneOut
    conflict: Conflict
    unexplained: str | None

    def weights(self, fault: str | None = None) -> list[Weight]:
        """Return the weight of every finding for a fault, the leading one if none is named, in decibans."""
        return weights(self.evidence, self.belief, self.out, fault or self.leading)


def machine_of(workshop: Workshop, events: list[Event]) -> MachineType:
    """Return the machine type a job's opening names. Raises NotFound when the library has lost it."""
    opened = events[0].body
    if not isinstance(opened, Opened):
        raise NotFound("The log of this job does not begin with its opening.")
    try:
        return workshop.machine(opened.archetype, sheet_of(events), revision_of(events))
    except UnknownMachine as error:
        raise NotFound(f"The machine of this job is not in the library: {error}", "machine") from error


def revision_of(events: list[Event]) -> str:
    """Return the revision of the library a job is diagnosed with: that of its opening, or of its last change of sheet."""
    moved = _moves(events)
    opened = events[0].body
    return moved[-1].revision if moved else opened.revision if isinstance(opened, Opened) else ""


def sheet_of(events: list[Event]) -> str | None:
    """Return the sheet a job is diagnosed with: the last one it was moved to, or that of its opening; None for none."""
    named = [move.sheet for move in _moves(events) if move.sheet]
    opened = events[0].body
    return named[-1] if named else opened.sheet if isinstance(opened, Opened) else None


def _moves(events: list[Event]) -> list[Rebased]:
    gone = withdrawn_ids(events)
    return [event.body for event in events if isinstance(event.body, Rebased) and event.id not in gone]


def newer_sheet(workshop: Workshop, answer: Answer) -> tuple[str, str] | None:
    """Return (revision, what would change) when the job's sheet has a newer revision, or None.

    The ranking under the newer sheet is computed and compared; what would change is said in a sentence.
    """
    job, machine = answer.job, answer.machine
    present = workshop.machine(machine.archetype, machine.sheet)
    if present.revision == machine.revision:
        return None
    fresh = diagnose_events(workshop, answer.number, list(job.events), workshop.settings, present)
    (before, p), (after, q) = answer.ranking[0], fresh.ranking[0]
    if before != after:
        return present.revision, f"it would put {fault_title(present, after)} first, at {q:.0%}"
    moved = max(abs(dict(fresh.ranking).get(fault, 0.0) - chance) for fault, chance in answer.ranking)
    if moved < CHANGED:
        return present.revision, "it would not change the ranking"
    return present.revision, f"it would put {fault_title(present, after)} at {q:.0%} instead of {p:.0%}"


def read_events(workshop: Workshop, number: str) -> list[Event]:
    """Return a job's events. Raises NotFound."""
    try:
        return workshop.log.read(number)
    except UnknownJob as error:
        raise NotFound(str(error).capitalize() + ".") from error


def position(workshop: Workshop, number: str) -> int:
    """Return how many events a job has. Raises NotFound."""
    try:
        return workshop.log.seq(number)
    except UnknownJob as error:
        raise NotFound(str(error).capitalize() + ".") from error


def diagnose(workshop: Workshop, number: str) -> Answer:
    """Return the answer for a job as its log stands, from memory if nothing has happened since. Raises NotFound."""
    events = read_events(workshop, number)
    key = (number, len(events))
    known = workshop.answers.get(key)
    settings = workshop.settings
    if isinstance(known, _Kept) and known.settings == settings:
        return known.answer
    answer = diagnose_events(workshop, number, events, settings)
    if len(workshop.answers) >= ANSWERS_KEPT:
        workshop.answers.pop(next(iter(workshop.answers)))
    workshop.answers[key] = _Kept(answer, settings)
    return answer


@dataclass(frozen=True)
class _Kept:
    answer: Answer
    settings: ShopSettings


def diagnose_events(
    workshop: Workshop, number: str, events: list[Event], settings: ShopSettings, machine: MachineType | None = None
) -> Answer:
    """Return the answer for a list of events, stored or not; with another machine type than its own if one is given."""
    machine = machine or machine_of(workshop, events)
    job = fold(events, machine.charge is not None)
    engine = workshop.shelf.tables.engine
    model = compile_model(machine)
    before = prior(model, job.opened.age_years, engine, job.opened.odds)
    evidence = evidence_of(job, machine, workshop.shelf.tables)
    unexplained = None
    try:
        belief = infer(model, before, evidence)
    except ImpossibleEvidence as error:
        unexplained, evidence = str(error), Evidence((), evidence.removals)
        belief = infer(model, before, evidence)
    reaching = workshop.reaching(machine)
    steps = plan(belief, evidence, job.state, reaching, prices(settings, machine), engine, available(job, machine))
    out = leave_one_out(model, before, evidence)
    ranking = tuple(sorted(belief.fault_now().items(), key=lambda item: -item[1]))
    was = belief.fault_was()
    leading = max(was, key=lambda fault: was[fault]) if job.repairs else ranking[0][0]
    return Answer(
        number=number,
        seq=len(events),
        job=job,
        machine=machine,
        evidence=evidence,
        belief=belief,
        plan=steps,
        before=before,
        danger=_danger(machine, belief, engine.stop_using_above),
        reaching=reaching,
        ranking=ranking,
        leading=leading,
        out=out,
        conflict=conflict(model, before, evidence, belief, out),
        unexplained=unexplained,
    )


def _danger(machine: MachineType, belief: Belief, above: float) -> tuple[str, float] | None:
    now = belief.fault_now()
    dangerous = [(now[f], f) for f, fault in machine.faults.items() if fault.severity == "dangerous"]
    p, fault = max(dangerous, default=(0.0, ""))
    return (fault, p) if p > above else None


def available(job: Job, machine: MachineType) -> list[str]:
    """Return the checks that may come next: not answered in this epoch, not set aside, and not with a missing tool."""
    gone = job.done_now() | set(job.set_aside)
    missing = {machine.checks[name].tool for name, aside in job.set_aside.items() if aside.reason == TOOL_MISSING}
    missing.discard("none")
    return [name for name, check in machine.checks.items() if name not in gone and check.tool not in missing]


def prices(settings: ShopSettings, machine: MachineType) -> Prices:
    """Return what the engine reckons with, in the library's euro."""
    return Prices(
        rate_per_min=settings.rate_per_hour / 60 / settings.per_eur,
        refer=machine.new_price_eur,
        prove_at=settings.prove_at if settings.school == "prove_first" else 0.0,
        part_factor=1 + settings.part_markup,
    )


def plate_of(job: Job, machine: MachineType) -> Plate:
    """Return the rating plate: what the job read off it, and the sheet's for the rest."""
    read = {key: value for key, value in job.opened.plate.model_dump().items() if value is not None}
    return machine.plate.model_copy(update=read)


def questions(answer: Answer) -> list[Step]:
    """Return the safe questions that would change the picture if asked on the phone, best first."""
    return [s for s in answer.plan.steps if s.check.who == "customer" and s.saving + s.cost > TELLING_EUR]


def step_for(workshop: Workshop, answer: Answer, check_id: str) -> Step:
    """Return the step of any one check of the machine, also one done before or set aside."""
    engine = workshop.shelf.tables.engine
    chosen = plan(
        answer.belief,
        answer.evidence,
        answer.job.state,
        answer.reaching,
        prices(workshop.settings, answer.machine),
        engine,
        [check_id],
    )
    return chosen.steps[0]
