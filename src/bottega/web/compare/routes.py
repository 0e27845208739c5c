"""Two machines side by side, or one before and after its repair."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.answer import Answer
from bottega.app.bench.sheets import bench
from bottega.app.compare.comparison import Comparison, before_and_after, side_by_side
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
BEFORE = "before"
"""What a job is held against when it is itself before its repair."""


@dataclass(frozen=True)
class Other:
    """A job this one can be held against."""

    number: str
    name: str


@dataclass(frozen=True)
class ComparePage:
    """What the comparison gets: the two columns, and the jobs it can be held against."""

    page: Page
    answer: Answer
    comparison: Comparison | None
    against: str
    same_place: list[Other]
    elsewhere: list[Other]
    repaired: bool


@router.get("/compare")
def compare_page(request: Request, number: str, against: str = "") -> Response:
    """Show a job beside another one, or before and after its repair."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    others = [s for s in bench(workshop) if s.number != number and s.lane != "unreadable"]
    place = answer.job.opened.place
    same = [Other(s.number, f"{s.number} {s.machine}") for s in others if s.place == place]
    elsewhere = [
        Other(s.number, f"{s.number} {s.machine}, {s.place}") for s in others if s.place != place
    ]
    repaired = bool(answer.job.repairs)
    against = against or (BEFORE if repaired else same[0].number if same else "")
    comparison = None
    if against == BEFORE:
        if not repaired:
            raise NotFound(f"Job {number} has no repair yet, so there is no before and after.")
        comparison = before_and_after(answer)
    elif against:
        comparison = side_by_side(answer, diagnose(workshop, against))
    page = Page(f"Compare {number}")
    context = ComparePage(page, answer, comparison, against, same, elsewhere, repaired)
    return render(request, "compare/page.html", context)
