"""The job screen: one address per station, and every change as a form."""

from collections.abc import Callable
from contextlib import suppress
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from starlette.datastructures import FormData

from bottega.app.answer import Answer
from bottega.app.decide.decision import decision
from bottega.app.errors import BadValue, NotFound, Unreadable
from bottega.app.job.answer import diagnose
from bottega.app.job.onward import onward
from bottega.app.job.record import parse_body, record, undo
from bottega.app.job.with_photo import record_with_photo
from bottega.app.measure.reading import take_reading
from bottega.app.panel.reading import read_panel
from bottega.app.photo.photo import MOST_TAKEN_BYTES
from bottega.app.workshop import Workshop
from bottega.core.job.events import AnyBody, Checked, PanelRead, TookOff
from bottega.core.job.stations import STATIONS, Station, current_station
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.measure.units import CUSTOMARY
from bottega.web.job.page import job_page, unreadable_page
from bottega.web.kit.errors import REFUSALS, Refusal, note_of
from bottega.web.kit.noting import note_body
from bottega.web.kit.page import (
    ErrorNote,
    asks_for_part,
    author_of,
    go_to,
    render,
    status_of,
    url_of,
    workshop_of,
)
from bottega.web.kit.security import HIDDEN, Form, file_of, seen_of, text_of, texts_of
from bottega.web.station.asked import TABS, VIEWS, Asked, Tab

SEEN = "Bottega-Seen"
"""The header that says how many entries of a job a page shows."""
router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
LISTS = {"said", "well", "still", "showed", "codes"}
COMMAS = ("measured_v", "waited_min", "insulation_mohm", "earth_ohm", "leakage_ma")
"""Fields in which a comma may stand for the point."""


@router.get("")
def job_start(request: Request, number: str) -> Response:
    """Go to the station where the job stands."""
    try:
        answer = diagnose(workshop_of(request), number)
    except Unreadable as error:
        return _unreadable(request, number, error, 200)
    station = current_station(answer.job, answer.machine)
    return go_to(request, "job_station", number=number, station=station)


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
    view: str = VIEWS[0],
    ask: str | None = None,
    tab: str = "next",
    before: Annotated[int | None, Query(ge=1, le=10**6)] = None,
) -> Response:
    """Show a job at one station."""
    point = (mx, my) if mx is not None and my is not None else None
    where = _station(station)
    asked = Asked(where, check, part, find, mark, point, weigh, view, _tab(tab), ask, before)
    return _show(request, number, asked)


@router.post("/{station}/event")
def note_event(request: Request, number: str, station: str, form: Form) -> Response:
    """Note one event from a form's fields."""
    return _change(request, number, station, form, make=lambda *_: parse_body(_body(form)))


@router.post("/{station}/reading")
def note_reading(request: Request, number: str, station: str, form: Form) -> Response:
    """Note a measurement as typed."""

    def body(workshop: Workshop, answer: Answer) -> AnyBody:
        check, typed = text_of(form, "check"), text_of(form, "typed")
        unit = text_of(form, "unit")
        shown = unit if unit in {name for name, _ in CUSTOMARY.values()} else ""
        sure = text_of(form, "sure") == "yes"
        if text_of(form, "settles") == "nothing":
            return Checked(check=check, outcome=INCONCLUSIVE, note=text_of(form, "note"))
        asked = (answer.job, answer.machine, check, typed, shown, sure, text_of(form, "at"))
        return take_reading(workshop, *asked, by_wire=text_of(form, "wire") == "yes")

    return _change(request, number, station, form, make=body)


@router.post("/{station}/off")
def note_off(request: Request, number: str, station: str, form: Form) -> Response:
    """Note what came off, with the photo of how it lay and what becomes of it."""
    fields, raw = texts_of(form, *HIDDEN, "photo"), file_of(form, "photo", MOST_TAKEN_BYTES)
    return _change(
        request,
        number,
        station,
        form,
        make=lambda *_: parse_body({"kind": "took_off", **fields}),
        photo=raw,
    )


@router.post("/{station}/flashes")
def note_flashes(request: Request, number: str, station: str, form: Form) -> Response:
    """Note what the panel's lamps showed."""
    fields, raw = texts_of(form, *HIDDEN), file_of(form, "photo", MOST_TAKEN_BYTES)
    return _change(
        request,
        number,
        station,
        form,
        make=lambda workshop, answer: _read(workshop, answer, fields),
        photo=raw,
    )


def _read(workshop: Workshop, answer: Answer, fields: dict[str, str]) -> AnyBody:
    return read_panel(workshop.shelf, answer.job, answer.machine, fields)


