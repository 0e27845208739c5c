"""What jobs take, stage by stage, as it was noted, beside what the plan says; and the shop's own
minutes, which its plans may count with."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.errors import AppError
from bottega.app.shop.pace import Learning, learning_of, take_library_pace, take_own_pace
from bottega.app.shop.times import STAGES, TimesTaken, last_jobs, times_taken
from bottega.web.kit.errors import note_of
from bottega.web.kit.page import ErrorNote, Page, go_to, render, status_of, workshop_of
from bottega.web.kit.security import Form, text_of

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class TimesPage:
    """What the page of times gets."""

    page: Page
    stages: tuple[str, ...]
    rows: list[TimesTaken]
    learning: Learning
    own: bool
    """Whether plans count with the shop's own minutes."""
    error: ErrorNote | None


@router.get("/times")
def times_page(request: Request) -> Response:
    """Show what jobs take."""
    return _show(request)


@router.post("/times/pace")
def take_pace(request: Request, form: Form) -> Response:
    """Let plans count with the shop's own minutes, or with the library's."""
    workshop = workshop_of(request)
    if text_of(form, "pace") == "library":
        take_library_pace(workshop)
        return go_to(request, "times_page")
    try:
        take_own_pace(workshop)
    except AppError as error:
        return _show(request, note_of(error, {}))
    return go_to(request, "times_page")


def _show(request: Request, error: ErrorNote | None = None) -> Response:
    workshop = workshop_of(request)
    own = bool(workshop.settings.pace)
    jobs = list(last_jobs(workshop))
    learning, taken = learning_of(workshop, jobs), times_taken(workshop, jobs)
    context = TimesPage(Page("What jobs take"), STAGES, taken, learning, own, error)
    return render(request, "shop/times.html", context, status_of(error))
