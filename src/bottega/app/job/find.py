"""What somebody looks for by words among the checks of a job, and among what can be seen."""

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.words import fault_title

MOST_SIGHTS = 8
"""Faults listed that can be seen; chosen to fit the sheet."""


def find_steps(workshop: Workshop, answer: Answer, words: str) -> list[Step]:
    """Return the open checks that hold every word in name, part, tool, state or steps, best
    first."""
    wanted = words.lower().split()
    return [s for s in answer.plan.steps if all(w in _text(workshop, answer, s) for w in wanted)]


def find_sights(answer: Answer, words: str) -> list[tuple[str, str]]:
    """Return the faults that hold every word in their name or their part's, and that can be seen:
    id and title; none for no words, or once the job is handed over."""
    machine, wanted = answer.machine, words.lower().split()
    if not wanted or answer.job.handed_over:
        return []
    found = []
    for fault in machine.faults:
        part = machine.component_of(fault)
        text = " ".join((machine.faults[fault].name, part.name, *part.aka)).lower()
        if all(word in text for word in wanted) and machine.looked_at(fault) is not None:
            found.append((fault, fault_title(machine, fault)))
    return found[:MOST_SIGHTS]


def _text(workshop: Workshop, answer: Answer, step: Step) -> str:
    check = step.check
    part = answer.machine.components[check.component]
    needs = [f"{k} {v}" for k, v in check.needs.model_dump().items() if v]
    tool = workshop.shelf.tables.tools[check.tool].name
    return " ".join((check.name, part.name, *part.aka, tool, *needs, *check.steps)).lower()
