"""A newer revision of a job's sheet, and what it would change."""

from dataclasses import dataclass

from bottega.app.answer import Answer, AnswerKey
from bottega.app.errors import Unreadable
from bottega.app.job.answer import diagnose_events, readable
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.words import fault_title

CHANGED = 0.02
"""A ranking counts as changed when a probability moves by more than this; chosen, less is not seen
on the screen."""


@dataclass(frozen=True)
class Newer:
    """A newer revision of the sheet, and in a sentence what it would change."""

    revision: str
    change: str


def newer_sheet(workshop: Workshop, answer: Answer) -> Newer | None:
    """Return the newer revision of a job's sheet, or None.

    The ranking under the newer sheet is computed and compared; what would change is said in a
    sentence.
    """
    machine = answer.machine
    present = workshop.machine(machine.archetype, machine.sheet)
    if present.revision == machine.revision:
        return None
    events, settings = list(answer.job.events), workshop.settings
    key = AnswerKey(answer.number, answer.seq, settings, workshop.edition, newer=True)

    def make() -> Answer:
        return readable(
            answer.number,
            lambda: diagnose_events(workshop, answer.number, events, settings, machine=present),
        )

    try:
        fresh = workshop.answers.get(key, make)
    except Unreadable:
        return Newer(present.revision, "this job could not be worked out with it")
    (before, p), (after, q) = answer.ranking[0], fresh.ranking[0]
    chances = dict(fresh.ranking)
    moved = max(abs(chances.get(fault, 0.0) - chance) for fault, chance in answer.ranking)
    if before != after:
        change = f"it would put {fault_title(present, after)} first, at {q:.0%}"
    elif moved < CHANGED:
        change = "it would not change the ranking"
    else:
        change = f"it would put {fault_title(present, after)} at {q:.0%} instead of {p:.0%}"
    return Newer(present.revision, change)
