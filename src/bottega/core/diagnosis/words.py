"""Say it in a technician's words: chances, reasons for a step, the strongest word for or against a
fault."""

from collections.abc import Sequence

from bottega.core.diagnosis.evidence import Finding
from bottega.core.diagnosis.explain import WEAK_DB, Weight
from bottega.core.diagnosis.plan import Step
from bottega.core.job.words import code_words
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.wording import lower_first, upper_first


def percent(p: float) -> str:
    """Return a probability as a whole per cent, with "<1%" and ">99%" at the ends."""
    if 0 < p < 0.01:
        return "<1%"
    return ">99%" if 0.99 < p < 1 else f"{p:.0%}"


def shares(chances: Sequence[float]) -> list[str]:
    """Return probabilities of which one must come true as whole per cents that add to a hundred:
    each is rounded down, and what is left goes to the largest remainders (the method of Hamilton).
    One that is small is "<1%", and counts as none."""
    down = [int(p * 100 + 1e-9) for p in chances]
    order = sorted(range(len(down)), key=lambda n: (down[n] - chances[n] * 100, n))
    for n in order[: round(sum(chances) * 100) - sum(down)]:
        down[n] += 1
    return [_share(whole, p) for whole, p in zip(down, chances, strict=True)]


def _share(whole: int, p: float) -> str:
    if whole == 0 and p > 0:
        return "<1%"
    return ">99%" if whole == 100 and p < 1 else f"{whole}%"


def fault_title(machine: MachineType, fault: str) -> str:
    """Return a fault as "Drain pump: rotor slips"."""
    return f"{upper_first(machine.component_of(fault).name)}: {machine.faults[fault].name}"


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
        return "Safety first: a dangerous fault is possible, and this check tells."
    if step.proves:
        return (
            f"The shop proves first: {fault_phrase(machine, step.proves)} is not proved "
            "yet, and this tells most about it."
        )
    provoked = [fault for fault, _ in step.check.provokes if fault in step.parts_faults]
    if provoked:
        return f"It makes {fault_phrase(machine, provoked[0])} show itself, which comes and goes."
    if len(step.parts_faults) >= 2:
        first, second = (fault_phrase(machine, fault) for fault in step.parts_faults[:2])
        return f"It tells {first} and {second} apart."
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
        case "code" if machine.code(subject):
            stored = f"code {code_words(machine, subject)}"
            return stored if answer == "stored" else f"no code {subject}"
        case "mark" if subject in machine.marks:
            mark = machine.marks[subject].record
            return f"{mark.kind} at the {machine.components[mark.at].name}, {MARK_AGES[answer]}"
        case "panel":
            return "the panel could not be read"
        case "calibration" if phase := machine.calibration.phase(subject):
            return (
                f"calibration: it {phase.name}"
                if answer == "passed"
                else (f"calibration: stalled where it {phase.name}")
            )
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


SHORT_ANSWER = 10
"""An answer of so few letters says little without its question."""


def strongest(machine: MachineType, found: list[Weight]) -> str:
    """Return the strongest reason for a fault in a few words, or that nothing speaks for it yet."""
    best = max(found, key=lambda weight: weight.decibans, default=None)
    if best is None or best.decibans < WEAK_DB:
        return "by how often it happens"
    words = finding_words(machine, best.finding)
    check = check_of(machine, best.finding)
    return f"{words} ({lower_first(check.name)})" if check and len(words) <= SHORT_ANSWER else words