@router.post("/{station}/decide")
def note_decision(request: Request, number: str, station: str, form: Form) -> Response:
    """Note a decision with its quote as it stands: the repair chosen, or another end."""
    repair, choice = text_of(form, "repair"), text_of(form, "choice") or "repair"
    reason = text_of(form, "reason").strip()
    return _change(
        request,
        number,
        station,
        form,
        make=lambda workshop, answer: decision(workshop, answer, choice, repair, reason=reason),
    )


@router.post("/{station}/undo")
def undo_last(request: Request, number: str, station: str, form: Form) -> Response:
    """Withdraw the last entry; ask first when it is one that nobody takes back by a slip."""
    where = _station(station)
    try:
        job = diagnose(workshop_of(request), number).job
        last = job.last_to_withdraw()
        if last is not None and job.weighty(last.id):
            return go_to(request, "job_station", number=number, station=where, ask=last.id)
        undo(
            workshop_of(request),
            number,
            author_of(request),
            text_of(form, "event_id"),
            seen=seen_of(form),
        )
    except REFUSALS as error:
        return _refused(request, number, Asked(where), error, typed={})
    return go_to(request, "job_station", number=number, station=where)


@router.post("/{station}/withdraw")
def withdraw_kept(request: Request, number: str, station: str, form: Form) -> Response:
    """Withdraw an entry of a job that cannot be read."""
    body = parse_body({"kind": "withdrawn", "event": text_of(form, "event")})
    with suppress(Unreadable):
        record(
            workshop_of(request),
            number,
            body,
            author_of(request),
            event_id=text_of(form, "event_id"),
        )
    return go_to(request, "job_start", number=number)


def _change(
    request: Request,
    number: str,
    station: str,
    form: FormData,
    *,
    make: Callable[[Workshop, Answer], AnyBody],
    photo: bytes = b"",
) -> Response:
    """Make the body, note it, with a photo where one came along, and go on; or show the same sheet
    again with what is wrong and what was typed."""
    workshop, where = workshop_of(request), _station(station)
    kept = request.query_params.get("check")
    asked = Asked(where, text_of(form, "check") or kept)
    try:
        before = diagnose(workshop, number)
        body = make(workshop, before)
        if photo and isinstance(body, TookOff | PanelRead):
            who, event_id, seen = author_of(request), text_of(form, "event_id"), seen_of(form)
            after = record_with_photo(
                workshop, before, body, photo, author=who, event_id=event_id, seen=seen
            )
        else:
            after = note_body(request, before, form, body)
    except REFUSALS as error:
        ticked = {key: " ".join(map(str, form.getlist(key))) for key in LISTS if key in form}
        return _refused(request, number, asked, error, typed=texts_of(form, *HIDDEN) | ticked)
    target = onward(where, body, before, after)
    keep = kept if target == where else None
    return go_to(request, "job_station", number=number, station=target, check=keep)


def _refused(
    request: Request, number: str, asked: Asked, error: Refusal, *, typed: dict[str, str]
) -> Response:
    if isinstance(error, NotFound):
        raise error
    return _show(request, number, asked, note_of(error, typed))


def _show(request: Request, number: str, asked: Asked, error: ErrorNote | None = None) -> Response:
    workshop = workshop_of(request)
    try:
        answer = diagnose(workshop, number)
    except Unreadable as unreadable:
        return _unreadable(request, number, unreadable, status_of(error))
    context = job_page(request, workshop, answer, asked, error=error)
    page = render(request, "job/page.html", context, status_of(error))
    page.headers[SEEN] = str(answer.seq)
    return page


def _unreadable(request: Request, number: str, error: Unreadable, status: int) -> Response:
    if asks_for_part(request):
        return Response(headers={"HX-Redirect": url_of(request, "job_start", number=number)})
    context = unreadable_page(workshop_of(request), number, error)
    return render(request, "job/unreadable.html", context, status)


def _station(station: str) -> Station:
    found: Station | None = next((known for known in STATIONS if known == station), None)
    if found is None:
        expected = ", ".join(STATIONS)
        raise NotFound(f"Found the station '{station[:40]}', expected one of {expected}.")
    return found


def _tab(name: str) -> Tab:
    return next((known for known in TABS if known == name), "next")


def _body(form: FormData) -> dict[str, Any]:
    """Return a form's fields as the body of an event; empty fields are left out, lists are
    gathered."""
    raw: dict[str, Any] = {
        key: text.strip() for key, text in texts_of(form, *HIDDEN, *LISTS).items() if text.strip()
    }
    raw |= {key: [str(item) for item in form.getlist(key)] for key in LISTS if key in form}
    raw |= {key: raw[key].replace(",", ".") for key in COMMAS if key in raw}
    if "kind" not in raw:
        raise BadValue("The form does not say what happened.", "kind")
    return raw
