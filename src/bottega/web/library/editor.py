"""Write sheets on screen: new, extended field by field with help, raw YAML with errors at their
line; bring in, hand out."""

import json
from collections.abc import Callable
from dataclasses import dataclass, replace

from fastapi import APIRouter, Request, Response
from pydantic import TypeAdapter, ValidationError

from bottega.app.bounds import json_of
from bottega.app.errors import BadValue, NotFound
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.library.parts import add_part
from bottega.app.library.revisions import last_change
from bottega.app.library.sheets import (
    MOST_REVISIONS,
    BrokenSheet,
    Incoming,
    add_code,
    add_fastener,
    add_note,
    add_value,
    codes_from_csv,
    export_all,
    incoming,
    new_sheet,
    panel_as_typed,
    save,
    take_codes,
    take_incoming,
    text_of,
)
from bottega.app.values import whole
from bottega.app.workshop import Workshop
from bottega.core.job.events import Rebased
from bottega.core.library.errors import Problem
from bottega.core.library.machine_type import Check, Effect, MachineType
from bottega.core.library.yamlfile import MAX_BYTES
from bottega.store.sheets import SheetRevision
from bottega.web.kit.errors import REFUSALS, Refusal, note_of
from bottega.web.kit.page import ErrorNote, Page, author_of, go_to, render, status_of, workshop_of
from bottega.web.kit.plate import PLATE_FIELDS, PlateField
from bottega.web.kit.security import Form, file_of, texts_of
from bottega.web.panel.face import DrawnPanel, face_of

router = APIRouter(prefix="/library", include_in_schema=False)
GRADES = ("sheet", "measured", "remembered", "guessed")
STORED = "stored_"
"""How the name of a field begins that says how often a code is stored in a state."""
CHOICE = "choice_"
"""How the name of a field begins that says what becomes of a sheet that is here already."""
ASKED = 409
"""Status of the page that asks what becomes of sheets that are here already."""
MOST_ROW_ITEMS = 20_000
"""Items of a previewed table; chosen, six columns of every code, with their commas."""
_ROWS = TypeAdapter(list[dict[str, str]])


@dataclass(frozen=True)
class NewSheetPage:
    """What the page for a new sheet gets."""

    page: Page
    archetypes: list[tuple[str, str]]
    plate_fields: tuple[PlateField, ...]
    typed: dict[str, str]
    job: str
    error: ErrorNote | None


@dataclass(frozen=True)
class EditPage:
    """What the page that extends a sheet gets."""

    page: Page
    machine: MachineType
    text: str
    seen: int
    revisions: list[SheetRevision]
    changed: list[str]
    """Lines the last revision took away and put in."""
    measured: list[Check]
    reads: Effect
    """What a new code speaks of; its states are the rows of the form."""
    words: tuple[str, ...]
    grades: tuple[str, ...]
    job: str
    rows: list[dict[str, str]]
    rows_json: str
    """The previewed table as it is sent on."""
    problems: list[Problem]
    typed: dict[str, str]
    error: ErrorNote | None


@dataclass(frozen=True)
class PanelPreview:
    """What the drawing of a panel gets that is being written."""

    page: Page
    written: bool
    face: DrawnPanel | None
    steps: list[str]
    problems: list[Problem]


@dataclass(frozen=True)
class ImportPage:
    """What the page that brings sheets in gets."""

    page: Page
    sheets: list[Incoming]
    text: str
    problems: list[Problem]
    error: ErrorNote | None


@router.get("/new")
def new_sheet_page(request: Request, job: str = "") -> Response:
    """Show the form of a new sheet, filled from a job's machine and rating plate if one is
    named."""
    typed = {"job": job}
    if job:
        answer = diagnose(workshop_of(request), job)
        plate = answer.job.opened.plate.model_dump()
        typed |= {f.name: _plain(plate[f.key]) for f in PLATE_FIELDS if plate[f.key] is not None}
        typed["archetype"] = answer.machine.archetype
    return _new(request, typed)


