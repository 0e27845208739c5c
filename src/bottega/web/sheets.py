"""Write sheets on screen: new, extended field by field with help, raw YAML with errors at their line; bring in, hand out."""

import json
from dataclasses import dataclass

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import FormData, UploadFile

from bottega.app.diagnosing import diagnose
from bottega.app.errors import AppError, BadValue, NotFound
from bottega.app.recording import record
from bottega.app.sheets import (
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
    save,
    take_codes,
    take_incoming,
    text_of,
)
from bottega.core.job.events import Rebased
from bottega.core.library.errors import Problem
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.yamlfile import MAX_BYTES
from bottega.store.sheets import SheetRevision
from bottega.web.call import PLATE_FIELDS
from bottega.web.rendering import ErrorNote, Page, author_of, render, workshop_of
from bottega.web.security import checked_form

router = APIRouter(prefix="/library", include_in_schema=False)
GRADES = ("sheet", "measured", "remembered", "guessed")


@dataclass(frozen=True)
class NewSheetPage:
    """What the page for a new sheet gets."""

    page: Page
    archetypes: list[tuple[str, str]]
    plate_fields: tuple[tuple[str, str], ...]
    typed: dict[str, str]
    job: str
    error: ErrorNote | None


@dataclass(frozen=True)
class EditPage:
    """What the page that extends a sheet gets."""

    page: Page
    machine: MachineType
    link: str
    text: str
    seen: int
    revisions: list[SheetRevision]
    measured: list[Check]
    grades: tuple[str, ...]
    job: str
    rows: list[dict[str, str]]
    rows_json: str
    problems: list[Problem]
    typed: dict[str, str]
    error: ErrorNote | None


@dataclass(frozen=True)
class ImportPage:
    """What the page that brings sheets in gets."""

    page: Page
    sheets: list[Incoming]
    text: str
    problems: list[Problem]
    error: ErrorNote | None


@router.get("/new")
def new_page(request: Request, job: str = "") -> Response:
    """Show the form of a new sheet, filled from a job's machine and rating plate if one is named."""
    typed = {"job": job}
    if job:
        answer = diagnose(workshop_of(request), job)
        plate = answer.job.opened.plate.model_dump()
        typed |= {
            f"plate_{key}": f"{value:g}" if isinstance(value, float) else str(value)
            for key, value in plate.items()
            if value
        }
        typed["archetype"] = answer.machine.archetype
    return _new(request, typed, None, 200)


@router.post("/new", dependencies=[Depends(checked_form)])
async def make_sheet(request: Request) -> Response:
    """Make a new sheet."""
    form = await request.form()
    typed = _typed(form)
    plate = {key: typed.get(f"plate_{key}", "") for key, _ in PLATE_FIELDS}
    try:
        machine = new_sheet(
            workshop_of(request),
            typed.get("maker", ""),
            typed.get("model", ""),
            typed.get("archetype", ""),
            plate,
            author_of(request),
        )
    except AppError as error:
        return _new(request, typed, ErrorNote(str(error), error.field, typed), error.status)
    job = typed.get("job", "")
    if job:
        move = Rebased(revision=machine.revision, sheet=machine.sheet)
        try:
            record(workshop_of(request), job, move, author_of(request), str(form.get("event_id", "")))
        except AppError as error:
            return _new(
                request,
                typed,
                ErrorNote(f"The sheet is made, but the job stays without it: {error}", "job", typed),
                error.status,
            )
    return RedirectResponse(
        f"/library/{machine.archetype}/{machine.sheet}/edit" + (f"?job={job}" if job else ""), status_code=303
    )


@router.get("/sheets.yaml")
def all_sheets(request: Request) -> Response:
    """Hand out every sheet as one YAML stream."""
    return _yaml(export_all(workshop_of(request)), "sheets.yaml")


@router.get("/import")
def import_page(request: Request) -> Response:
    """Show the form that brings sheets in."""
    return render(request, "library/import.html", ImportPage(Page("Bring sheets in", "library"), [], "", [], None))


@router.post("/import", dependencies=[Depends(checked_form)])
async def bring_in(request: Request) -> Response:
    """Look at a file of sheets; take it at once when nothing collides, else ask."""
    form = await request.form()
    workshop = workshop_of(request)
    text, sheets = "", []
    try:
        raw = await _file(form) or str(form.get("text", "")).encode()
        sheets = incoming(workshop, raw)
        text = raw.decode("utf-8-sig")
        choices = {key.removeprefix("choice_"): str(value) for key, value in form.items() if key.startswith("choice_")}
        if any(item.collides and item.sheet not in choices for item in sheets):
            context = ImportPage(Page("Bring sheets in", "library"), sheets, text, [], None)
            return render(request, "library/import.html", context, 409)
        take_incoming(workshop, sheets, choices, author_of(request))
    except AppError as error:
        problems = error.problems if isinstance(error, BrokenSheet) else []
        context = ImportPage(
            Page("Bring sheets in", "library"), sheets, text, problems, ErrorNote(str(error), error.field, {})
        )
        return render(request, "library/import.html", context, error.status)
    return RedirectResponse("/library", status_code=303)


