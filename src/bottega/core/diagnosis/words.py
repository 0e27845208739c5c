"""Say it in a technician's words: chances, reasons for a step, the strongest word for or against a fault."""

from bottega.core.diagnosis.explain import WEAK_DB, Weight
from bottega.core.diagnosis.plan import Step
from bottega.core.library.machine_type import MachineType


def chance_words(p: float) -> str:
    """Return a chance as a technician says it: "1 in 6", "2 in 3", "almost sure"."""
    if p >= 0.97:
        return "almost sure"
    if p < 0.01:
        return "hardly ever"
    best = min(
        (
            (top, bottom)
            for bottom in (2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 30, 50, 80)
            for top in (1, 2, 3)
            if top < bottom
        ),
        key=lambda pair: (abs(pair[0] / pair[1] - p) + 0.002 * pair[0], pair[1]),
    )
    return f"{best[0]} in {best[1]}" if p <= 0.85 else f"{round(p * 10)} in 10"


def fault_title(machine: MachineType, fault: str) -> str:
    """Return a fault as "Drain pump: rotor slips"."""
    return f"{machine.component_of(fault).name.capitalize()}: {machine.faults[fault].name}"


def suspicion(p: float) -> str:
    """Return the step of suspicion a drawing shows: none, faint, wide, narrow, cross, solid."""
    for limit, name in ((0.85, "solid"), (0.5, "cross"), (0.2, "narrow"), (0.05, "wide"), (0.02, "faint")):
        if p >= limit:
            return name
    return "none"


def step_reason(machine: MachineType, step: Step) -> str:
    """Return one sentence on why this step comes next."""
    if step.safety:
        return "Safety first: a dangerous fault is plausible, and this tells."
    if step.proves:
        return f"The shop proves first: {fault_phrase(machine, step.proves)} is not proved yet, and this tells most about it."
    if len(step.parts_faults) >= 2:
        first, second = (fault_phrase(machine, fault) for fault in step.parts_faults[:2])
        return f"It parts {first} from {second}."
    if step.parts_faults:
        return f"It speaks for or against {fault_phrase(machine, step.parts_faults[0])}."
    return "It says little that is not known already."


def fault_phrase(machine: MachineType, fault: str) -> str:
    """Return a fault inside a sentence: "a drain pump with: rotor slips"."""
    return f"“{machine.component_of(fault).name}: {machine.faults[fault].name}”"


def finding_words(machine: MachineType, source: str, answer: str) -> str:
    """Return what was found, in words: the outcome's label, the phrase, the code."""
    kind, _, rest = source.partition(":")
    if kind == "says" and rest in machine.complaints:
        says = machine.complaints[rest].record.says
        return (
            f"customer: {says[0].lower()}{says[1:]}"
            if answer == "said"
            else f"not mentioned: {says[0].lower()}{says[1:]}"
        )
    if kind == "code" and rest in machine.codes:
        return f"code {rest}, {machine.codes[rest].record.name}" if answer == "stored" else f"no code {rest}"
    if kind == "mark" and rest in machine.marks:
        mark = machine.marks[rest].record
        ages = {"live": "live", "old": "an old trail", "unsure": "live or old"}
        return f"{mark.kind} at the {machine.components[mark.at].name}, {ages[answer]}"
    if source == "panel":
        return "the panel could not be read"
    if kind == "run":
        return f"run: {rest.replace('_', ' ')} {'well' if answer == 'well' else 'as before'}"
    check = machine.checks.get(source)
    outcome = check.outcome(answer) if check else None
    return outcome.label if outcome else answer


SHORT = 10
"""An answer of so few letters says little without its question."""


def strongest(machine: MachineType, found: list[Weight]) -> str:
    """Return the strongest reason for a fault in a few words, or that nothing speaks for it yet."""
    best = max(found, key=lambda weight: weight.decibans, default=None)
    if best is None or best.decibans < WEAK_DB:
        return "by its frequency alone"
    words = finding_words(machine, best.finding.source, best.finding.answer)
    check = machine.checks.get(best.finding.source)
    return f"{words} ({check.name[0].lower()}{check.name[1:]})" if check and len(words) <= SHORT else words