@router.post("/new")
def make_sheet(request: Request, form: Form) -> Response:
    """Make a new sheet, and move the job it is made for onto it."""
    typed, workshop, author = texts_of(form, "token"), workshop_of(request), author_of(request)
    plate = {field.key: typed.get(field.name, "") for field in PLATE_FIELDS}
    maker, model, kind = (typed.get(name, "") for name in ("maker", "model", "archetype"))
    try:
        machine = new_sheet(workshop, maker, model, kind, plate=plate, author=author)
    except REFUSALS as error:
        return _new(request, typed, note_of(error, typed))
    job = typed.get("job", "")
    if job:
        move = Rebased(revision=machine.revision, sheet=machine.sheet)
        try:
            record(workshop, job, move, author, event_id=typed.get("event_id", ""))
        except REFUSALS as error:
            note = note_of(error, typed)
            words = f"The sheet is made, but the job stays without it: {note.message}"
            return _new(request, typed, replace(note, message=words, field="job"))
    return go_to(
        request,
        "edit_page",
        archetype=machine.archetype,
        sheet=machine.sheet,
        job=job or None,
    )


@router.get("/sheets.yaml")
def all_sheets(request: Request) -> Response:
    """Hand out every sheet as one YAML stream."""
    return _yaml(export_all(workshop_of(request)), "sheets.yaml")


@router.get("/import")
def import_page(request: Request) -> Response:
    """Show the form that brings sheets in."""
    context = ImportPage(Page("Bring sheets in"), [], "", [], None)
    return render(request, "library/import.html", context)


@router.post("/import")
def bring_sheets_in(request: Request, form: Form) -> Response:
    """Look at a file of sheets; take it at once when nothing collides, else ask."""
    workshop, typed = workshop_of(request), texts_of(form, "token")
    raw = file_of(form, "file", MAX_BYTES) or typed.get("text", "").encode()
    choices = {k.removeprefix(CHOICE): v for k, v in typed.items() if k.startswith(CHOICE)}
    text, sheets = "", []
    problems: list[Problem] = []
    note = None
    try:
        sheets = incoming(workshop, raw)
        text = raw.decode("utf-8-sig")
        if all(item.sheet in choices for item in sheets if item.collides):
            take_incoming(workshop, sheets, choices, author_of(request))
            return go_to(request, "library_page")
    except REFUSALS as error:
        problems = error.problems if isinstance(error, BrokenSheet) else []
        note = note_of(error, {})
    context = ImportPage(Page("Bring sheets in"), sheets, text, problems, note)
    return render(request, "library/import.html", context, status_of(note) if note else ASKED)


@router.get("/{archetype}/{sheet}/yaml")
def one_sheet(request: Request, archetype: str, sheet: str) -> Response:
    """Hand out one sheet as written."""
    return _yaml(text_of(workshop_of(request), sheet), f"{sheet}.yaml")


@router.get("/{archetype}/{sheet}/edit")
def edit_page(
    request: Request,
    archetype: str,
    sheet: str,
    job: str = "",
    key: str = "",
    reads: str = "",
    shows: str = "",
) -> Response:
    """Show a sheet's editor; ``key`` opens it at a value, ``reads`` at the states of an effect,
    ``shows`` at a code that is in no table yet."""
    asked = {"key": key, "reads": reads, "shows": shows, "code": shows}
    return _edit(request, sheet, {"job": job, **{k: v for k, v in asked.items() if v}})


@router.post("/{archetype}/{sheet}/csv")
def preview_codes(request: Request, archetype: str, sheet: str, form: Form) -> Response:
    """Show a code table as it would go in."""
    typed = texts_of(form, "token")
    raw = file_of(form, "file", MAX_BYTES) or typed.get("table", "").encode()
    try:
        rows = codes_from_csv(workshop_of(request), sheet, raw)
    except NotFound:
        raise
    except REFUSALS as error:
        return _edit(request, sheet, typed, error)
    return _edit(request, sheet, typed, rows=rows)


@router.post("/{archetype}/{sheet}/panel")
def preview_panel(request: Request, archetype: str, sheet: str, form: Form) -> Response:
    """Draw the panel of a sheet as it is being written, or say what keeps it from being drawn."""
    problems: list[Problem] = []
    panel = None
    try:
        panel = panel_as_typed(texts_of(form, "token").get("text", ""))
    except BrokenSheet as error:
        problems = error.problems
    context = PanelPreview(
        Page("The panel"),
        panel is not None,
        face_of(panel) if panel else None,
        [step.say for step in panel.entry] if panel else [],
        problems,
    )
    return render(request, "library/_panel.html", context)


