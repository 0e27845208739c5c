"""The sheets of the station *Prove*: the next check with its reasons and round, a search, or that
nothing is left."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.answer import Answer
from bottega.app.decide.nothing_left import nothing_left
from bottega.app.job.answer import prices, step_for
from bottega.app.job.find import find_sights, find_steps
from bottega.app.job.standing import declares, unsafe_of
from bottega.app.measure.meter import by_wire
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.findings import where_it_stops
from bottega.core.diagnosis.plan import Plan, Step
from bottega.core.diagnosis.rounds import CheckRound, round_of
from bottega.core.diagnosis.why import Money, why_first, why_not
from bottega.core.diagnosis.words import shares, step_reason
from bottega.core.gear import Instrument
from bottega.core.job.complaint import by_phase
from bottega.core.job.proofs import checks_owed
from bottega.core.library.machine_type import Complaint
from bottega.core.library.programmes import Meant, meant
from bottega.core.library.tables import Tool
from bottega.web.kit.words import money
from bottega.web.measure.in_job import Beside, works_beside
from bottega.web.measure.pins import PinMap, pin_map
from bottega.web.prove.mark import mark_sheet
from bottega.web.prove.measuring import Measuring, ReadingMeant, gear_words, measuring_of, offers_of
from bottega.web.prove.part import part_sheet
from bottega.web.station.sheet import Desk, Lead, Sheet

RUNNERS = 4
"""Runner-up steps shown; chosen, as the design asks."""
WHO = {"customer": "customer", "anyone": "anyone", "technician": "you", "qualified": "qualified"}
SMALL_MONEY = 10
"""Below this many euros an amount is shown with its cents; chosen."""


@dataclass(frozen=True)
class StepMoney:
    """The money behind a step, in words of the shop's currency."""

    with_it: str
    check: str
    without: str
    saves: str
    roughly: str
    """What it saves, to the whole."""


@dataclass(frozen=True)
class StepSheet(Sheet):
    """A check: the plan's next one, or one chosen by hand."""

    template: ClassVar[str] = "prove/_step.html"
    step: Step
    chosen: bool
    owed: bool
    """Whether it is repeated to prove a repair."""
    where_it_stops: str | None
    """The check to answer where the programme never gets as far as this one."""
    shares: list[str]
    """The chance of each outcome, in per cents that add to a hundred."""
    tool: Tool
    who: str
    reason: str
    figures: StepMoney
    first_why: list[str]
    """Why the plan's own next step is first."""
    not_why: list[str]
    """Why a step chosen by hand is not."""
    round: CheckRound | None
    runners: list[Step]
    measuring: Measuring | None
    beside: list[Beside]
    """What can be worked out beside the check."""
    typed: str
    """The reading as typed, when it could not be used."""
    reading_error: str
    doubted: bool
    """Whether the reading typed looks like something else."""
    offers: list[ReadingMeant]
    """What a reading looks like instead, when that is asked; as it would be typed."""
    reason_typed: str
    """A reason for setting it aside, as typed, when it could not be noted."""
    phrases: list[tuple[str, list[Complaint]]]
    """What a run through every function may show, by phase; empty for any other check."""
    showed: frozenset[str]
    """Those that were ticked when the answer was refused."""
    showed_error: str
    meant: list[Meant]
    """What of the complaint is by design, beside a check that is judged by it."""
    rig: str | None
    """The machine of physics the job is bound to, by name."""
    plug: PinMap | None
    """The plug it is measured at, drawn."""
    gear_words: str
    """What the register of test gear says of it: nobody can measure it, or the calibration lapsed;
    empty where all is well."""
    wire: Instrument | None
    """The instrument whose readings of it come by wire."""
    live: str
    """The check that plugging in is declared for as a live test; empty where none has to be."""

    @property
    def lead(self) -> Lead:
        """Return the way to the check."""
        return Lead(self.step.reach, self.step.check.component)


@dataclass(frozen=True)
class FoundSheet(Sheet):
    """A search over all checks."""

    template: ClassVar[str] = "prove/_found.html"
    find: str
    found: list[Step]
    sights: list[tuple[str, str]]
    """Faults the words name that can be seen: id and name with the part."""


@dataclass(frozen=True)
class UnsafeSheet(Sheet):
    """Before anything else: how it stands breaks what may never be, as stands above it."""

    template: ClassVar[str] = "prove/_unsafe.html"


@dataclass(frozen=True)
class NothingSheet(Sheet):
    """Nothing left is worth checking."""

    template: ClassVar[str] = "prove/_nothing.html"
    handed_over: bool
    fitted: bool
    """Whether a repair is made, no run since speaks against it, and nothing else stands proved:
    what is owed for it comes next."""
    proved: bool
    words: str
    tries: str
    """The run that is still to be made before it may be said that nothing is wrong; empty where
    none is."""


