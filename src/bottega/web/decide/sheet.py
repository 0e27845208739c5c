"""The sheet of the station *Decide*: the choices with their quotes, and what is not known."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.decide.decision import bill, choices, not_known, proving
from bottega.app.decide.verdict import Verdict, verdict_of
from bottega.app.strip.plan import still_to_open
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.words import percent
from bottega.core.job.events import Decided
from bottega.core.job.words import decided_words
from bottega.core.worth.options import Option
from bottega.web.kit.words import money_in
from bottega.web.station.sheet import Desk, Sheet


@dataclass(frozen=True)
class ChoiceOffer:
    """A choice with its bill in words: as it stands, or as it stood when it was decided on."""

    option: Option
    taken: bool
    leads: bool
    """Whether it is the one decided on, or the first where none of the choices is."""
    total: str
    bill: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class DecideSheet(Sheet):
    """What the station *Decide* shows."""

    template: ClassVar[str] = "decide/_sheet.html"
    verdict: str
    first: list[str]
    """What comes first where a repaired machine fails still."""
    untried: list[str]
    """What is still to be tried where nothing was found yet."""
    unknown: list[str]
    proving: Step | None
    """The check to make before the parts that lead are bought; None where they are proved, or no
    check pays."""
    offers: list[ChoiceOffer]
    decided: str
    """What was decided, in words; empty when nothing is."""
    reason: str
    opening: bool
    """Whether something has to come off or be done before what was decided on can be reached."""


def decide_sheet(desk: Desk) -> DecideSheet:
    """Return the sheet of the station *Decide*."""
    workshop, answer = desk.workshop, desk.answer
    verdict, chance = verdict_of(answer, workshop.settings.prove_at), answer.ranking[0][1]
    offered, decided = choices(workshop, answer), answer.job.decided
    leads = next((option for option in offered if _is(option, decided)), offered[0])
    settings, unknown = workshop.settings, not_known(answer)
    if chance < settings.prove_at and settings.school == "prove_first":
        needed = f"{settings.prove_at:.0%}"
        unproved = f"a part is fitted from {needed} on; this is not proved yet."
        unknown.insert(0, f"In this shop {unproved}")
    return DecideSheet(
        verdict=_heading(verdict),
        first=list(verdict.first),
        untried=list(verdict.untried) if verdict.state == "looking" and not verdict.faults else [],
        unknown=unknown,
        proving=None if decided else proving(workshop, answer, leads),
        offers=[_offer(workshop, option, decided, option is leads) for option in offered],
        decided=decided_words(answer.machine, decided) if decided else "",
        reason=desk.error.typed.get("reason", "") if desk.error else "",
        opening=still_to_open(answer),
    )


def _heading(verdict: Verdict) -> str:
    """Return the verdict as a heading, with its chance where it rests on one."""
    guess = verdict.state in ("looking", "leading", "proved", "two") and verdict.chance is not None
    return f"{verdict.title}, {percent(verdict.chance or 0.0)}" if guess else verdict.title


def _offer(workshop: Workshop, option: Option, decided: Decided | None, leads: bool) -> ChoiceOffer:
    taken = _is(option, decided)
    if decided is not None and taken and decided.lines:
        total, lines, currency = decided.total, decided.lines, decided.currency
    else:
        total, lines = option.quote.total, bill(workshop, option)
        currency = workshop.settings.currency
    rows = tuple((line.text, money_in(line.amount, currency)) for line in lines)
    return ChoiceOffer(option, taken, leads, money_in(total, currency), rows)


def _is(option: Option, decided: Decided | None) -> bool:
    if decided is None or option.choice != decided.choice:
        return False
    return decided.choice != "repair" or option.key == ",".join(decided.repairs)
