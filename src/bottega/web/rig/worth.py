"""The page that says how good the engine is: what it was worth on machines of physics, and
whether what it said was so."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.rig.worth import Fleet, SaidShare, Share, WayWorth, last_fleet
from bottega.web.kit.page import Page, render

router = APIRouter(include_in_schema=False)
SIDE, WORTH_PAD = 320.0, 30.0
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
class Figure:
    """A mean in words, and the range that holds it in 19 of 20 draws."""

    mean: str
    span: str


@dataclass(frozen=True)
class WorthRow:
    """What one way of working comes to."""

    name: str
    figures: list[Figure]


@dataclass(frozen=True)
class WorthPage:
    """What the page gets."""

    page: Page
    fleet: Fleet
    rows: list[WorthRow]
    saved: Figure
    saved_faulty: Figure
    over: Figure
    sound: Figure
    off: str
    dots: list[Dot]
    side: float
    low: float
    high: float


@router.get("/how-good")
def worth_page(request: Request) -> Response:
    """Show what the engine is worth on machines that its library did not make."""
    fleet = last_fleet()
    dots = [dot_of(said) for said in fleet.calibration]
    context = WorthPage(
        page=Page("How good is it?"),
        fleet=fleet,
        rows=[WorthRow(NAMES[name], figures_of(way)) for name, way in fleet.policies.items()],
        saved=in_percent(fleet.saved),
        saved_faulty=in_percent(fleet.saved_faulty),
        over=in_percent(fleet.over_checklist),
        sound=in_percent(fleet.sound.ended_well),
        off=off_words(fleet.said_less_true),
        dots=dots,
        side=SIDE,
        low=WORTH_PAD,
        high=SIDE - WORTH_PAD,
    )
    return render(request, "rig/worth.html", context)


def figures_of(way: WayWorth) -> list[Figure]:
    """Return the figures of a way of working in the table's order."""
    right, within, gone = (in_percent(s) for s in (way.first_right, way.within_five, way.all_gone))
    return [right, within, in_numbers(way.checks, 1), in_numbers(way.all_in, 0), gone]


def in_percent(share: Share) -> Figure:
    """Return a share in whole per cents."""
    mean, low, high = (f"{round(x, 2) + 0.0:.0%}" for x in (share.mean, share.low, share.high))
    return Figure(mean, f"{low} to {high}")


def off_words(said_less_true: float) -> str:
    """Return how far what is said of a first repair is off on average, in words."""
    points = round(abs(said_less_true) * 100)
    if not points:
        return "First repairs were right as often as it said, to a point in 100."
    if said_less_true > 0:
        return (
            f"It is too sure by {points} in 100: first repairs were right less often than it said."
        )
    return f"It is too modest by {points} in 100: first repairs were right more often than it said."


def in_numbers(share: Share, places: int) -> Figure:
    """Return a mean with so many decimal places."""
    mean, low, high = (f"{value:.{places}f}" for value in (share.mean, share.low, share.high))
    return Figure(mean, f"{low} to {high}")


def dot_of(said: SaidShare) -> Dot:
    """Return a group as a dot: to the right what was said, upwards what was so, its area by its
    jobs."""
    span = SIDE - 2 * WORTH_PAD
    words = f"said {said.said:.0%}, was so {said.true:.0%}, {said.jobs} jobs"
    radius = min(22.0, 2 + said.jobs**0.5)
    return Dot(
        round(WORTH_PAD + span * said.said, 1),
        round(SIDE - WORTH_PAD - span * said.true, 1),
        round(radius, 1),
        words,
    )
