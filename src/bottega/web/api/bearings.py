"""Bearings and shaft seals for programs: by mark or size, stock seals for a seat."""

from datetime import date

from fastapi import APIRouter, Request
from pydantic import BaseModel

from bottega.app.bearings.find import find_bearings
from bottega.app.bearings.seals import offers_for, seat_typed
from bottega.app.errors import BadValue
from bottega.web.api.problems import PROBLEMS
from bottega.web.kit.page import workshop_of

router = APIRouter(prefix="/api/v1", tags=["bearings"], responses=PROBLEMS)


class BearingItem(BaseModel):
    """A deep-groove ball bearing, sizes in mm (ISO 15)."""

    mark: str
    bore_mm: float
    outside_mm: float
    width_mm: float


class SealStack(BaseModel):
    """Stock seals that fill a seat, from the bearings outward; lips by what they keep out; the
    depth left empty in mm; the price in the library's euro; the day they are here, null for the
    shelf."""

    seals: list[str]
    water: int
    dust: int
    left_mm: float
    price_eur: float
    on: date | None
    risks: list[str]


@router.get("/bearings", summary="Find a bearing by its mark or its size")
def list_bearings(
    request: Request, mark: str = "", bore: str = "", outside: str = "", width: str = ""
) -> list[BearingItem]:
    """Return the bearings a mark may be, `?` for a sign that is worn away, or those of a size."""
    typed = {"mark": mark, "bore": bore, "outside": outside, "width": width}
    return [
        BearingItem(
            mark=bearing.mark,
            bore_mm=bearing.bore_mm,
            outside_mm=bearing.outside_mm,
            width_mm=bearing.width_mm,
        )
        for bearing in find_bearings(workshop_of(request), typed)
    ]


@router.get("/seals", summary="Fill a seat with stock seals")
def list_stacks(request: Request) -> list[SealStack]:
    """Return the best stacks that fill the seat, at most 200, the best first. The seat is told by
    `shaft`, `bore`, `depth`, and for a stepped one `bore_2`, `depth_2`; `groove`, `relief`,
    `relief_mm`; all in mm."""
    workshop = workshop_of(request)
    seat = seat_typed(workshop, dict(request.query_params))
    if seat is None:
        raise BadValue("Found nothing, expected shaft, bore and depth of the seat.", "shaft")
    return [
        SealStack(
            seals=[seal.stock.name for seal in offer.stack.seals],
            water=offer.stack.water,
            dust=offer.stack.dust,
            left_mm=offer.stack.left_mm,
            price_eur=offer.stack.price_eur,
            on=offer.on,
            risks=list(offer.risks),
        )
        for offer in offers_for(workshop, seat)[0]
    ]
