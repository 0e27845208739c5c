"""How it thinks about a job: the ranking as it moved, one bar an entry."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from bottega.app.answer import Answer
from bottega.app.job.answer import diagnose
from bottega.app.thinking.history import Stage, Thinking, thinking_of
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
BELIEF_BAR = 620.0
"""Width of a belief's bar, in drawing units."""
SEEN = 0.5
"""A narrower stretch is not drawn, in drawing units; chosen, less than a hair."""
ROOM_FOR_SHARE = 44.0
"""A narrower stretch stays without its figure, in drawing units; chosen, four letters want as
much."""
OTHERS, HEALTHY = 5, 6
"""Kinds of stretches behind the five faults."""


@dataclass(frozen=True)
class Band:
    """One stretch of a belief's bar: which fault (0 to 4), others (5) or nothing wrong (6), where,
    and its share."""

    kind: int
    x: float
    width: float
    share: float

    @property
    def middle(self) -> float:
        """Return where its figure stands."""
        return self.x + self.width / 2

    @property
    def named(self) -> bool:
        """Return whether there is room for its figure."""
        return self.width >= ROOM_FOR_SHARE


@dataclass(frozen=True)
class StageLine:
    """One stage with its bar."""

    stage: Stage
    bands: list[Band]
    strong: bool
    """Whether it moved a share by ten points or more."""


@dataclass(frozen=True)
class ThinkingPage:
    """What the page "how it thinks" gets."""

    page: Page
    answer: Answer
    thinking: Thinking
    lines: list[StageLine]


@router.get("/thinking")
def thinking_page(
    request: Request, number: str, upto: Annotated[int | None, Query(ge=1, le=10**6)] = None
) -> Response:
    """Show how the belief of a job came about; of a long one the newest part, or that up to one
    event."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    thinking = thinking_of(workshop, answer, upto)
    lines = [
        StageLine(s, bands((*s.shares, s.other, s.healthy)), abs(s.change) >= 0.1)
        for s in thinking.stages
    ]
    context = ThinkingPage(Page(f"How it thinks, {number}"), answer, thinking, lines)
    return render(request, "thinking/page.html", context)


def bands(shares: tuple[float, ...]) -> list[Band]:
    """Return shares as stretches of one bar; shares of several faults at once may sum above one and
    are scaled down."""
    total = max(sum(shares), 1e-9)
    found, x = [], 0.0
    for kind, share in enumerate(shares):
        width = share / total * BELIEF_BAR
        found.append(Band(kind, x, width, share))
        x += width
    return found
