"""The service run of a job: which steps the sheet has, how each went, and noting the verdict of
one."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.errors import BadValue, NotFound
from bottega.app.measure.reading import take_reading
from bottega.app.values import number
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import ServiceStep
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.measure.units import symbol_of

MOST_S = 86_400.0


@dataclass(frozen=True)
class Led:
    """One step as it stands in a run: the check it answers, and how it went last, in words; empty
    where it was not run since the last repair. ``well`` where that was as it should be, and
    ``broken_off`` where somebody stopped it."""

    id: str
    step: ServiceStep
    check: Check
    went: str
    well: bool
    broken_off: bool


def steps_led(answer: Answer) -> list[Led]:
    """Return the steps of the machine in the sheet's order."""
    job, machine = answer.job, answer.machine
    last = {
        body.step: body for entry, body in job.checked() if body.step and entry.epoch == job.epoch
    }
    return [
        _led(name, step, machine.checks[step.answers], last.get(name))
        for name, step in machine.service.items()
    ]


def _led(name: str, step: ServiceStep, check: Check, body: Checked | None) -> Led:
    if body is None:
        return Led(name, step, check, "", False, False)
    outcome = check.outcome(body.outcome)
    if outcome is None:
        return Led(name, step, check, "broken off", False, True)
    took = f", {body.seconds:.0f} s" if body.seconds is not None else ""
    well = outcome.chances[0] == max(outcome.chances)
    return Led(name, step, check, f"{outcome.label.lower()}{took}", well, False)


def verdict(workshop: Workshop, answer: Answer, name: str, typed: dict[str, str]) -> Checked:
    """Return the event of one step: its outcome, or the reading that gives it, or that it was
    broken off; with how long it ran. Raises NotFound, BadValue for what cannot be, or for a figure
    or a time that is out of its limits and called well."""
    machine = answer.machine
    step = machine.service.get(name)
    if step is None:
        raise NotFound(f"Found the step '{name[:40]}', expected one of this machine's.")
    check = machine.checks[step.answers]
    seconds = number(typed["seconds"], "seconds", 0, MOST_S) if typed.get("seconds") else None
    note = typed.get("note", "").strip()
    if typed.get("outcome") == INCONCLUSIVE:
        return Checked(check=check.id, outcome=INCONCLUSIVE, step=name, seconds=seconds, note=note)
    if check.measure is not None:
        text = typed.get("typed", "").strip() or (
            f"{seconds:g}" if check.measure.quantity == "duration" and seconds else ""
        )
        body = take_reading(workshop, answer.job, machine, check.id, text)
        return body.model_copy(update={"step": name, "seconds": seconds, "note": note})
    outcome = typed.get("outcome", "")
    told = _held_against(step, check, typed.get("amount", "").strip(), outcome)
    if seconds is not None and seconds > step.timeout_s and _is_well(check, outcome):
        raise BadValue(
            f"Found {seconds:.0f} s, expected at most {step.timeout_s:.0f} s: it took too long, "
            "which is not well.",
            "seconds",
        )
    words = " · ".join(word for word in (told, note) if word)
    return Checked(check=check.id, outcome=outcome, step=name, seconds=seconds, note=words)


def _held_against(step: ServiceStep, check: Check, amount: str, outcome: str) -> str:
    """Return a figure that was read in a step, with its pass band, in words."""
    if not amount or step.low is None or step.high is None:
        return ""
    figure, unit = number(amount, "amount", 0, 1e6), symbol_of(step.unit or "")
    within = step.low <= figure <= step.high
    if not within and _is_well(check, outcome):
        raise BadValue(
            f"Found {figure:g} {unit}, expected {step.low:g} to {step.high:g} {unit}: that is not "
            "well.",
            "amount",
        )
    return f"{figure:g} {unit} of {step.low:g} to {step.high:g}"


def _is_well(check: Check, outcome_id: str) -> bool:
    outcome = check.outcome(outcome_id)
    return outcome is not None and outcome.chances[0] == max(outcome.chances)


def fullest_l(machine: MachineType) -> float | None:
    """Return the most water a programme of the sheet takes in, in litres; None where none says."""
    return max((p.fill_l for p in machine.programmes.values() if p.fill_l), default=None)
