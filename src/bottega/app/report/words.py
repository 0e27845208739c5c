"""A report's words for the customer: what was found and proved, as statements in the past; no
imperative, no internal name, no figure as a verdict."""

from bottega.core.diagnosis.evidence import Finding
from bottega.core.diagnosis.words import MARK_AGES, check_of
from bottega.core.job.proofs import Owed
from bottega.core.job.words import code_words
from bottega.core.library.machine_type import MachineType
from bottega.core.library.vocabulary import ProofName
from bottega.core.machine.words import thing_of
from bottega.core.wording import lower_first, upper_first

PROVED: dict[ProofName, str] = {
    "run": "Your programme was run and watched to where it had failed",
    "leak_watch": "What had been open was watched with water in",
    "spin": "A full spin was run and listened to",
    "lock_test": "The lock was tried: it holds, and it lets go",
    "calibration": "The maker's calibration was run, where there is one",
    "earth": "Earth and insulation were measured by the local rule",
}


def found_words(machine: MachineType, finding: Finding) -> str:
    """Return what was found as a statement: the thing looked at, and how it was."""
    (kind, subject), answer = finding.source, finding.answer
    match kind:
        case "says" if subject in machine.complaints:
            says = lower_first(machine.complaints[subject].record.says)
            told = {"said": "You told us", "not so": "You told us that this is not so"}
            return f"{told.get(answer, 'Not mentioned')}: {says}"
        case "code" if machine.code(subject):
            stored = "had stored" if answer == "stored" else "had not stored"
            return f"The machine {stored}: {code_words(machine, subject)}"
        case "mark" if subject in machine.marks:
            mark = machine.marks[subject].record
            part = machine.components[mark.at].name
            return f"{upper_first(mark.kind)} at the {part}, {MARK_AGES[answer]}"
        case "panel":
            return "The machine's memory could not be read"
        case "calibration" if phase := machine.calibration.phase(subject):
            how = "passed" if answer == "passed" else "stalled"
            return f"The calibration {how} where it {phase.name}"
        case "run" if subject in machine.effects:
            how = "well" if answer == "well" else "not well"
            return f"In a run, {machine.effects[subject].name}: {how}"
        case _:
            check = check_of(machine, finding)
            outcome = check.outcome(answer) if check else None
            if check is None or outcome is None:
                return upper_first(answer)
            name = machine.effects[check.effect].name
            return f"{upper_first(name)}: {lower_first(outcome.label)}"


def proved_words(machine: MachineType, debt: Owed) -> str:
    """Return what was owed as a statement of what it is about, without saying how it went."""
    match debt.kind:
        case "proof":
            return PROVED[debt.subject]  # type: ignore[index]  # a proof's own name
        case "check":
            name = machine.effects[machine.checks[debt.subject].effect].name
            return f"Looked at again after the repair: {name}"
        case "clear":
            return "The stored codes were cleared"
        case "cause":
            return "What may have brought it about was looked into"
        case "follow":
            fault = machine.faults[debt.subject]
            return f"Looked into beside it: {machine.component_of(fault.id).name}, {fault.name}"
        case "recheck":
            return "A day was set on which it is looked at again"
        case "tray":
            name = thing_of(machine.operations[debt.subject].name)
            return f"Fasteners left over at {name}"
        case _:
            return debt.name
