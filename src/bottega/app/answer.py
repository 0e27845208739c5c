"""The answer of a job: everything computed from its log, in one frozen record."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from typing import Any, NamedTuple, TypeVar

from bottega.core.diagnosis.evidence import Evidence, Finding
from bottega.core.diagnosis.explain import Conflict, LeaveOneOut, Weight, weights
from bottega.core.diagnosis.impossible import Sense
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import Floats
from bottega.core.diagnosis.plan import Plan, Step, foretold
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import EngineTable
from bottega.core.machine.reach import Reaching
from bottega.core.shop import ShopSettings


class AnswerKey(NamedTuple):
    """Everything an answer depends on: the job, how many events it has, the settings, the edition
    of the shelf, and whether it is worked out with a newer sheet than its own."""

    number: str
    seq: int
    settings: ShopSettings
    edition: int
    newer: bool = False


T = TypeVar("T")


@dataclass(frozen=True)
class Believed:
    """What is believed from what was found, however the machine stands: the prior of every fault
    set, the sense the findings make, the belief without each finding, and how badly the findings
    fit together."""

    before: Floats
    sense: Sense
    out: LeaveOneOut
    conflict: Conflict
    ranking: tuple[tuple[str, float], ...]
    """All faults with their present probability, likeliest first."""
    _once: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    def once(self, what: Hashable, make: Callable[[], T]) -> T:
        """Return what follows from the belief and from nothing else, made when it is first asked
        for. Two threads may make it at once; both are given the same."""
        if what not in self._once:
            self._once.setdefault(what, make())
        found: T = self._once[what]
        return found

    @property
    def components(self) -> dict[str, float]:
        """Return P(at least one fault of a component is there now), by component."""
        return self.once("components", self.sense.belief.component_now)

    def weights(self, fault: str) -> list[Weight]:
        """Return the weight of every finding for a fault, in decibans."""
        sense = self.sense
        return self.once(
            ("weights", fault), lambda: weights(sense.evidence, sense.belief, self.out, fault)
        )


@dataclass(frozen=True)
class Answer:
    """A job with everything computed from it."""

    number: str
    seq: int
    job: Job
    machine: MachineType
    believed: Believed
    plan: Plan
    danger: tuple[str, float] | None
    """A fault that can hurt people and is likely enough for the machine not to be used, with its
    probability."""
    reaching: Reaching
    leading: str
    engine: EngineTable
    """The figures it was reasoned with."""
    _foretold: dict[str, Step] = field(default_factory=dict, compare=False, repr=False)

    @property
    def belief(self) -> Belief:
        """Return what is believed."""
        return self.believed.sense.belief

    @property
    def evidence(self) -> Evidence:
        """Return what the belief rests on."""
        return self.believed.sense.evidence

    @property
    def odd(self) -> tuple[Finding, ...]:
        """Return what was set aside because nothing explains it together with all the rest."""
        return self.believed.sense.odd

    @property
    def conflict(self) -> Conflict:
        """Return how badly the findings fit together."""
        return self.believed.conflict

    @property
    def ranking(self) -> tuple[tuple[str, float], ...]:
        """Return all faults with their present probability, likeliest first."""
        return self.believed.ranking

    def weights(self, fault: str | None = None) -> list[Weight]:
        """Return the weight of every finding for a fault, the leading one if none is named, in
        decibans."""
        return self.believed.weights(fault or self.leading)

    def foretold(self, step: Step) -> Step:
        """Return a step of the plan, or of any check, with what it may answer."""
        known = self._foretold.get(step.check.id)
        if known is None:
            found = (self.belief, self.evidence, self.job.state)
            (known,) = foretold([step], *found, engine=self.engine)
            self._foretold[step.check.id] = known
        return step._replace(outcomes=known.outcomes, parts_faults=known.parts_faults)
