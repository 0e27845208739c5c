"""A part's sheet: what it may have and why, what nobody has looked at, how to know, how to reach
it."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.core.diagnosis.explain import SHOWN_DB
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.why import Unlooked, not_looked_at
from bottega.core.diagnosis.words import finding_words
from bottega.core.library.records import Component
from bottega.core.library.sheet import SheetPart
from bottega.core.machine.reach import Reach
from bottega.web.drawing.detail import Detail, detail_of
from bottega.web.station.sheet import Desk, Lead, Sheet

REASONS = 6
"""Reasons listed; chosen, the rest weighs little."""
PART_STEPS = 8
"""Checks listed; chosen to fit the sheet."""


@dataclass(frozen=True)
class Suspect:
    """A fault of the part, and its present probability."""

    fault: str
    name: str
    chance: float
    seen: bool
    """Whether it can be seen at the part, so that who sees it may say so."""


@dataclass(frozen=True)
class Reason:
    """What speaks for or against the likeliest fault of the part."""

    words: str
    decibans: float


@dataclass(frozen=True)
class PartSheet(Sheet):
    """What a part's sheet shows."""

    template: ClassVar[str] = "prove/_part.html"
    id: str
    part: Component
    suspects: list[Suspect]
    reasons: list[Reason]
    unlooked: list[Unlooked]
    steps: list[Step]
    reach: Reach
    detail: Detail | None
    numbers: tuple[SheetPart, ...]

    @property
    def lead(self) -> Lead:
        """Return the way to the part."""
        return Lead(self.reach, self.id)


def part_sheet(desk: Desk, part: str) -> PartSheet:
    """Return the sheet of a component of the job's machine."""
    answer = desk.answer
    machine, plan = answer.machine, answer.plan
    own = [(f, p) for f, p in answer.ranking if machine.faults[f].component == part]
    reasons, unlooked = [], []
    if own:
        fault = own[0][0]
        found = sorted(answer.weights(fault), key=lambda w: -abs(w.decibans))[:REASONS]
        told = [w for w in found if abs(w.decibans) >= SHOWN_DB]
        reasons = [Reason(finding_words(machine, w.finding), w.decibans) for w in told]
        unlooked = not_looked_at(answer.belief.model, answer.evidence, plan.steps, fault)
    touched = {effect for f, _ in own for effect in machine.faults[f].effects}
    steps = [s for s in plan.steps if s.check.component == part or s.check.effect in touched]
    return PartSheet(
        id=part,
        part=machine.components[part],
        suspects=[
            Suspect(f, machine.faults[f].name, p, machine.looked_at(f) is not None) for f, p in own
        ],
        reasons=reasons,
        unlooked=unlooked,
        steps=steps[:PART_STEPS],
        reach=answer.reaching.reach(answer.job.state, machine.components[part].reach),
        detail=detail_of(answer, own[0][0]) if own else None,
        numbers=machine.part_numbers.get(part, ()),
    )
