"""The page that says how good the engine is: what it was worth on machines of physics, and
whether what it said was so."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.rig.worth import Fleet, Said, last_fleet
from bottega.web.kit.page import Page, render

router = APIRouter(include_in_schema=False)
SIDE, PAD = 320.0, 30.0
NAMES = {
    "bottega": "Bottega",
    "information": "most information a minute",
    "checklist": "cheapest check first",
    "frequency": "the likeliest part, no check",
    "fixed": "a fixed checklist",
    "clairvoyant": "one who knows",
}


@dataclass(frozen=True)
class Dot:
    """One group of first repairs on the curve: where, how large, and what it says."""

    x: float
    y: float
    radius: float
    words: str


@dataclass(frozen=True)
class WorthPage:
    """What the page gets."""

    page: Page
    fleet: Fleet
    names: dict[str, str]
    dots: list[Dot]
    side: float
    low: float
    high: float


@router.get("/how-good")
def worth_page(request: Request) -> Response:
    """Show what the engine is worth on machines that its library did not make."""
    fleet = last_fleet()
    dots = [dot_of(said) for said in fleet.calibration]
    context = WorthPage(Page("How good is it?"), fleet, NAMES, dots, SIDE, PAD, SIDE - PAD)
    return render(request, "rig/worth.html", context)


def dot_of(said: Said) -> Dot:
    """Return a group as a dot: to the right what was said, upwards what was so, its area by its
    jobs."""
    span = SIDE - 2 * PAD
    words = f"said {said.said:.0%}, was so {said.true:.0%}, {said.jobs} jobs"
    radius = min(22.0, 2 + said.jobs**0.5)
    return Dot(
        round(PAD + span * said.said, 1),
        round(SIDE - PAD - span * said.true, 1),
        round(radius, 1),
        words,
    )
