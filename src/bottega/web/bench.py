"""The bench: sheets pinned by what they wait for, today as a strip, and bringing in a job from a file."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response, UploadFile
from fastapi.responses import RedirectResponse

from bottega.app.bench import LANES, BenchSheet, bench, next_ferry, search
from bottega.app.errors import AppError
from bottega.app.exchange import MAX_BYTES, import_job
from bottega.core.job.proofs import STATIONS
from bottega.web.drawing import Drawing, plain
from bottega.web.rendering import ErrorNote, Page, day, render, workshop_of
from bottega.web.security import checked_form
from bottega.web.strip import Strip, today_strip

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class Lane:
    """One lane of the bench."""

    name: str
    first: bool
    """The lane of what can be done now; it gets the full width."""
    when: str
    sheets: list[tuple[BenchSheet, Drawing]]


@dataclass(frozen=True)
class BenchPage:
    """What the bench page gets."""

    page: Page
    q: str
    strip: Strip | None
    lanes: list[Lane]
    station_names: dict[str, str]
    error: ErrorNote | None


@router.get("/")
def bench_page(request: Request, q: str = "") -> Response:
    """Show the bench, or what of it holds the words searched for."""
    return _page(request, q[:100], None, 200)


@router.post("/import", dependencies=[Depends(checked_form)])
def bring_in(request: Request, file: Annotated[UploadFile, ...]) -> Response:
    """Bring in a job from a file."""
    try:
        answer = import_job(workshop_of(request), file.file.read(MAX_BYTES + 1))
    except AppError as error:
        return _page(request, "", ErrorNote(str(error), "file", {}), error.status)
    return RedirectResponse(f"/jobs/{answer.number}", status_code=303)


def _page(request: Request, q: str, error: ErrorNote | None, status: int) -> Response:
    workshop = workshop_of(request)
    sheets = bench(workshop)
    ferry = next_ferry(workshop.now().astimezone().date(), workshop.settings.ferry_days)
    shown = search(sheets, q) if q else sheets
    lanes = []
    for key, name in LANES:
        own = [
            (sheet, plain(workshop.machine(sheet.archetype, None), sheet.marks)) for sheet in shown if sheet.lane == key
        ]
        if own:
            lanes.append(Lane(name, key == "person", f"ferry {day(ferry)}" if key == "part" and ferry else "", own))
    strip = None if q or not sheets else today_strip(sheets, workshop)
    context = BenchPage(Page("Bench", "bench"), q, strip, lanes, dict(STATIONS), error)
    return render(request, "bench/page.html", context, status)
