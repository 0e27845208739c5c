"""Take a call: the form, and what it may be while it is being typed."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response
from pydantic import ValidationError
from starlette.datastructures import FormData

from bottega.app.answer import Answer
from bottega.app.call.call import (
    Call,
    Listened,
    Words,
    open_job,
    parse_call,
    preview,
    sheets_like,
)
from bottega.app.call.loading import Loading, loading
from bottega.app.errors import AppError
from bottega.app.job.answer import questions
from bottega.core.job.complaint import HeardPhrase, Picks, by_phase
from bottega.core.job.events import OFTEN, Often
from bottega.core.library.machine_type import Check, Complaint
from bottega.core.library.programmes import Meant, meant
from bottega.core.library.sheet import Plate
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
    "often": "",
    "history": "",
    "power": "unknown",
    "taps": "unknown",
    "water": "unknown",
    "drum": "unknown",
    "door": "unknown",
    "arrival": "",
    "event_id": "",
}
ASKED = "asked."
"""Begins the name of the field of a question."""
QUESTIONS_ON_CALL = 4
"""Questions to the customer shown at once; chosen, more are not asked on the phone."""


@dataclass(frozen=True)
class Phrases:
    """The phrases of one phase of the cycle."""

    phase: str
    phrases: list[Complaint]


@dataclass(frozen=True)
class CodeTick:
    """A code the customer seems to tell of, and whether it is noted as such."""

    id: str
    name: str
    words: str
    ticked: bool


@dataclass(frozen=True)
class CallQuestion:
    """A question to the customer with its answers, and the one that was given, if any."""

    check: Check
    given: str


@dataclass(frozen=True)
class Maybe:
    """What the call may be about, before the job is opened."""

    answer: Answer
    made: Listened
    phrases: list[Phrases]
    """Every phrase of the machine."""
    said: list[Phrases]
    """Those that stand."""
    codes: list[CodeTick]
    """The codes the words tell of, each with whether it is ticked."""
    questions: list[CallQuestion]
    """Those answered already, then those that would change the picture."""
    loading: Loading
    meant: list[Meant]
    """What of the complaint is by design."""

    @property
    def heard(self) -> tuple[HeardPhrase, ...]:
        """Return what stands because the text says so."""
        return _standing(self.made.hearing.said, self.made.complaint.said, self.made.said)

    @property
    def heard_well(self) -> tuple[HeardPhrase, ...]:
        """Return what is said to be well because the text says so."""
        return _standing(self.made.hearing.well, self.made.complaint.well, self.made.well)


@dataclass(frozen=True)
class CallPage:
    """What the call page gets."""

    page: Page
    typed: dict[str, str]
    sheets: list[tuple[str, str]]
    archetypes: list[tuple[str, str]]
    plate_fields: tuple[PlateField, ...]
    plate_open: bool
    plate_fits: list[tuple[str, str]]
    """Sheets the rating plate fits, unless one of them is chosen."""
    maybe: Maybe | None
    maybe_problem: str
    error: ErrorNote | None


@router.get("/call")
def call_page(request: Request) -> Response:
    """Show the empty form."""
    return _page(request, dict(BLANK), None, None, problem="")


@router.post("/call/preview")
def call_preview(request: Request, form: Form) -> Response:
    """Show what it may be, as typed so far; a sheet the plate fits may be chosen here."""
    typed = _typed(form)
    typed["machine"] = text_of(form, "choose") or typed["machine"]
    maybe, problem = _maybe(request, form, typed)
    return _page(request, typed, maybe, None, problem=problem)


@router.post("/call")
def take_call(request: Request, form: Form) -> Response:
    """Open the job."""
    typed = _typed(form)
    try:
        answer = open_job(
            workshop_of(request),
            _call(typed),
            _words(form, typed),
            author_of(request),
            event_id=typed["event_id"],
        )
    except REFUSALS as error:
        maybe, problem = _maybe(request, form, typed)
        return _page(request, typed, maybe, note_of(error, typed), problem=problem)
    return go_to(request, "job_start", number=answer.number)


def _typed(form: FormData) -> dict[str, str]:
    typed = {key: text_of(form, key) or default for key, default in BLANK.items()}
    return typed | {field.name: text_of(form, field.name) for field in PLATE_FIELDS}


def _call(typed: dict[str, str]) -> Call:
    return parse_call(
        {
            "machine": typed["machine"],
            "age_years": typed["age_years"].replace(",", ".").strip() or None,
            "place": typed["place"].strip(),
            "customer": typed["customer"].strip(),
            "history": tuple(part.strip() for part in typed["history"].split(";") if part.strip()),
            "power": typed["power"],
            "taps": typed["taps"],
            "water": typed["water"],
            "drum": typed["drum"],
            "door": typed["door"],
            "arrival": typed["arrival"].strip(),
            "plate": plate_of_form(typed),
        }
    )


def _words(form: FormData, typed: dict[str, str]) -> Words:
    often: Often = next((known for known in OFTEN if known == typed["often"]), "")
    answers = {
        key.removeprefix(ASKED): str(given)
        for key, given in form.multi_items()
        if key.startswith(ASKED)
    }
    codes = tuple(str(code) for code in form.getlist("codes"))
    return Words(
        typed["text"],
        _picks(form, "said"),
        _picks(form, "well"),
        often,
        codes=codes,
        answers=answers,
    )


def _picks(form: FormData, name: str) -> Picks:
    """Return what was picked by hand among some ticks: those that stood ticked, and those unticked
    before, come back with the words that had been heard."""
    shown, before = (
        dict(str(item).partition("=")[::2] for item in form.getlist(f"{name}_{kind}"))
        for kind in ("heard", "unticked")
    )
    return Picks(no=before).after(shown, [str(item) for item in form.getlist(name)])


def _standing(
    heard: tuple[HeardPhrase, ...], stands: tuple[str, ...], picks: Picks
) -> tuple[HeardPhrase, ...]:
    return tuple(
        item for item in heard if item.complaint.id in stands and item.complaint.id not in picks.yes
    )


def _maybe(request: Request, form: FormData, typed: dict[str, str]) -> tuple[Maybe | None, str]:
    """Return what it may be from what is typed so far: neither age nor place is needed for it."""
    workshop = workshop_of(request)
    if not typed["machine"]:
        return None, ""
    try:
        call = _call({**typed, "place": typed["place"].strip() or "?"})
        words = _words(form, typed)
        answer, made = preview(workshop, call, words)
    except AppError as error:
        return None, str(error)
    if not typed["text"].strip() and not made.complaint.said and not words.answers:
        return None, ""
    phases = [Phrases(phase, items) for phase, items in by_phase(answer.machine)]
    said = [
        Phrases(group.phase, [c for c in group.phrases if c.id in made.complaint.said])
        for group in phases
    ]
    maybe = Maybe(
        answer=answer,
        made=made,
        phrases=phases,
        said=[group for group in said if group.phrases],
        codes=_codes(made, words),
        questions=_questions(answer, words),
        loading=loading(workshop, answer),
        meant=meant(answer.machine, made.complaint.said),
    )
    return maybe, ""


def _codes(made: Listened, words: Words) -> list[CodeTick]:
    return [
        CodeTick(told.code.id, told.code.record.name, told.words, told.code.id in words.codes)
        for told in made.codes
    ]


def _questions(answer: Answer, words: Words) -> list[CallQuestion]:
    """Return the questions answered so far, then those still worth asking, at most so many."""
    given = [(answer.machine.checks[check], outcome) for check, outcome in words.answers.items()]
    asked = [CallQuestion(check, outcome) for check, outcome in given if outcome]
    known = {question.check.id for question in asked}
    more = [
        CallQuestion(step.check, "") for step in questions(answer) if step.check.id not in known
    ]
    return [*asked, *more[: max(0, QUESTIONS_ON_CALL - len(asked))]]


def _fits(request: Request, typed: dict[str, str]) -> list[tuple[str, str]]:
    try:
        plate = Plate.model_validate(plate_of_form(typed))
    except ValidationError:
        return []
    fits = sheets_like(workshop_of(request), plate)
    return [] if any(sheet == typed["machine"] for sheet, _ in fits) else fits


def _page(
    request: Request,
    typed: dict[str, str],
    maybe: Maybe | None,
    error: ErrorNote | None,
    *,
    problem: str,
) -> Response:
    shelf = workshop_of(request).shelf
    context = CallPage(
        page=Page("Take a call"),
        typed=typed,
        sheets=[(s.sheet, s.title) for s in shelf.sheets.values()],
        archetypes=[(a.archetype, a.name) for a in shelf.archetypes.values()],
        plate_fields=PLATE_FIELDS,
        plate_open=any(typed.get(field.name) for field in PLATE_FIELDS),
        plate_fits=_fits(request, typed),
        maybe=maybe,
        maybe_problem=problem,
        error=error,
    )
    return render(request, "call/page.html", context, status_of(error))
