"""The sheet of the station *Decide*: the choices with their quotes, and what is not known."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.decide.decision import choices, not_known
from bottega.core.diagnosis.words import fault_title, percent
from bottega.core.job.words import decided_words
from bottega.core.worth.quote import Option
from bottega.web.job.sheet import Desk, Sheet


@dataclass(frozen=True)
class DecideSheet(Sheet):
    """What the station *Decide* shows."""

    template: ClassVar[str] = "decide/_sheet.html"
    verdict: str
    unknown: list[str]
    choices: list[Option]
    decided: str
    """What was decided, in words; empty when nothing is."""
    reason: str


def decide_sheet(desk: Desk) -> DecideSheet:
    """Return the sheet of the station *Decide*."""
    workshop, answer = desk.workshop, desk.answer
    fault, chance = answer.ranking[0]
    if answer.belief.healthy >= chance:
        verdict = f"Nothing wrong with the machine, {percent(answer.belief.healthy)}"
    else:
        verdict = f"{fault_title(answer.machine, fault)}, {percent(chance)}"
    settings, unknown = workshop.settings, not_known(answer)
    if chance < settings.prove_at and settings.school == "prove_first":
        needed = f"{settings.prove_at:.0%}"
        unproved = f"a part is fitted from {needed} on; this is not proved yet."
        unknown.insert(0, f"Under this shop's school {unproved}")
    return DecideSheet(
        verdict=verdict,
        unknown=unknown,
        choices=choices(workshop, answer),
        decided=decided_words(answer.machine, answer.job.decided) if answer.job.decided else "",
        reason=desk.error.typed.get("reason", "") if desk.error else "",
    )
