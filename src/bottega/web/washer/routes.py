"""The page of one washer: what happened to it over all its jobs, and its label with a QR code."""

from dataclasses import dataclass

import segno
from fastapi import APIRouter, Request, Response
from markupsafe import Markup

from bottega.app.washer.past import Past, past_of
from bottega.web.kit.page import Page, render, url_of, workshop_of

router = APIRouter(include_in_schema=False)
QR_SCALE = 4
"""Drawing units of one module of the code; chosen, so that it prints about three centimetres wide.
"""


@dataclass(frozen=True)
class WasherPage:
    """What the page of a washer gets."""

    page: Page
    past: Past
    mark: str
    """What is written on its label."""
    code: Markup
    """Its QR code as SVG; it leads to this page."""


@router.get("/washers/{mark}")
def washer_page(request: Request, mark: str) -> Response:
    """Show a washer's past and its label."""
    past = past_of(workshop_of(request), mark)
    address = str(request.base_url).rstrip("/") + url_of(request, "washer_page", mark=past.key)
    code = segno.make(address, error="m", micro=False)
    drawn = code.svg_inline(scale=QR_SCALE, dark="#1b2730", light="#ffffff", title=f"To {address}")
    words = past.label or f"serial {past.serial}"
    context = WasherPage(Page(f"Washer {words}"), past, words, Markup(drawn))
    return render(request, "washer/page.html", context)
