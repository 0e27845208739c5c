"""The panel of a sheet without a job: tap along, touch or type, and see what it may mean."""

from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite

from fastapi import APIRouter, Request, Response

from bottega.app.errors import BadValue, NotFound
from bottega.app.panel.elsewhere import elsewhere
from bottega.app.panel.heard import (
    bars_seen,
    hear_taps,
    lamps_seen,
    sheet_machine,
    written_heard,
)
from bottega.app.panel.meaning import Meaning, meaning_of
from bottega.app.panel.record import hear_record
from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import PanelTable
from bottega.core.panel.heard import PanelReadings
from bottega.web.kit.page import Page, render, workshop_of
from bottega.web.kit.security import Form, file_of
from bottega.web.panel.face import face_of
from bottega.web.panel.heard import (
    HeardPage,
    advice_of,
    live_lines,
    pad_of,
    reading_lines,
    round_lines,
)
from bottega.web.panel.sheet import ASKS

router = APIRouter(include_in_schema=False)
MOST_RECORD_BYTES = 2_000_000
"""A lamp's record; chosen, the most rows with time to spare."""


@dataclass(frozen=True)
class WhichPanel:
    """What the page gets on which a panel is chosen: every machine of a sheet that has one."""

    page: Page
    machines: list[MachineType]


@router.get("/panel")
def which_panel(request: Request) -> Response:
    """Show whose panels can be read without a job."""
    shelf = workshop_of(request).shelf
    machines = [machine for machine in shelf.machines() if machine.panel]
    return render(request, "panel/which.html", WhichPanel(Page("Look up a code"), machines))


@dataclass(frozen=True)
class Looked:
    """What was looked up: as it was written down, the number, and whether a form stands beside."""

    shown: str = ""
    number: str = ""
    fill: bool = False


Find = Callable[[MachineType, PanelTable], PanelReadings | None]


@router.get("/panel/{sheet}")
def panel_page(
    request: Request,
    sheet: str,
    rhythm: str = "",
    lit: str = "",
    bars: str = "",
    shown: str = "",
    number: str = "",
    fill: bool = False,
) -> Response:
    """Show what a panel may mean: of the rhythm tapped so far, of what was touched on the drawing,
    or of what was written down."""

    def find(machine: MachineType, slips: PanelTable) -> PanelReadings | None:
        return _found(machine, rhythm, lit, bars, shown=shown, slips=slips)

    return _page(request, sheet, Looked(shown, number, fill), find)


@router.post("/panel/{sheet}")
def panel_record(request: Request, sheet: str, form: Form) -> Response:
    """Show what a lamp's record may mean."""

    def find(machine: MachineType, slips: PanelTable) -> PanelReadings:
        raw = file_of(form, "file", MOST_RECORD_BYTES)
        if not raw:
            raise BadValue("No file came along.", "file")
        try:
            return hear_record(machine, raw.decode("utf-8-sig"), slips)
        except UnicodeDecodeError as error:
            raise BadValue("Found no text, expected CSV in UTF-8.", "file") from error

    return _page(request, sheet, Looked(), find)


def _page(request: Request, sheet: str, looked: Looked, find: Find) -> Response:
    workshop = workshop_of(request)
    machine = sheet_machine(workshop, sheet)
    panel = machine.panel
    if panel is None:
        raise NotFound(f"{machine.title} shows no codes: its sheet has no panel.")
    trouble, found, live = "", None, None
    try:
        live = _number(looked.number)
        found = find(machine, workshop.shelf.tables.panel)
    except BadValue as error:
        trouble = str(error) + elsewhere(workshop.shelf, machine, looked.shown)
    code = found.first.code if found else None
    meaning = meaning_of(workshop, machine, code) if code and not looked.fill else Meaning()
    context = HeardPage(
        page=Page(f"What {machine.title} shows"),
        sheet_id=sheet,
        panel=panel,
        face=face_of(panel),
        pad=pad_of(panel),
        asks=ASKS[panel.kind],
        shown=looked.shown,
        trouble=trouble,
        fill=looked.fill,
        rounds=round_lines(panel, found) if found else [],
        readings=reading_lines(panel, found) if found else [],
        advice=advice_of(panel, found) if found else "",
        codes=list(machine.codes.values()),
        causes=meaning.causes,
        checks=meaning.checks,
        live=live_lines(panel, live),
        number=looked.number,
    )
    return render(request, "panel/heard.html", context)


def _found(
    machine: MachineType, rhythm: str, lit: str, bars: str, *, shown: str, slips: PanelTable
) -> PanelReadings | None:
    if rhythm:
        return hear_taps(machine, rhythm, slips)
    if lit:
        return lamps_seen(machine, lit, slips)
    if bars:
        return bars_seen(machine, bars, slips)
    return written_heard(machine, shown, slips) if shown else None


def _number(text: str) -> float | None:
    if not text.strip():
        return None
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        number = float("nan")
    if not isfinite(number) or abs(number) > 1e6:
        raise BadValue(f"Found '{text[:20]}', expected the number the panel shows.", "number")
    return number
