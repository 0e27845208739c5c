"""Say it in a technician's words: chances, reasons for a step, the strongest word for or against a
fault."""

from bottega.core.diagnosis.evidence import Finding
from bottega.core.diagnosis.explain import WEAK_DB, Weight
from bottega.core.diagnosis.plan import Step
from bottega.core.job.words import lower_first
from bottega.core.library.machine_type import Check, MachineType


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
    for limit, name in (
        (0.85, "solid"),
        (0.5, "cross"),
        (0.2, "narrow"),
        (0.05, "wide"),
        (0.02, "faint"),
    ):
        if p >= limit:
            return name
    return "none"


def step_reason(machine: MachineType, step: Step) -> str:
    """Return one sentence on why this step comes next."""
    if step.safety:
        return "Safety first: a dangerous fault is plausible, and this tells."
    if step.proves:
        return (
            f"The shop proves first: {fault_phrase(machine, step.proves)} is not proved "
            "yet, and this tells most about it."
        )
    if len(step.parts_faults) >= 2:
        first, second = (fault_phrase(machine, fault) for fault in step.parts_faults[:2])
        return f"It parts {first} from {second}."
    if step.parts_faults:
        return f"It speaks for or against {fault_phrase(machine, step.parts_faults[0])}."
    return "It says little that is not known already."


def fault_phrase(machine: MachineType, fault: str) -> str:
    """Return a fault inside a sentence: "a drain pump with: rotor slips"."""
    return f"“{machine.component_of(fault).name}: {machine.faults[fault].name}”"


def finding_words(machine: MachineType, finding: Finding) -> str:
    """Return what was found in a few words, as said inside a sentence."""
    (kind, subject), answer = finding.source, finding.answer
    match kind:
        case "says" if subject in machine.complaints:
            says = lower_first(machine.complaints[subject].record.says)
            heard = {"said": "customer", "not so": "customer, not so"}.get(answer, "not mentioned")
            return f"{heard}: {says}"
        case "code" if subject in machine.codes:
            stored = f"code {subject}, {machine.codes[subject].record.name}"
            return stored if answer == "stored" else f"no code {subject}"
        case "mark" if subject in machine.marks:
            mark = machine.marks[subject].record
            return f"{mark.kind} at the {machine.components[mark.at].name}, {MARK_AGES[answer]}"
        case "panel":
            return "the panel could not be read"
        case "run":
            return f"run: {subject.replace('_', ' ')} {'well' if answer == 'well' else 'as before'}"
        case _:
            check = machine.checks.get(subject)
            outcome = check.outcome(answer) if check else None
            return outcome.label if outcome else answer


MARK_AGES = {"live": "live", "old": "an old trail", "unsure": "live or old"}


def check_of(machine: MachineType, finding: Finding) -> Check | None:
    """Return the check a finding answers, or None for what was said, stored or marked."""
    return machine.checks.get(finding.source.subject) if finding.source.kind == "check" else None


SHORT = 10
"""An answer of so few letters says little without its question."""


def strongest(machine: MachineType, found: list[Weight]) -> str:
    """Return the strongest reason for a fault in a few words, or that nothing speaks for it yet."""
    best = max(found, key=lambda weight: weight.decibans, default=None)
    if best is None or best.decibans < WEAK_DB:
        return "by its frequency alone"
    words = finding_words(machine, best.finding)
    check = check_of(machine, best.finding)
    return f"{words} ({lower_first(check.name)})" if check and len(words) <= SHORT else words
