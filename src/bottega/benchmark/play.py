"""One job played to its end by a policy: checks answered, repairs made and run, all of it paid."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Literal, Protocol

from bottega.core.diagnosis.answers_ahead import may_differ, occasion_of, was_told
from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Look,
    Occasion,
    Removal,
    answered,
    not_said,
    read_code,
    said,
    told_to_us,
    watched,
)
from bottega.core.diagnosis.impossible import make_sense
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.diagnosis.setting import Setting
from bottega.core.library.machine_type import Check, MachineType, RepairOption
from bottega.core.library.records import Needs
from bottega.core.library.tables import EngineTable
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

MOST_MOVES = 60
"""Moves after which a job is called unresolved; chosen, three times what a job may take."""
MOST_CALLBACKS = 2
"""Calls after a hand-over before the customer goes elsewhere; chosen."""


class Played(Protocol):
    """A machine among people: what it says, answers and does, whoever made it."""

    @property
    def machine(self) -> MachineType:
        """Return the type of machine it is."""

    @property
    def age_years(self) -> float:
        """Return how old it is, in years."""

    @property
    def said(self) -> tuple[str, ...]:
        """Return the phrases of the first call."""

    @property
    def codes(self) -> tuple[str, ...]:
        """Return the codes its panel shows."""

    @property
    def faults(self) -> tuple[str, ...]:
        """Return the faults that are there now."""

    def can(self, check: Check) -> bool:
        """Return whether it can answer a check at all."""

    def answers(self, check: Check, occasion: Occasion) -> list[tuple[Check, str]]:
        """Return what is written down when a check is done: its answer, or what kept it from
        being done."""

    def repair(self, repair: str) -> bool:
        """Do a repair; return whether it took a fault away."""

    def runs_badly(self, effect: str, occasion: Occasion, look: Look) -> bool:
        """Return whether a watched run shows this effect to be bad."""

    def calls_again(self, nth: int) -> tuple[str, ...]:
        """Return what the customer says at the ``nth`` call after a hand-over."""


@dataclass(frozen=True)
class Move:
    """What a policy does next: a check or a repair of the library by its id, hand over, refer."""

    what: Literal["check", "repair", "hand over", "refer"]
    name: str = ""


@dataclass(frozen=True)
class First:
    """The first repair: how sure it was said to be, and whether it was one of the right ones."""

    said: float
    right: bool


@dataclass
class Play:
    """A job being played. Money in the library's euro."""

    world: Played
    model: DiagnosisModel
    before: Floats
    engine: EngineTable
    reaching: Reaching
    prices: ShopPrices
    state: MachineState = field(default_factory=lambda: MachineState(water="out"))
    findings: list[Finding] = field(default_factory=list)
    removals: list[Removal] = field(default_factory=list)
    done: set[str] = field(default_factory=set)
    """Checks answered since the last repair."""
    worked_on: dict[str, int] = field(default_factory=dict)
    """By component the epoch it was last worked on."""
    cost: float = 0.0
    looked: float = 0.0
    """Money until the first repair."""
    checks: int = 0
    questions: int = 0
    """Asked of the customer; the checks are those made at the machine."""
    just_run: bool = False
    """Whether nothing was checked since the last watched run, and that run showed nothing."""
    bout: int = 1
    """The number of the present occasion."""
    repairs: int = 0
    parts: int = 0
    callbacks: int = 0
    minutes: float = 0.0
    """Minutes worked on it in all."""
    visit: int = 0
    """Findings there were when this visit began; somebody who calls again wants another one."""
    first: First | None = None
    found_within: int | None = None
    """Checks before the first repair that took a fault away."""
    ended: str = ""
    blocked: set[str] = field(default_factory=set)
    """Checks that could not be done since the last repair: something kept the machine from them."""
    noted: dict[str, list[str]] = field(default_factory=dict)
    """What a way of working has worked out once, by name."""
    _complained: dict[str, None] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._hear(self.world.said)
        engine = self.engine
        for code in self.world.machine.codes.values():
            stored = code.id in self.world.codes
            self._find(
                read_code("panel", code, stored, 0, repeatability=engine.codes_repeatability)
            )

    @property
    def epoch(self) -> int:
        """Return how many repairs were made."""
        return len(self.removals)

    @property
    def present(self) -> Occasion:
        """Return the occasion the machine is looked at on now."""
        return Occasion(self.bout)

    @property
    def evidence(self) -> Evidence:
        """Return everything found so far."""
        return Evidence(tuple(self.findings), tuple(self.removals), self.present)

    @property
    def checks_before(self) -> int:
        """Return how many checks earlier visits made."""
        return Evidence(tuple(self.findings[: self.visit])).checks

    def belief(self) -> Belief:
        """Return what the engine believes now."""
        return make_sense(self.model, self.before, self.evidence).belief

    @property
    def setting(self) -> Setting:
        """Return how the job stands; checks of earlier visits do not count as too many."""
        most = self.engine.most_checks + self.checks_before
        return Setting(
            self.belief(),
            self.evidence,
            self.state,
            self.reaching,
            self.prices,
            self.engine.model_copy(update={"most_checks": most}),
        )

    def open_checks(self) -> list[Check]:
        """Return the checks not answered since the last repair, and those that may say something
        else now; no question about what the complaint has said."""
        evidence = self.evidence
        return [
            check
            for check in self.world.machine.checks.values()
            if self.world.can(check) and check.id not in self.blocked
            if not was_told(check, evidence)
            if check.id not in self.done or may_differ(check.id, self.model, evidence)
        ]

    def minutes_of(self, needs: Needs, own: float) -> float:
        """Return the minutes of reaching what is needed and of the work itself."""
        return self.reaching.reach(self.state, needs).minutes + own

    def do(self, move: Move) -> None:
        """Make one move; pay for it and take its answer."""
        machine = self.world.machine
        if move.what == "check":
            self._check(machine.checks[move.name])
        elif move.what == "repair":
            self._repair(machine.repairs[move.name])
        elif move.what == "hand over":
            self._hand_over()
        else:
            self._end("refer", self.prices.refer)

    def _check(self, check: Check) -> None:
        stood = self.state
        self._work(check.needs, check.minutes + self.engine.note_minutes)
        if check.watches:
            self._run("in turn")
            self.done.add(check.id)
            self.checks += 1
            return
        since = self.worked_on.get(check.component, 0)
        occasion = self._occasion(check, stood)
        event = f"c{len(self.findings)}"
        answers = self.world.answers(check, occasion)
        asked_ids = {asked.id for asked, _ in answers} or {""}
        for asked, outcome in answers:
            self.done.add(asked.id)
            if outcome == INCONCLUSIVE:
                continue
            found = answered(event, asked, outcome, self.epoch, unchanged_since=since)
            self._find(found.on(occasion))
        if asked_ids and check.id not in asked_ids:
            self.blocked.add(check.id)
        self.done.add(check.id)
        self.just_run = False
        if check.who == "customer":
            self.questions += 1
        else:
            self.checks += 1

    def _occasion(self, check: Check, stood: MachineState) -> Occasion:
        """Return the occasion a check is done on, and let the next one begin where it does."""
        occasion = occasion_of(check, self.present, stood, self.epoch)
        if occasion.many or occasion == self.present:
            return occasion
        self.bout += 1
        begun = occasion.begun(self.bout)
        if check.provokes:
            self.bout += 1
        return begun

    def _repair(self, repair: RepairOption) -> None:
        covers = dict(repair.covers)
        believed = self.belief().any_of(dict.fromkeys(covers, 1.0)) if self.first is None else 0.0
        right = any(fault in covers for fault in self.world.faults)
        self.first = self.first or First(believed, right)
        if right and self.found_within is None:
            self.found_within = self.checks
        self._work(repair.needs, repair.minutes + self.engine.verify_minutes)
        lost = 1.0 if right or repair.do != "part" else self.engine.wrong_part_share
        self.cost += repair.price_eur * self.prices.part_factor * lost
        self.parts += repair.do == "part"
        self.removals.append(Removal(self.epoch, frozenset(covers), min(covers.values())))
        machine = self.world.machine
        for component in {repair.component, *(machine.faults[f].component for f in covers)}:
            self.worked_on[component] = self.epoch
        self.world.repair(repair.id)
        self.repairs += 1
        self.done.clear()
        self.blocked.clear()
        self._run()

    def _run(self, others: Look = "by the way") -> bool:
        """Run it and watch, what nobody complained of as ``others`` says; return whether anything
        showed."""
        machine, shown = self.world.machine, False
        self.bout += 1
        for effect in machine.noticeable:
            look = "complained of" if effect in self._complained else others
            states = len(machine.effects[effect].states)
            bad = self.world.runs_badly(effect, self.present, look)
            shown = shown or bad
            if bad:
                self._complained[effect] = None
            found = watched(
                "r", effect, states, bad, epoch=self.epoch, engine=self.engine, look=look
            )
            self._find(found.on(self.present))
        self.bout += 1
        self.just_run = not shown
        return shown

    def _hand_over(self) -> None:
        """Hand over, after a watched run unless it has just run in order; what that shows keeps the
        machine here."""
        if not self.just_run:
            self._work(Needs(power="on"), 2 * self.engine.verify_minutes)
            self.done.clear()
            if self._run():
                return
        again = self.world.calls_again(self.callbacks) if self.world.faults else ()
        if not again:
            self._end("handed over", 0.0)
            return
        self.callbacks += 1
        self.visit = len(self.findings)
        self.cost += self.engine.callback_eur
        if self.callbacks > MOST_CALLBACKS:
            self._end("gone elsewhere", self.prices.refer)
            return
        self._hear(again)
        self.done.clear()
        self.just_run = False

    def _hear(self, names: tuple[str, ...]) -> None:
        complaints = self.world.machine.complaints
        heard = {complaints[name].effect for name in names}
        for name in names:
            again = replace(said("s", complaints[name], self.epoch), renewed=self.callbacks)
            self._find(again.on(told_to_us(self.epoch)))
            self._complained[complaints[name].effect] = None
        for complaint in complaints.values() if self.callbacks == 0 else ():
            if complaint.record.hard_to_miss > 0 and complaint.effect not in heard:
                self._find(not_said("s", complaint, self.epoch).on(told_to_us(self.epoch)))

    def _work(self, needs: Needs, own: float) -> None:
        minutes = self.minutes_of(needs, own)
        self.minutes += minutes
        money = minutes * self.prices.rate_per_min
        self.cost += money
        self.looked += money if self.first is None else 0.0
        self.state = self.reaching.arrived(self.state, needs)

    def _find(self, finding: Finding) -> None:
        self.findings.append(finding)

    def _end(self, how: str, cost: float) -> None:
        self.cost += cost
        self.ended = how


Policy = Callable[[Play], Move]


def played(play: Play, policy: Policy) -> Play:
    """Return the job when the policy has played it to its end."""
    for _ in range(MOST_MOVES):
        play.do(policy(play))
        if play.ended:
            return play
    play.do(Move("refer"))
    return play
