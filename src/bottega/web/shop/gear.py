"""The register of test gear, and trying the line of an instrument."""

import json
from dataclasses import dataclass
from datetime import date

from fastapi import APIRouter, Request, Response

from bottega.app.errors import Stale
from bottega.app.shop.gear import Tried, drop_instrument, keep_instrument, marks, try_line
from bottega.app.shop.gear import tried as found_on
from bottega.core.gear import BY_HAND, Instrument
from bottega.devices.meter import found_resources
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import ErrorNote, Page, go_to, render, status_of, workshop_of
from bottega.web.kit.security import Form, marks_of, text_of

router = APIRouter(prefix="/shop/gear", include_in_schema=False)
FIELDS = ("name", "accuracy", "calibrated", "resource")


@dataclass(frozen=True)
class GearPage:
    """What the page of test gear gets: the instruments, the quantities one may measure, what is
    plugged in here, what was typed and is wrong, and what was found on a line that was tried."""

    page: Page
    gear: tuple[Instrument, ...]
    quantities: list[str]
    plugged: list[str]
    typed: dict[str, str]
    ticked: frozenset[str]
    error: ErrorNote | None
    was: str
    """The marks of the instruments as they stand, sent along with every form."""
    tried: Tried | None
    today: date


@router.get("")
def gear_page(request: Request, tried: str = "") -> Response:
    """Show the register, and what was found on a line that is tried. Raises NotFound."""
    return _page(request, tried=found_on(workshop_of(request), tried) if tried else None)


@router.post("")
def keep_gear(request: Request, form: Form) -> Response:
    """Write an instrument down."""
    typed = {name: text_of(form, name) for name in FIELDS}
    measures = [str(value) for value in form.getlist("measures")]
    try:
        keep_instrument(workshop_of(request), typed, measures, marks_of(form))
    except REFUSALS as error:
        return _page(request, typed, frozenset(measures), note_of(error, typed))
    return go_to(request, "gear_page")


@router.post("/drop")
def drop_gear(request: Request, form: Form) -> Response:
    """Strike an instrument out."""
    try:
        drop_instrument(workshop_of(request), text_of(form, "name"), marks_of(form))
    except Stale as error:
        return _page(request, error=note_of(error, {}))
    return go_to(request, "gear_page")


@router.post("/try")
def try_gear(request: Request, form: Form) -> Response:
    """Begin to try the line of an instrument; the page says what is found as it comes."""
    name = text_of(form, "name")
    try_line(workshop_of(request), name)
    return go_to(request, "gear_page", tried=name)


def _page(
    request: Request,
    typed: dict[str, str] | None = None,
    ticked: frozenset[str] = frozenset(),
    error: ErrorNote | None = None,
    *,
    tried: Tried | None = None,
) -> Response:
    workshop = workshop_of(request)
    quantities = [name for name in workshop.shelf.tables.quantities if name not in BY_HAND]
    context = GearPage(
        page=Page("Test gear"),
        gear=workshop.settings.gear,
        quantities=quantities,
        plugged=found_resources(),
        typed=typed or dict.fromkeys(FIELDS, ""),
        ticked=ticked,
        error=error,
        was=json.dumps(marks(workshop.settings.gear)),
        tried=tried,
        today=workshop.now().date(),
    )
    return render(request, "shop/gear.html", context, status_of(error))