@router.post("/{archetype}/{sheet}/{what}")
def change_sheet(request: Request, archetype: str, sheet: str, what: str, form: Form) -> Response:
    """Save one change of a sheet: value, code, part, fastener, note, previewed codes, raw."""
    typed = texts_of(form, "token")
    change = CHANGES.get(what)
    if change is None:
        raise NotFound(f"Found '{what[:40]}', expected one of {', '.join(CHANGES)}.")
    try:
        text_of(workshop_of(request), sheet)
        change(workshop_of(request), sheet, typed, author_of(request))
    except NotFound:
        raise
    except REFUSALS as error:
        return _edit(request, sheet, typed, error)
    if typed.get("job"):
        return go_to(request, "job_start", number=typed["job"])
    return go_to(request, "edit_page", archetype=archetype, sheet=sheet)


def _keep_note(workshop: Workshop, sheet: str, typed: dict[str, str], author: str) -> MachineType:
    return add_note(workshop, sheet, typed.get("note", ""), author)


def _keep_code(workshop: Workshop, sheet: str, typed: dict[str, str], author: str) -> MachineType:
    """Keep a code; how often it is stored comes state by state from the rows of the form."""
    machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
    effect = machine.effects.get(typed.get("reads", ""))
    states = effect.states if effect else ()
    chosen = [(state, typed.get(f"{STORED}{n}", "")) for n, state in enumerate(states)]
    stored = " | ".join(f"{state}={word}" for state, word in chosen if word)
    if effect and not stored:
        raise BadValue(
            f"Say how often the board stores it for at least one state of {effect.name}.", "stored"
        )
    return add_code(workshop, sheet, {**typed, "stored": stored}, author)


def _keep_codes(workshop: Workshop, sheet: str, typed: dict[str, str], author: str) -> MachineType:
    return take_codes(
        workshop, sheet, _rows(typed.get("rows", "")), author, seen=typed.get("seen", "")
    )


def _keep_raw(workshop: Workshop, sheet: str, typed: dict[str, str], author: str) -> MachineType:
    seen = whole(typed["seen"], "seen", 0, MOST_REVISIONS) if typed.get("seen") else None
    return save(workshop, typed.get("text", ""), author, sheet, seen=seen)


CHANGES: dict[str, Callable[[Workshop, str, dict[str, str], str], MachineType]] = {
    "value": add_value,
    "code": _keep_code,
    "part": add_part,
    "fastener": add_fastener,
    "note": _keep_note,
    "codes": _keep_codes,
    "raw": _keep_raw,
}


def _new(request: Request, typed: dict[str, str], error: ErrorNote | None = None) -> Response:
    kinds = [(name, record.name) for name, record in workshop_of(request).shelf.archetypes.items()]
    context = NewSheetPage(
        Page("A new sheet"), kinds, PLATE_FIELDS, typed, typed.get("job", ""), error
    )
    return render(request, "library/new.html", context, status_of(error))


def _edit(
    request: Request,
    sheet: str,
    typed: dict[str, str],
    error: Refusal | None = None,
    *,
    rows: list[dict[str, str]] | None = None,
) -> Response:
    workshop = workshop_of(request)
    text = text_of(workshop, sheet)
    note = note_of(error, typed) if error else None
    machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
    context = EditPage(
        page=Page(f"Extend {machine.title}"),
        machine=machine,
        text=typed.get("text", text),
        seen=workshop.sheets.seq(sheet),
        revisions=workshop.sheets.of(sheet),
        changed=last_change(workshop, sheet),
        reads=machine.effects.get(typed.get("reads", ""), next(iter(machine.effects.values()))),
        words=tuple(workshop.shelf.tables.words),
        measured=[check for check in machine.checks.values() if check.measure],
        grades=GRADES,
        job=typed.get("job", ""),
        rows=rows or [],
        rows_json=json.dumps(rows or []),
        problems=error.problems if isinstance(error, BrokenSheet) else [],
        typed=typed,
        error=note,
    )
    return render(request, "library/edit.html", context, status_of(note))


def _plain(value: object) -> str:
    return f"{value:g}" if isinstance(value, float) else str(value)


def _rows(text: str) -> list[dict[str, str]]:
    try:
        return _ROWS.validate_python(json_of(text.encode(), MOST_ROW_ITEMS, "file", "a preview"))
    except ValidationError as error:
        raise BadValue(
            "The preview was lost on the way. Bring the table in again.", "file"
        ) from error


def _yaml(text: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(text, media_type="application/yaml", headers=headers)
