"""What one observation says by itself, of a machine nobody has looked at: by the same reckoning as
on a job, from the age at which the library's weights hold."""

from dataclasses import dataclass

from bottega.core.diagnosis.evidence import Evidence, Finding, answered
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.model import DiagnosisModel
from bottega.core.diagnosis.prior import prior
from bottega.core.library.machine_type import Check
from bottega.core.library.tables import EngineTable

TOLD_FROM = 0.02
"""From this chance on a fault is told; chosen, one in fifty."""


@dataclass(frozen=True)
class Alone:
    """What one observation leaves: ``faults`` with their chances (0..1), the likeliest first, and
    the chance that nothing is wrong, ``sound``. A machine may have two faults, so they need not
    add to one."""

    faults: tuple[tuple[str, float], ...]
    sound: float


def after_check(model: DiagnosisModel, check: Check, outcome: str, engine: EngineTable) -> Alone:
    """Return what an outcome of a check says by itself."""
    return _after(model, answered("", check, outcome, 0), engine)


def _after(model: DiagnosisModel, finding: Finding, engine: EngineTable) -> Alone:
    before = prior(model, engine.reference_age_years, engine)
    belief = infer(model, before, Evidence((finding,)))
    now = belief.fault_now()
    told = sorted(((f, p) for f, p in now.items() if p >= TOLD_FROM), key=lambda one: -one[1])
    return Alone(tuple(told), belief.sound)
