"""Take a call: the form, and what it may be while it is being typed."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response
from starlette.datastructures import FormData

from bottega.app.answer import Answer
from bottega.app.call.call import Call, open_job, parse_call, preview
from bottega.app.call.loading import Loading, loading
from bottega.app.errors import AppError
from bottega.app.job.answer import questions
from bottega.core.diagnosis.plan import Step
from bottega.core.job.complaint import by_phase
from bottega.core.library.machine_type import Complaint
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import ErrorNote, Page, author_of, go_to, render, status_of, workshop_of
from bottega.web.kit.plate import PLATE_FIELDS, PlateField, plate_of_form
from bottega.web.kit.security import Form, text_of

router = APIRouter(include_in_schema=False)
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
    "event_id": "",
}
QUESTIONS = 4
"""Questions to the customer shown at once; chosen, more are not asked on the phone."""


@dataclass(frozen=True)
class Phrases:
    """The phrases of one phase of the cycle."""

    phase: str
    phrases: list[Complaint]


@dataclass(frozen=True)
class Maybe:
    """What the call may be about, before the job is opened."""

    answer: Answer
    said: tuple[str, ...]
    heard: list[Phrases]
    others: list[Phrases]
    questions: list[Step]
    loading: Loading


@dataclass(frozen=True)
class CallPage:
    """What the call page gets."""

    page: Page
    typed: dict[str, str]
    sheets: list[tuple[str, str]]
    archetypes: list[tuple[str, str]]
    plate_fields: tuple[PlateField, ...]
    plate_open: bool
    maybe: Maybe | None
    maybe_problem: str
    error: ErrorNote | None


@router.get("/call")
def call_page(request: Request) -> Response:
    """Show the empty form."""
    return _page(request, dict(BLANK), None, None, "")


@router.post("/call/preview")
def call_preview(request: Request, form: Form) -> Response:
    """Show what it may be, as typed so far."""
    typed = _typed(form)
    maybe, problem = _maybe(request, form, typed)
    return _page(request, typed, maybe, None, problem)


@router.post("/call")
def take_call(request: Request, form: Form) -> Response:
    """Open the job."""
    typed = _typed(form)
    said = [str(item) for item in form.getlist("said")]
    try:
        call = _call(typed)
        answer = open_job(
            workshop_of(request), call, typed["text"], said, author_of(request), typed["event_id"]
        )
    except REFUSALS as error:
        maybe, problem = _maybe(request, form, typed)
        return _page(request, typed, maybe, note_of(error, typed), problem)
    return go_to(request, "job_start", number=answer.number)


def _typed(form: FormData) -> dict[str, str]:
    typed = {key: text_of(form, key) or default for key, default in BLANK.items()}
    return typed | {field.name: text_of(form, field.name) for field in PLATE_FIELDS}


def _call(typed: dict[str, str]) -> Call:
    return parse_call(
        {
            "machine": typed["machine"],
            "age_years": typed["age_years"].replace(",", ".").strip(),
            "place": typed["place"].strip(),
            "customer": typed["customer"].strip(),
            "history": tuple(part.strip() for part in typed["history"].split(";") if part.strip()),
            "power": typed["power"],
            "taps": typed["taps"],
            "water": typed["water"],
            "arrival": typed["arrival"].strip(),
            "plate": plate_of_form(typed),
        }
    )


def _maybe(request: Request, form: FormData, typed: dict[str, str]) -> tuple[Maybe | None, str]:
    workshop = workshop_of(request)
    age = workshop.shelf.tables.engine.reference_age_years
    so_far = {"place": typed["place"].strip() or "?", "age_years": typed["age_years"] or f"{age:g}"}
    ticked = [str(item) for item in form.getlist("said")]
    try:
        call = _call({**typed, **so_far})
        answer, heard = preview(workshop, call, typed["text"], None)
        said = list(dict.fromkeys([*(item.complaint.id for item in heard), *ticked]))
        if ticked:
            answer, _ = preview(workshop, call, typed["text"], said)
    except AppError as error:
        return None, str(error)
    if not said:
        return None, ""
    phases = by_phase(answer.machine)
    found = [Phrases(phase, [c for c in items if c.id in said]) for phase, items in phases]
    others = [Phrases(phase, [c for c in items if c.id not in said]) for phase, items in phases]
    maybe = Maybe(
        answer=answer,
        said=tuple(said),
        heard=[group for group in found if group.phrases],
        others=[group for group in others if group.phrases],
        questions=questions(answer)[:QUESTIONS],
        loading=loading(workshop, answer),
    )
    return maybe, ""


def _page(
    request: Request,
    typed: dict[str, str],
    maybe: Maybe | None,
    error: ErrorNote | None,
    problem: str,
) -> Response:
    shelf = workshop_of(request).shelf
    context = CallPage(
        page=Page("Take a call"),
        typed=typed,
        sheets=[(s.sheet, f"{s.maker} {s.model}") for s in shelf.sheets.values()],
        archetypes=[(a.archetype, a.name) for a in shelf.archetypes.values()],
        plate_fields=PLATE_FIELDS,
        plate_open=any(typed.get(field.name) for field in PLATE_FIELDS),
        maybe=maybe,
        maybe_problem=problem,
        error=error,
    )
    return render(request, "call/page.html", context, status_of(error))
