"""The answer of a job: everything computed from its log, in one frozen record."""

from dataclasses import dataclass, field
from typing import NamedTuple

from bottega.core.diagnosis.evidence import Evidence, Finding
from bottega.core.diagnosis.explain import Conflict, LeaveOneOut, Weight, weights
from bottega.core.diagnosis.impossible import Sense
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import Floats
from bottega.core.diagnosis.plan import Plan
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType
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
class Reasoned:
    """What follows from what was found: the prior of every fault set, what sense it makes, the
    plan, the belief without each finding, and how badly the findings fit together."""

    before: Floats
    sense: Sense
    plan: Plan
    out: LeaveOneOut
    conflict: Conflict


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
    """A fault that can hurt people and is likely enough for the machine not to be used, with its
    probability."""
    reaching: Reaching
    ranking: tuple[tuple[str, float], ...]
    """All faults with their present probability, likeliest first."""
    leading: str
    out: LeaveOneOut
    conflict: Conflict
    odd: tuple[Finding, ...]
    """What was set aside because nothing explains it together with all the rest; not in
    ``evidence``."""

    _weights: dict[str, list[Weight]] = field(default_factory=dict, compare=False, repr=False)

    def weights(self, fault: str | None = None) -> list[Weight]:
        """Return the weight of every finding for a fault, the leading one if none is named, in
        decibans."""
        name = fault or self.leading
        if name not in self._weights:
            self._weights[name] = weights(self.evidence, self.belief, self.out, name)
        return self._weights[name]