def prove_sheet(desk: Desk) -> Sheet:
    """Return what was asked of the station *Prove*: a mark, a part, a search, a check; else the
    plan's next step."""
    asked, answer = desk.asked, desk.answer
    if asked.mark is not None:
        return mark_sheet(desk)
    if asked.part in answer.machine.components:
        return part_sheet(desk, asked.part)
    if asked.find is not None:
        return FoundSheet(
            asked.find,
            find_steps(desk.workshop, answer, asked.find),
            find_sights(answer, asked.find),
        )
    chosen = _chosen(desk.workshop, answer, asked.check)
    if chosen is None and unsafe_of(desk.workshop, answer):
        return UnsafeSheet()
    step = chosen or (None if answer.job.handed_over else answer.plan.next)
    return _step_sheet(desk, answer.foretold(step), chosen is not None) if step else _nothing(desk)


def _step_sheet(desk: Desk, step: Step, chosen: bool) -> StepSheet:
    workshop, answer, error = desk.workshop, desk.answer, desk.error
    plan, machine, typed = answer.plan, answer.machine, error.typed if error else {}
    say = money_words(workshop)
    now = dict(answer.ranking)
    return StepSheet(
        step=step,
        chosen=chosen,
        owed=step.check.id in checks_owed(answer.job, machine),
        shares=shares([outcome.chance for outcome in step.outcomes]),
        tool=workshop.shelf.tables.tools[step.check.tool],
        who=WHO[step.check.who],
        reason=step_reason(machine, step),
        figures=_figures(workshop, plan, step),
        first_why=(
            why_first(machine, plan, now, answer.evidence, step=step, money=say)
            if plan.next is not None and step.check.id == plan.next.check.id
            else []
        ),
        not_why=why_not(machine, plan, now, step, money=say),
        round=round_of(
            machine,
            plan,
            answer.job.state,
            answer.reaching,
            rate_per_min=prices(workshop.settings, machine).rate_per_min,
            least_saving=workshop.shelf.tables.engine.least_saving_eur,
            first=step,
        ),
        runners=[s for s in plan.steps if s.check.id != step.check.id][:RUNNERS],
        measuring=measuring_of(desk, step) if step.check.measure else None,
        beside=works_beside(workshop, answer, step.check.id),
        typed=typed.get("typed", ""),
        reading_error=error.message if error and error.field in ("reading", "doubt") else "",
        doubted=error is not None and error.field == "doubt",
        offers=offers_of(desk, step) if error and error.field == "doubt" else [],
        where_it_stops=where_it_stops(machine, step.check),
        reason_typed=typed.get("reason", ""),
        phrases=by_phase(machine) if step.check.watches else [],
        showed=frozenset(typed.get("showed", "").split()),
        showed_error=error.message if error and error.field == "showed" else "",
        meant=_meant(answer) if step.check.card else [],
        plug=pin_map(workshop, answer, step.check),
        gear_words=gear_words(workshop, step.check),
        wire=by_wire(workshop, step.check),
        live=step.check.id if declares(answer, step.check) else "",
        rig=ticket.name if (ticket := workshop.rigs.of_job(answer.number)) else None,
    )


def _meant(answer: Answer) -> list[Meant]:
    complaint = answer.job.complaint
    return meant(answer.machine, complaint.said if complaint else ())


def money_words(workshop: Workshop) -> Money:
    """Return what says an amount in the library's euro in the shop's currency."""
    shop = workshop.settings
    return lambda eur: money(shop.money(eur), shop, digits=abs(eur) < SMALL_MONEY)


def _figures(workshop: Workshop, plan: Plan, step: Step) -> StepMoney:
    say = money_words(workshop)
    return StepMoney(
        with_it=say(plan.cost_with(step)),
        check=say(step.cost),
        without=say(plan.cost_without(step)),
        saves=say(step.saving),
        roughly=_roughly(workshop, step.saving),
    )


def _roughly(workshop: Workshop, eur: float) -> str:
    shop = workshop.settings
    amount = shop.money(eur)
    if amount < 1:
        return f"less than {money(1, shop, digits=False)}"
    return f"about {money(amount, shop, digits=False)}"


def _chosen(workshop: Workshop, answer: Answer, check_id: str | None) -> Step | None:
    """Return the step of a check asked for with its outcomes; also of one done before or set aside,
    to be repeated."""
    if check_id is None or check_id not in answer.machine.checks:
        return None
    return step_for(workshop, answer, check_id)


def _nothing(desk: Desk) -> NothingSheet:
    found = nothing_left(desk.answer, desk.workshop.settings.prove_at)
    handed_over = desk.answer.job.handed_over is not None
    return NothingSheet(handed_over, found.fitted, found.proved, found.words, found.tries)
