"""The sheet of the station *Decide*: the choices with their quotes, and what is not known."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.decide.decision import choices, not_known
from bottega.app.strip.plan import still_to_open
from bottega.core.diagnosis.words import fault_title, percent
from bottega.core.job.events import Decided
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
    opening: bool
    """Whether something has to come off or be done before what was decided on can be reached."""
    taken: Option | None
    """Which of the choices was decided on; None too when that is no longer offered."""


def decide_sheet(desk: Desk) -> DecideSheet:
    """Return the sheet of the station *Decide*."""
    workshop, answer = desk.workshop, desk.answer
    fault, chance = answer.ranking[0]
    if answer.belief.healthy >= chance and not answer.evidence.keeps_failing:
        verdict = f"Nothing wrong with the machine, {percent(answer.belief.healthy)}"
    else:
        verdict = f"{fault_title(answer.machine, fault)}, {percent(chance)}"
    offered = choices(workshop, answer)
    settings, unknown = workshop.settings, not_known(answer)
    if chance < settings.prove_at and settings.school == "prove_first":
        needed = f"{settings.prove_at:.0%}"
        unproved = f"a part is fitted from {needed} on; this is not proved yet."
        unknown.insert(0, f"In this shop {unproved}")
    return DecideSheet(
        verdict=verdict,
        unknown=unknown,
        choices=offered,
        decided=decided_words(answer.machine, answer.job.decided) if answer.job.decided else "",
        reason=desk.error.typed.get("reason", "") if desk.error else "",
        taken=next((option for option in offered if _is(option, answer.job.decided)), None),
        opening=still_to_open(answer),
    )


def _is(option: Option, decided: Decided | None) -> bool:
    repair = option.repair.id if option.repair else None
    return decided is not None and (option.choice, repair) == (decided.choice, decided.repair)
