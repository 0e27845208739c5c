"""The command that notes a step of a way: what a person presses once the step is done."""

from bottega.core.job.events import PutBack, Soaked, StateChanged, TookOff
from bottega.core.machine.reach import ReachStep

Command = TookOff | PutBack | Soaked | StateChanged


def command_of(
    step: ReachStep, for_check: str = "", by: str = "", measured_v: float | None = None
) -> Command:
    """Return the command of a step. Plugging in carries the live test it is for (``for_check``,
    made ``by`` somebody who ticked that he may), a charge that is gone what was measured."""
    if step.kind == "operation":
        return TookOff(operation=step.to)
    if step.kind == "back":
        return PutBack(operation=step.to)
    if step.kind == "soak":
        return Soaked(operation=step.to, minutes=step.minutes)
    body = StateChanged.model_validate({"what": step.what, "to": step.to})
    if (step.what, step.to) == ("power", "on") and for_check:
        return body.model_copy(update={"for_check": for_check, "qualified": by, "ticked": True})
    if (step.what, step.to) == ("charge", "none"):
        return body.model_copy(update={"measured_v": measured_v})
    return body
