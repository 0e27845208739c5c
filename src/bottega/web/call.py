"""Take a call: the form, and what it may be while it is being typed."""

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import FormData

from bottega.app.diagnosing import Answer, questions
from bottega.app.errors import AppError
from bottega.app.taking import Loading, loading, open_job, preview
from bottega.core.diagnosis.plan import Step
from bottega.core.job.complaint import by_phase
from bottega.core.library.machine_type import Complaint
from bottega.web.rendering import ErrorNote, Page, author_of, render, workshop_of
from bottega.web.security import checked_form

router = APIRouter(include_in_schema=False)

PLATE_FIELDS = (
    ("volts", "Volts"),
    ("hertz", "Hertz"),
    ("heater_w", "Heater W"),
    ("motor_w", "Motor W"),
    ("capacity_kg", "Capacity kg"),
    ("spin_rpm", "Spin rpm"),
    ("year", "Year"),
    ("serial", "Serial"),
)
BLANK = {
    "machine": "",
    "text": "",
    "age_years": "",
    "place": "",
    "customer": "",
    "history": "",
    "power": "on",
    "taps": "open",
    "water": "unknown",
    "arrival": "",
}
QUESTIONS = 4


@dataclass(frozen=True)
class Maybe:
    """What the call may be about, before the job is opened."""

    answer: Answer
    said: tuple[str, ...]
    phrases: list[tuple[str, list[Complaint]]]
    others: list[tuple[str, list[Complaint]]]
    questions: list[Step]
    loading: Loading


@dataclass(frozen=True)
class CallPage:
    """What the call page gets."""

    page: Page
    typed: dict[str, str]
    sheets: list[tuple[str, str]]
    archetypes: list[tuple[str, str]]
    plate_fields: tuple[tuple[str, str], ...]
    plate_open: bool
    maybe: Maybe | None
    maybe_problem: str
    error: ErrorNote | None


@router.get("/call")
def call_page(request: Request) -> Response:
    """Show the empty form."""
    return _page(request, dict(BLANK), None, None, "", 200)


@router.post("/call/preview", dependencies=[Depends(checked_form)])
async def call_preview(request: Request) -> Response:
    """Show what it may be, as typed so far."""
    form = await request.form()
    typed = _typed(form)
    maybe, problem = _maybe(request, form, typed)
    return _page(request, typed, maybe, None, problem, 200)


@router.post("/call", dependencies=[Depends(checked_form)])
async def take_call(request: Request) -> Response:
    """Open the job."""
    form = await request.form()
    typed = _typed(form)
    said = [str(item) for item in form.getlist("said")]
    try:
        opened = _opened(typed)
        answer = open_job(
            workshop_of(request), opened, typed["text"], said, author_of(request), str(form.get("event_id", ""))
        )
    except AppError as error:
        maybe, problem = _maybe(request, form, typed)
        return _page(request, typed, maybe, ErrorNote(str(error), error.field, typed), problem, error.status)
    return RedirectResponse(f"/jobs/{answer.number}", status_code=303)


def _typed(form: FormData) -> dict[str, str]:
    typed = {key: str(form.get(key, default)) for key, default in BLANK.items()}
    typed.update({f"plate_{key}": str(form.get(f"plate_{key}", "")) for key, _ in PLATE_FIELDS})
    typed["event_id"] = str(form.get("event_id", ""))
    return typed


def _opened(typed: dict[str, str]) -> dict[str, Any]:
    kind, _, machine = typed["machine"].partition(":")
    plate = {key: typed[f"plate_{key}"].strip() or None for key, _ in PLATE_FIELDS}
    return {
        "archetype": machine if kind == "archetype" else "",
        "sheet": machine if kind == "sheet" else None,
        "age_years": typed["age_years"].replace(",", ".").strip() or None,
        "place": typed["place"].strip(),
        "customer": typed["customer"].strip(),
        "history": tuple(part.strip() for part in typed["history"].split(";") if part.strip()),
        "power": typed["power"],
        "taps": typed["taps"],
        "water": typed["water"],
        "arrival": typed["arrival"].strip(),
        "plate": plate,
    }


def _maybe(request: Request, form: FormData, typed: dict[str, str]) -> tuple[Maybe | None, str]:
    workshop = workshop_of(request)
    opened = _opened(typed)
    opened["place"] = opened["place"] or "?"
    opened["age_years"] = opened["age_years"] or workshop.shelf.tables.engine.reference_age_years
    ticked = [str(item) for item in form.getlist("said")]
    try:
        answer, heard = preview(workshop, opened, typed["text"], None)
        said = list(dict.fromkeys([item.complaint.id for item in heard] + ticked))
        if ticked:
            answer, _ = preview(workshop, opened, typed["text"], said)
    except AppError as error:
        return None, str(error)
    if not said:
        return None, ""
    phrases, others = [], []
    for phase, items in by_phase(answer.machine):
        phrases.append((phase, [c for c in items if c.id in said]))
        others.append((phase, [c for c in items if c.id not in said]))
    steps = questions(answer)[:QUESTIONS]
    return (
        Maybe(
            answer,
            tuple(said),
            [p for p in phrases if p[1]],
            [p for p in others if p[1]],
            steps,
            loading(workshop, answer),
        ),
        "",
    )


def _page(
    request: Request, typed: dict[str, str], maybe: Maybe | None, error: ErrorNote | None, problem: str, status: int
) -> Response:
    shelf = workshop_of(request).shelf
    context = CallPage(
        page=Page("Take a call", "call"),
        typed=typed,
        sheets=[(s.sheet, f"{s.maker} {s.model}") for s in shelf.sheets.values()],
        archetypes=[(a.archetype, a.name) for a in shelf.archetypes.values()],
        plate_fields=PLATE_FIELDS,
        plate_open=any(typed.get(f"plate_{key}") for key, _ in PLATE_FIELDS),
        maybe=maybe,
        maybe_problem=problem,
        error=error,
    )
    return render(request, "call/page.html", context, status)
