"""The hub of a job's machine: its bearings and seal in section, stock seals for its seat, what is
measured when it is together."""

from dataclasses import dataclass
from datetime import date

from fastapi import APIRouter, Request, Response

from bottega.app.answer import Answer
from bottega.app.bearings.find import PressForce, pressed
from bottega.app.bearings.seals import ASKED, arrival, chosen, seat_fields, seating_of
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.core.bearings.mark import Bearing, read_mark
from bottega.core.bearings.rates import inside
from bottega.core.job.events import SeatingMeasured, Substituted
from bottega.core.library.hub_record import HubRecord
from bottega.core.library.sheet import SheetPart
from bottega.web.bearings.routes import Filled, filled_seat
from bottega.web.bearings.section import Section, of_hub
from bottega.web.kit.errors import REFUSALS, Refusal, note_of
from bottega.web.kit.noting import note_body
from bottega.web.kit.page import (
    ErrorNote,
    Page,
    go_to,
    render,
    status_of,
    workshop_of,
)
from bottega.web.kit.security import HIDDEN, Form, text_of, texts_of

router = APIRouter(prefix="/jobs/{number}/hub", include_in_schema=False)
POINTS = 4
"""Places a stand-out is asked at; chosen, three tell a plane and the fourth a slip."""


@dataclass(frozen=True)
class HubPage:
    """What the page of a hub gets: the hub in section, its bearings, the maker's part, stock seals
    for the seat, what was chosen and measured."""

    page: Page
    answer: Answer
    hub: HubRecord
    order: list[str]
    """How it goes together, by the shop's schools."""
    section: Section
    bearings: list[tuple[str, Bearing, PressForce]]
    numbers: tuple[SheetPart, ...]
    makers_price: float | None
    arrives: date
    asked: dict[str, str]
    typed: dict[str, str]
    filled: Filled
    chosen: Substituted | None
    measured: SeatingMeasured | None
    points: list[str]
    error: ErrorNote | None


@router.get("")
def hub_page(request: Request, number: str) -> Response:
    """Show the hub, and the stacks for its seat as typed, else as the library knows it."""
    return _show(request, number, dict(request.query_params))


@router.post("/stack")
def choose_stack(request: Request, number: str, form: Form) -> Response:
    """Note the stack that goes in for the maker's seal."""
    typed = texts_of(form, *HIDDEN)
    try:
        answer = diagnose(workshop_of(request), number)
        body = chosen(
            workshop_of(request),
            answer,
            typed,
            text_of(form, "names"),
            reason=text_of(form, "reason"),
        )
        note_body(request, answer, form, body)
    except REFUSALS as error:
        return _show(request, number, typed, error)
    return go_to(request, "hub_page", number=number)


@router.post("/seating")
def note_seating(request: Request, number: str, form: Form) -> Response:
    """Note how the part sits, by its points."""
    points = [text_of(form, f"point_{n}") for n in range(1, POINTS + 1)]
    try:
        answer = diagnose(workshop_of(request), number)
        note_body(request, answer, form, seating_of(workshop_of(request), answer, points))
    except REFUSALS as error:
        return _show(request, number, {}, error, points=points)
    return go_to(request, "hub_page", number=number)


def _show(
    request: Request,
    number: str,
    typed: dict[str, str],
    error: Refusal | None = None,
    *,
    points: list[str] | None = None,
) -> Response:
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    hub, machine = answer.machine.hub, answer.machine
    if hub is None:
        raise NotFound("The library knows no hub of this machine.")
    tables = workshop.shelf.tables
    bearings = [(one, read_mark(tables.bearings, one.mark)[0]) for one in hub.bearings]
    drawn = [(one.at, bearing, inside(tables.bearings, bearing)) for one, bearing in bearings]
    asked = {key: typed[key] for key in ASKED if key in typed} or seat_fields(workshop, hub)
    filled = filled_seat(request, asked)
    refused = error or filled.error
    note = note_of(refused, typed) if refused else None
    part = machine.parts.get(hub.component)
    measured = [e.body for e in answer.job.live if isinstance(e.body, SeatingMeasured)]
    context = HubPage(
        page=Page("Bearings and seal"),
        answer=answer,
        hub=hub,
        order=[tables.schools.said(line, dict(workshop.settings.schools)) for line in hub.order],
        section=of_hub(hub, drawn),
        bearings=[
            (one.name, bearing, pressed(workshop, hub, bearing)) for one, bearing in bearings
        ],
        numbers=machine.part_numbers.get(hub.component, ()),
        makers_price=workshop.settings.charged(part.price_eur) if part else None,
        arrives=arrival(workshop),
        asked=ASKED,
        typed=asked,
        filled=filled,
        chosen=answer.job.substitutes.get(hub.component),
        measured=measured[-1] if measured else None,
        points=points or [""] * POINTS,
        error=note,
    )
    return render(request, "bearings/hub.html", context, status_of(note) if error else 200)
