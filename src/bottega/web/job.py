"""The job screen: one address per station, and every change as a form."""

from typing import Annotated, Any

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import FormData

from bottega.app.deciding import decision
from bottega.app.diagnosing import diagnose
from bottega.app.errors import AppError, BadValue, NotFound, Stale
from bottega.app.measuring import take_reading
from bottega.app.panel import read_panel
from bottega.app.recording import parse_body, record, undo
from bottega.app.workshop import Workshop
from bottega.core.job.events import AnyBody
from bottega.core.job.proofs import STATIONS, current_station
from bottega.web.jobpage import Asked, job_page
from bottega.web.rendering import ErrorNote, author_of, render, workshop_of
from bottega.web.security import checked_form

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
KNOWN = {key for key, _ in STATIONS}
META = {"token", "event_id", "seen"}
LISTS = {"said"}
ON_TO = {"handed_over": "handover", "repaired": "close"}
"""Where the screen goes after an event that ends a station."""


@router.get("")
def job_start(request: Request, number: str) -> Response:
    """Go to the station where the job stands."""
    answer = diagnose(workshop_of(request), number)
    return RedirectResponse(f"/jobs/{number}/{current_station(answer.job, answer.machine)}", status_code=303)


@router.get("/{station}")
def job_station(
    request: Request,
    number: str,
    station: str,
    check: str | None = None,
    part: str | None = None,
    find: str | None = None,
    mark: str | None = None,
    mx: Annotated[float | None, Query(ge=0, le=1000)] = None,
    my: Annotated[float | None, Query(ge=0, le=1000)] = None,
    weigh: str | None = None,
    view: str = "section",
) -> Response:
    """Show a job at one station."""
    point = (mx, my) if mx is not None and my is not None else None
    return _show(request, number, Asked(_station(station), check, part, find, mark, point, weigh, view), None, 200)


@router.post("/{station}/event", dependencies=[Depends(checked_form)])
async def post_event(request: Request, number: str, station: str) -> Response:
    """Note one event from a form's fields."""
    form = await request.form()
    return _change(request, number, station, form, lambda workshop: parse_body(_body(form)))


@router.post("/{station}/reading", dependencies=[Depends(checked_form)])
async def post_reading(request: Request, number: str, station: str) -> Response:
    """Note a measurement as typed."""
    form = await request.form()

    def body(workshop: Workshop) -> AnyBody:
        answer = diagnose(workshop, number)
        return take_reading(
            workshop, answer.job, answer.machine, str(form.get("check", "")), str(form.get("typed", ""))
        )

    return _change(request, number, station, form, body)


@router.post("/{station}/flashes", dependencies=[Depends(checked_form)])
async def post_flashes(request: Request, number: str, station: str) -> Response:
    """Note what the panel's lamps showed."""
    form = await request.form()
    counts = {key: str(value) for key, value in form.items()}
    return _change(
        request, number, station, form, lambda workshop: read_panel(diagnose(workshop, number).machine, counts)
    )


@router.post("/{station}/decide", dependencies=[Depends(checked_form)])
async def post_decision(request: Request, number: str, station: str) -> Response:
    """Note a decision with its quote as it stands."""
    form = await request.form()
    choice, _, repair = str(form.get("choice", "")).partition("|")
    reason = str(form.get("reason", "")).strip()
    return _change(
        request,
        number,
        station,
        form,
        lambda workshop: decision(workshop, diagnose(workshop, number), choice, repair, reason),
    )


@router.post("/{station}/undo", dependencies=[Depends(checked_form)])
async def post_undo(request: Request, number: str, station: str) -> Response:
    """Withdraw the last entry."""
    form = await request.form()
    try:
        undo(workshop_of(request), number, author_of(request), str(form.get("event_id", "")), _seen(form))
    except AppError as error:
        return _show(request, number, Asked(_station(station)), ErrorNote(str(error), error.field, {}), error.status)
    return RedirectResponse(f"/jobs/{number}/{_station(station)}", status_code=303)


def _change(request: Request, number: str, station: str, form: FormData, make: Any) -> Response:
    """Make the body, note it, and go on; or show the same sheet again with what is wrong and what was typed."""
    workshop = workshop_of(request)
    station = _station(station)
    asked = Asked(station, str(form.get("check") or request.query_params.get("check") or "") or None)
    try:
        diagnose(workshop, number)
        body = make(workshop)
        record(workshop, number, body, author_of(request), str(form.get("event_id", "")), _seen(form))
    except NotFound:
        raise
    except AppError as error:
        typed = {key: str(value) for key, value in form.items() if key not in META}
        return _show(request, number, asked, ErrorNote(str(error), error.field, typed), error.status)
    target = ON_TO.get(body.kind, station)
    stay = request.query_params.get("check")
    return RedirectResponse(f"/jobs/{number}/{target}" + (f"?check={stay}" if stay else ""), status_code=303)


def _show(request: Request, number: str, asked: Asked, error: ErrorNote | None, status: int) -> Response:
    workshop = workshop_of(request)
    return render(request, "job/page.html", job_page(workshop, diagnose(workshop, number), asked, error), status)


def _station(station: str) -> str:
    if station not in KNOWN:
        raise NotFound(f"Found the station '{station}', expected one of {', '.join(key for key, _ in STATIONS)}.")
    return station


def _seen(form: FormData) -> int:
    seen = str(form.get("seen", ""))
    if not seen.isdigit():
        raise Stale("The form does not say what its author had seen. Load the page again and send it once more.")
    return int(seen)


def _body(form: FormData) -> dict[str, Any]:
    """Return a form's fields as the body of an event; empty fields are left out, lists are gathered."""
    raw: dict[str, Any] = {}
    for key in form:
        if key in META:
            continue
        if key in LISTS:
            raw[key] = [str(item) for item in form.getlist(key)]
        elif str(form[key]).strip():
            raw[key] = str(form[key]).strip()
    for number in ("measured_v", "waited_min"):
        if number in raw:
            raw[number] = str(raw[number]).replace(",", ".")
    if "kind" not in raw:
        raise BadValue("The form does not say what happened.", "kind")
    return raw
