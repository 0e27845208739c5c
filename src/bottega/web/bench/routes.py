"""The bench: sheets pinned by what they wait for, today as a strip, and bringing in a job from a
file."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import get_args

from fastapi import APIRouter, Request, Response

from bottega.app.bench.sheets import SHOWN_JOBS, bench, search, works_of
from bottega.app.errors import NotFound
from bottega.app.job.bundle import MOST_BUNDLE_BYTES
from bottega.app.job.file import import_job
from bottega.app.job.summary import LANES, BenchSheet, LaneName
from bottega.app.workshop import Workshop
from bottega.core.day.plan import next_day_of, plan_of_day
from bottega.core.library.shelf import UnknownMachine
from bottega.web.bench.day import DayStrip, strip_of
from bottega.web.drawing.section import Drawing, plain
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import (
    ErrorNote,
    Page,
    asks_for_part,
    go_to,
    render,
    status_of,
    url_of,
    workshop_of,
)
from bottega.web.kit.security import Form, file_of
from bottega.web.kit.words import day

router = APIRouter(include_in_schema=False)
LONGEST_SEARCH = 100
"""Letters of a search; chosen, more is a mistake."""


@dataclass(frozen=True)
class PinnedJob:
    """One job as it is pinned: its sheet, the small drawing where its machine is known, and whether
    the day it waits for has passed."""

    sheet: BenchSheet
    drawing: Drawing | None
    overdue: bool


@dataclass(frozen=True)
class Lane:
    """One lane of the bench; ``more`` jobs of it are on its next page."""

    id: LaneName
    name: str
    first: bool
    """The lane of what can be done now; it gets the full width."""
    when: str
    count: int
    pins: list[PinnedJob]
    next_skip: int | None


@dataclass(frozen=True)
class BenchPage:
    """What the bench page gets."""

    page: Page
    q: str
    strip: DayStrip | None
    first: list[Lane]
    others: list[Lane]
    one_lane: bool
    error: ErrorNote | None


@router.get("/")
def bench_page(request: Request, q: str = "", lane: str = "", skip: int = 0) -> Response:
    """Show the bench, one of its lanes further down, or what of it holds the words searched for."""
    if lane and lane not in LANES:
        raise NotFound(f"Found the lane '{lane[:40]}', expected one of {', '.join(LANES)}.")
    name = next((known for known in get_args(LaneName) if known == lane), None)
    return _page(request, q[:LONGEST_SEARCH], name, min(max(skip, 0), 10**6))


@router.post("/import")
def bring_in_job(request: Request, form: Form) -> Response:
    """Bring in a job from a file."""
    try:
        answer = import_job(workshop_of(request), file_of(form, "file", MOST_BUNDLE_BYTES))
    except REFUSALS as error:
        return _page(request, "", None, 0, error=note_of(error, {}))
    if asks_for_part(request):
        to = url_of(request, "job_start", number=answer.number)
        return Response(headers={"HX-Redirect": to})
    return go_to(request, "job_start", number=answer.number)


def _page(
    request: Request, q: str, lane: LaneName | None, skip: int, *, error: ErrorNote | None = None
) -> Response:
    workshop = workshop_of(request)
    sheets = search(workshop, q) if q else bench(workshop, lane, skip)
    counts = {} if q else workshop.summaries.lanes()
    lanes = [
        _lane(workshop, name, [s for s in sheets if s.lane == name], counts.get(name), skip=skip)
        for name in LANES
        if any(sheet.lane == name for sheet in sheets)
    ]
    context = BenchPage(
        page=Page("Bench"),
        q=q,
        strip=_strip(workshop, sheets) if sheets and not q and not lane else None,
        first=[lane for lane in lanes if lane.first],
        others=[lane for lane in lanes if not lane.first],
        one_lane=lane is not None,
        error=error,
    )
    return render(request, "bench/page.html", context, status_of(error))


def _lane(
    workshop: Workshop, name: LaneName, sheets: list[BenchSheet], count: int | None, *, skip: int
) -> Lane:
    today = workshop.now().astimezone().date()
    ahead = next_day_of(today.weekday(), workshop.settings.ferry_days)
    ferry = f"ferry {day(today + timedelta(days=ahead))}" if name == "part" and ahead else ""
    whole = max(count or 0, len(sheets))
    return Lane(
        id=name,
        name=LANES[name],
        first=name == "person",
        when=ferry,
        count=whole,
        pins=[
            PinnedJob(sheet, _drawing(workshop, sheet), _overdue(sheet, today)) for sheet in sheets
        ],
        next_skip=skip + SHOWN_JOBS if whole > skip + len(sheets) else None,
    )


def _overdue(sheet: BenchSheet, today: date) -> bool:
    return sheet.until is not None and date.fromisoformat(sheet.until) < today


def _drawing(workshop: Workshop, sheet: BenchSheet) -> Drawing | None:
    try:
        return plain(workshop.machine(sheet.archetype, None), sheet.marks)
    except UnknownMachine:
        return None


def _strip(workshop: Workshop, sheets: list[BenchSheet]) -> DayStrip | None:
    now = workshop.now().astimezone()
    members = [member.name for member in workshop.members]
    plan = plan_of_day(members, works_of(workshop, sheets, now), now)
    return strip_of(plan) if plan else None
