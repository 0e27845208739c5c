"""The answer of a job: everything computed from its log, in one frozen record."""

from dataclasses import dataclass
from typing import NamedTuple

from bottega.core.diagnosis.evidence import Evidence, Finding
from bottega.core.diagnosis.explain import Conflict, LeaveOneOut, Weight, weights
from bottega.core.diagnosis.impossible import Sense
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import Floats
from bottega.core.diagnosis.plan import Plan, Step, foretold
from bottega.core.job.job import Job
from bottega.core.kept import Once
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


@dataclass(frozen=True)
class Believed(Once):
    """What is believed from what was found, however the machine stands: the prior of every fault
    set, the sense the findings make, the belief without each finding, and how badly the findings
    fit together."""

    before: Floats
    sense: Sense
    out: LeaveOneOut
    conflict: Conflict
    ranking: tuple[tuple[str, float], ...]
    """All faults with their present probability, likeliest first."""

    def weights(self, fault: str) -> list[Weight]:
        """Return the weight of every finding for a fault, in decibans."""
        sense = self.sense
        return self.once(
            ("weights", fault), lambda: weights(sense.evidence, sense.belief, self.out, fault)
        )


@dataclass(frozen=True)
class Answer(Once):
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
        state = self.job.state

        def make() -> Step:
            (told,) = foretold([step], self.belief, self.evidence, state, engine=self.engine)
            return told

        told = self.believed.once(("foretold", step.check.id, state.power), make)
        return step._replace(outcomes=told.outcomes, parts_faults=told.parts_faults)
