"""Bearings and shaft seals at the bench, without a job: found by mark or size, a seat filled with
stock seals."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.bearings.find import SIZES, Described, described, find_bearings
from bottega.app.bearings.seals import ASKED, StackOffer, offers_for, seat_typed
from bottega.app.errors import BadValue
from bottega.core.bearings.mark import Bearing
from bottega.web.bearings.section import Section, of_bearing, of_seat
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(include_in_schema=False)
SHOWN = 6
"""Stacks drawn at once; chosen, the rest is told by number."""


@dataclass(frozen=True)
class BearingsPage:
    """What the page of bearings gets: what was typed, what it may be, and one of them whole."""

    page: Page
    typed: dict[str, str]
    sizes: tuple[str, ...]
    found: list[Bearing]
    one: Described | None
    section: Section | None
    trouble: str
    trouble_in: str


@dataclass(frozen=True)
class DrawnStack:
    """A stack of seals with its drawing."""

    offer: StackOffer
    section: Section


@dataclass(frozen=True)
class Filled:
    """The best stacks of a seat, drawn; how many more there are; whether a seat was typed at all;
    and what of it cannot be."""

    stacks: list[DrawnStack]
    more: int = 0
    looked: bool = True
    error: BadValue | None = None


@dataclass(frozen=True)
class SealsPage:
    """What the page of seals gets: what is asked of a seat, what was typed, the stacks that
    fill it."""

    page: Page
    asked: dict[str, str]
    typed: dict[str, str]
    filled: Filled
    trouble: str
    trouble_in: str


@router.get("/bearings")
def bearings_page(request: Request) -> Response:
    """Show what a mark or a size may be; with one found, all of it."""
    workshop, typed = workshop_of(request), dict(request.query_params)
    trouble, trouble_in = "", ""
    found: list[Bearing] = []
    try:
        found = find_bearings(workshop, typed)
    except BadValue as error:
        trouble, trouble_in = str(error), error.field or ""
    chosen = [bearing for bearing in found if bearing.name == typed.get("one", "")]
    first = chosen[0] if chosen else found[0] if len(found) == 1 else None
    one = described(workshop, first) if first else None
    section = of_bearing(one.bearing, one.inside) if one else None
    page = Page("Bearings")
    context = BearingsPage(page, typed, SIZES, found, one, section, trouble, trouble_in)
    return render(request, "bearings/bearings.html", context)


@router.get("/seals")
def seals_page(request: Request) -> Response:
    """Show the stacks of stock seals that fill a seat as it was measured."""
    typed = dict(request.query_params)
    filled = filled_seat(request, typed)
    error = filled.error
    trouble, trouble_in = (str(error), error.field) if error else ("", "")
    context = SealsPage(Page("Shaft seals"), ASKED, typed, filled, trouble, trouble_in)
    return render(request, "bearings/seals.html", context)


def filled_seat(request: Request, typed: dict[str, str]) -> Filled:
    """Return a typed seat filled with stock seals."""
    workshop = workshop_of(request)
    try:
        seat = seat_typed(workshop, typed)
        if seat is None:
            return Filled([], looked=False)
        offers, count = offers_for(workshop, seat)
    except BadValue as error:
        return Filled([], error=error)
    drawn = [DrawnStack(offer, of_seat(seat, offer.stack.seals)) for offer in offers[:SHOWN]]
    return Filled(drawn, max(0, count - SHOWN))
