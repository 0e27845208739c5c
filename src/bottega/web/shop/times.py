"""What jobs take, stage by stage, as it was noted; beside it what the plan says."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.shop.times import STAGES, Taken, times_taken
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class TimesPage:
    """What the page of times gets."""

    page: Page
    stages: tuple[str, ...]
    rows: list[Taken]


@router.get("/times")
def times_page(request: Request) -> Response:
    """Show what jobs take."""
    workshop = workshop_of(request)
    context = TimesPage(Page("What jobs take"), STAGES, times_taken(workshop))
    return render(request, "shop/times.html", context)
