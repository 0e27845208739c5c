"""What a step of a service mode wants of a machine, and what it does to it."""

from bottega.core.library.records import Needs, ServiceStep
from bottega.core.library.vocabulary import Act

READY = Needs(power="on", taps="open", drum="empty", door="shut", posture="upright")
"""How a machine stands before its steps are run: empty, shut, with water at hand."""
STEP_ACTS: dict[str, Act] = {"fill": "fill", "drain": "pump", "heat": "heat", "dry": "heat"}
"""What a service step does beyond running, by what it runs."""


def acts_of(step: ServiceStep) -> tuple[Act, ...]:
    """Return what a service step does to the machine."""
    return ("run", STEP_ACTS.get(step.runs, "run"))
