"""How it thinks about a job: the ranking as it moved; and two machines, or before and after, side by side."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.bench import bench
from bottega.app.comparing import Comparison, before_and_after, side_by_side
from bottega.app.diagnosing import Answer, diagnose
from bottega.app.errors import NotFound
from bottega.app.thinking import Thinking, thinking_of
from bottega.web.rendering import Page, render, workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
BAR = 620.0
"""Width of a belief's bar, in drawing units."""
BEFORE = "before"


@dataclass(frozen=True)
class Band:
    """One stretch of a belief's bar: which fault (0 to 4), others (5) or nothing wrong (6), where, and its share."""

    kind: int
    x: float
    width: float
    share: float


@dataclass(frozen=True)
class ThinkingPage:
    """What the page "how it thinks" gets."""

    page: Page
    answer: Answer
    thinking: Thinking
    bars: list[list[Band]]
    """One bar a stage, in the order of the stages."""


@dataclass(frozen=True)
class ComparePage:
    """What the comparison gets: the two columns, and the jobs it can be held against."""

    page: Page
    answer: Answer
    comparison: Comparison | None
    against: str
    same_place: list[tuple[str, str]]
    elsewhere: list[tuple[str, str]]
    repaired: bool


@router.get("/thinking")
def thinking_page(request: Request, number: str) -> Response:
    """Show how the belief of a job came about."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    thinking = thinking_of(workshop, answer)
    bars = [bands((*stage.shares, stage.other, stage.healthy)) for stage in thinking.stages]
    page = Page(f"How it thinks, {number}", "job")
    return render(request, "thinking/page.html", ThinkingPage(page, answer, thinking, bars))


@router.get("/compare")
def compare_page(request: Request, number: str, against: str = "") -> Response:
    """Show a job beside another one, or before and after its repair."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    others = [sheet for sheet in bench(workshop) if sheet.number != number]
    place = answer.job.opened.place
    same = [(s.number, f"{s.number} {s.machine}") for s in others if s.place == place]
    elsewhere = [(s.number, f"{s.number} {s.machine}, {s.place}") for s in others if s.place != place]
    repaired = bool(answer.job.repairs)
    against = against or (BEFORE if repaired else same[0][0] if same else "")
    comparison = None
    if against == BEFORE:
        if not repaired:
            raise NotFound(f"Job {number} has no repair yet, so there is no before and after.")
        comparison = before_and_after(answer)
    elif against:
        comparison = side_by_side(answer, diagnose(workshop, against))
    context = ComparePage(Page(f"Compare {number}", "job"), answer, comparison, against, same, elsewhere, repaired)
    return render(request, "compare/page.html", context)


def bands(shares: tuple[float, ...]) -> list[Band]:
    """Return shares as stretches of one bar; shares of several faults at once may sum above one and are scaled down."""
    total = max(sum(shares), 1e-9)
    found, x = [], 0.0
    for kind, share in enumerate(shares):
        width = share / total * BAR
        found.append(Band(kind, x, width, share))
        x += width
    return found