@router.get("/{archetype}/{sheet}/yaml")
def one_sheet(request: Request, archetype: str, sheet: str) -> Response:
    """Hand out one sheet as written."""
    return _yaml(text_of(workshop_of(request), sheet), f"{sheet}.yaml")


@router.get("/{archetype}/{sheet}/edit")
def edit_page(request: Request, archetype: str, sheet: str, job: str = "", key: str = "") -> Response:
    """Show a sheet's editor; ``key`` opens it at a value."""
    return _edit(request, sheet, job, {"key": key} if key else {}, None, 200)


@router.post("/{archetype}/{sheet}/{what}", dependencies=[Depends(checked_form)])
async def change_sheet(request: Request, archetype: str, sheet: str, what: str) -> Response:
    """Save one change of a sheet: value, code, fastener, note, csv (a preview), codes (the previewed table), raw."""
    form = await request.form()
    workshop, author, typed = workshop_of(request), author_of(request), _typed(form)
    job = typed.get("job", "")
    try:
        text_of(workshop, sheet)
        if what == "value":
            add_value(workshop, sheet, typed, author)
        elif what == "code":
            add_code(workshop, sheet, typed, author)
        elif what == "fastener":
            add_fastener(workshop, sheet, typed, author)
        elif what == "note":
            add_note(workshop, sheet, typed.get("note", ""), author)
        elif what == "csv":
            rows = codes_from_csv(workshop, sheet, await _file(form) or typed.get("table", "").encode())
            return _edit(request, sheet, job, typed, None, 200, rows=rows)
        elif what == "codes":
            take_codes(workshop, sheet, _rows(typed.get("rows", "")), author)
        elif what == "raw":
            seen = typed.get("seen", "")
            save(workshop, typed.get("text", ""), author, sheet, int(seen) if seen.isdigit() else None)
        else:
            raise NotFound(f"Found '{what}', expected value, code, fastener, note, csv, codes or raw.")
    except NotFound:
        raise
    except AppError as error:
        problems = error.problems if isinstance(error, BrokenSheet) else []
        return _edit(request, sheet, job, typed, ErrorNote(str(error), error.field, typed), error.status, problems)
    target = f"/jobs/{job}" if job.isalnum() else f"/library/{archetype}/{sheet}/edit"
    return RedirectResponse(target, status_code=303)


def _new(request: Request, typed: dict[str, str], error: ErrorNote | None, status: int) -> Response:
    kinds = [(name, record.name) for name, record in workshop_of(request).shelf.archetypes.items()]
    context = NewSheetPage(Page("A new sheet", "library"), kinds, PLATE_FIELDS, typed, typed.get("job", ""), error)
    return render(request, "library/new.html", context, status)


def _edit(
    request: Request,
    sheet: str,
    job: str,
    typed: dict[str, str],
    error: ErrorNote | None,
    status: int,
    problems: list[Problem] | None = None,
    rows: list[dict[str, str]] | None = None,
) -> Response:
    workshop = workshop_of(request)
    text = text_of(workshop, sheet)
    machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
    context = EditPage(
        page=Page(f"Extend {machine.title}", "library"),
        machine=machine,
        link=f"/library/{machine.archetype}/{sheet}",
        text=typed.get("text", text),
        seen=workshop.sheets.seq(sheet),
        revisions=workshop.sheets.of(sheet),
        measured=[check for check in machine.checks.values() if check.measure],
        grades=GRADES,
        job=job,
        rows=rows or [],
        rows_json=json.dumps(rows or []),
        problems=problems or [],
        typed=typed,
        error=error,
    )
    return render(request, "library/edit.html", context, status)


def _typed(form: FormData) -> dict[str, str]:
    return {key: value for key, value in form.items() if isinstance(value, str) and key not in ("token", "event_id")}


async def _file(form: FormData) -> bytes:
    upload = form.get("file")
    if not isinstance(upload, UploadFile):
        return b""
    raw = await upload.read(MAX_BYTES + 1)
    await upload.close()
    return raw


def _rows(text: str) -> list[dict[str, str]]:
    try:
        rows = json.loads(text)
    except ValueError as error:
        raise BadValue("The preview was lost on the way. Bring the table in again.", "file") from error
    if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
        raise BadValue("The preview was lost on the way. Bring the table in again.", "file")
    return [{str(key): str(value) for key, value in row.items()} for row in rows]


def _yaml(text: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(text, media_type="application/yaml", headers=headers)
