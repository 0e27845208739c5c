"""The sheet on which something seen or heard is marked: the part tapped, what, in which phase, live
or old."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.core.diagnosis.findings import marks_at
from bottega.core.library.vocabulary import PHASES
from bottega.web.station.sheet import Desk, Sheet


@dataclass(frozen=True)
class MarkChoice:
    """One thing that can be chosen; ``speaks`` when it weighs in the ranking, ``chosen`` when it
    was typed before."""

    key: str
    name: str
    speaks: bool = False
    chosen: bool = False


@dataclass(frozen=True)
class MarkSheet(Sheet):
    """What the sheet for a mark shows; ``at`` is empty until a part is chosen."""

    template: ClassVar[str] = "prove/_mark.html"
    at: str
    name: str
    point: tuple[float, float] | None
    parts: list[MarkChoice]
    kinds: list[MarkChoice]
    ages: list[MarkChoice]
    phases: list[str]


def mark_sheet(desk: Desk) -> MarkSheet:
    """Return the sheet for a mark at the part asked for."""
    machine, table = desk.answer.machine, desk.workshop.shelf.tables.marks
    at = desk.asked.mark if desk.asked.mark in machine.components else None
    typed = desk.error.typed if desk.error else {}
    parts = [
        MarkChoice(key, part.name, chosen=key == at) for key, part in machine.components.items()
    ]
    return MarkSheet(
        at=at or "",
        name=machine.components[at].name if at else "",
        point=desk.asked.point,
        parts=sorted(parts, key=lambda part: part.name),
        kinds=[
            MarkChoice(
                key, kind.name, bool(marks_at(machine, key, at or "")), typed.get("what") == key
            )
            for key, kind in table.kinds.items()
        ],
        ages=[
            MarkChoice(key, age.name, chosen=typed.get("age") == key)
            for key, age in table.ages.items()
        ],
        phases=[phase for phase in PHASES if phase != "any"],
    )
