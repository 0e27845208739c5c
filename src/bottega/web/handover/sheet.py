"""The sheet of the station *Hand over*: what is still owed, the advice, the report."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.decide.verdict import verdict_of
from bottega.core.job.events import Recheck
from bottega.core.job.proofs import Owed, owed
from bottega.core.job.words import repair_name
from bottega.core.worth.advice import advice
from bottega.web.station.sheet import Desk, Sheet


@dataclass(frozen=True)
class HandoverSheet(Sheet):
    """What the station *Hand over* shows."""

    template: ClassVar[str] = "handover/_sheet.html"
    debts: list[Owed]
    """What is still owed."""
    ready: bool
    rechecks: list[tuple[str, Recheck]]
    """Cures that are looked at again, by name."""
    advice: str
    no_advice: str
    """Why no advice is proposed; empty where one is."""


def handover_sheet(desk: Desk) -> HandoverSheet:
    """Return the sheet of the station *Hand over*."""
    answer = desk.answer
    job, machine = answer.job, answer.machine
    verdict = verdict_of(answer, desk.workshop.settings.prove_at)
    fault = verdict.faults[0] if verdict.faults else answer.leading
    advised = advice(machine, fault, desk.workshop.shelf.tables.advice)
    left = [debt for debt in owed(job, machine) if not debt.settled]
    typed = desk.error.typed.get("advice") if desk.error else None
    return HandoverSheet(
        debts=left,
        ready=not left and job.decided is not None,
        rechecks=[(repair_name(machine, name), again) for name, again in job.rechecks.items()],
        advice=advised.says if typed is None else typed,
        no_advice=advised.why_none,
    )
