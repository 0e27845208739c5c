"""Stock seals for a seat: typed or a machine's own; each stack with price, day and what it
risks; a stack chosen for a job."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.measure.reading import typed_amount
from bottega.app.workshop import Workshop
from bottega.core.bearings.seating import SeatingError, seated
from bottega.core.bearings.stack import Seat, SeatError, Stack, seat_of, stacks
from bottega.core.day.plan import next_arrival
from bottega.core.job.events import SeatingMeasured, Substituted
from bottega.core.library.hub_record import Bore, HubRecord, Land, Relief
from bottega.core.measure.units import in_system
from bottega.core.wording import sentence

ASKED = {
    "shaft": "Shaft where the lips run",
    "bore": "Bore of the seat",
    "depth": "Depth of the seat",
    "bore_2": "Bore of its wider step, if it has one",
    "depth_2": "Depth of that step",
    "groove": "A groove in the shaft, from the seat's bottom",
    "relief": "Middle of a relief hole, from the seat's bottom",
    "relief_mm": "Width of that hole",
}
"""What is measured of a seat, all lengths."""
NEEDED = ("shaft", "bore", "depth")
GROOVE_MM = 1.0
"""How wide the track of a lip is; chosen, lips touch over less."""


@dataclass(frozen=True)
class StackOffer:
    """A stack as a shop would fit it: its price as it is charged, the day it is here (None for the
    shelf), what it risks."""

    stack: Stack
    price: float
    on: date | None
    risks: tuple[str, ...]

    @property
    def names(self) -> str:
        """Return its seals, from the bearings outward, as they are sent along."""
        return " + ".join(seal.stock.name for seal in self.stack.seals)


def seat_typed(workshop: Workshop, typed: Mapping[str, str]) -> Seat | None:
    """Return the seat that was measured; None where nothing was typed yet. Raises BadValue in the
    field."""
    given = {name: typed.get(name, "").strip() for name in ASKED}
    if not any(given.values()):
        return None
    mm = {
        name: typed_amount(workshop, text, "length", name) for name, text in given.items() if text
    }
    for name in NEEDED:
        if name not in mm:
            raise BadValue(f"Found nothing, expected the {ASKED[name].lower()}.", name)
    for name, partner in (("bore_2", "depth_2"), ("depth_2", "bore_2"), ("relief", "relief_mm")):
        if name in mm and partner not in mm:
            raise BadValue(f"Found nothing, expected the {ASKED[partner].lower()} too.", partner)
    depth = mm["depth"] + mm.get("depth_2", 0.0)
    try:
        steps = [_bore(0.0, mm["depth"], mm["bore"])]
        if "bore_2" in mm:
            steps.append(_bore(mm["depth"], depth, mm["bore_2"]))
        relief = Relief(at=mm["relief"], mm=mm["relief_mm"]) if "relief" in mm else None
        return Seat(tuple(steps), _lands(mm, depth), relief)
    except ValueError as error:
        raise BadValue("Found sizes no seat of a washer has; measure again.", "depth") from error


def _bore(first: float, last: float, mm: float) -> Bore:
    return Bore.model_validate({"from": first, "to": last, "mm": mm})


def _land(first: float, last: float, mm: float, grooved: bool = False) -> Land:
    return Land.model_validate({"from": first, "to": last, "mm": mm, "grooved": grooved})


def _lands(mm: Mapping[str, float], depth: float) -> tuple[Land, ...]:
    """Return the shaft in the seat, its groove a land of its own."""
    ends = depth + mm["shaft"]
    if "groove" not in mm:
        return (_land(0.0, ends, mm["shaft"]),)
    first, last = max(0.0, mm["groove"] - GROOVE_MM), mm["groove"] + GROOVE_MM
    cuts = [(0.0, first, False), (first, last, True), (last, ends, False)]
    return tuple(_land(a, b, mm["shaft"], worn) for a, b, worn in cuts if b > a)


def offers_for(workshop: Workshop, seat: Seat) -> tuple[list[StackOffer], int]:
    """Return the best stacks of stock seals that fill a seat, the best first, and how many do in
    all. Raises BadValue in the field for a seat that cannot be."""
    try:
        found = stacks(workshop.shelf.tables.seals, seat)
    except SeatError as error:
        raise BadValue(sentence(error), error.field) from error
    return [_offer(workshop, stack) for stack in found.stacks], found.count


def _offer(workshop: Workshop, stack: Stack) -> StackOffer:
    shop = workshop.settings
    sizes = {f"{s.stock.shaft_mm:g}x{s.stock.bore_mm:g}x{s.stock.width_mm:g}" for s in stack.seals}
    here = sizes <= set(shop.seals)
    on = None if here else arrival(workshop)
    return StackOffer(stack, shop.charged(stack.price_eur), on, tuple(_risks(stack)))


def arrival(workshop: Workshop) -> date:
    """Return the next day on which parts arrive."""
    return next_arrival(workshop.now().date(), workshop.settings.ferry_days)


def _risks(stack: Stack) -> list[str]:
    risks = []
    if stack.water < 2:
        risks.append("one lip only against the water")
    if not stack.dust:
        risks.append("no lip against grit")
    if stack.grooved:
        risks.append("a lip runs in the groove of the shaft")
    if stack.left_mm >= 1:
        risks.append(f"{stack.left_mm:g} mm of the seat stay empty: it can creep")
    if any(abs(seal.in_bore_mm) > 0.05 or abs(seal.on_shaft_mm) > 0.1 for seal in stack.seals):
        risks.append("a size is off its nominal: looser or tighter than meant")
    return risks


def seat_fields(workshop: Workshop, hub: HubRecord) -> dict[str, str]:
    """Return the seat of a hub as it would be typed in the shop's units."""
    seat, units = seat_of(hub), workshop.settings.units
    first, *more = seat.steps
    lands = [land for land in seat.lands if not land.grooved]
    sizes = {"shaft": lands[-1].mm, "bore": first.mm, "depth": first.to - first.from_}
    if more:
        sizes |= {"bore_2": more[0].mm, "depth_2": more[0].to - more[0].from_}
    shown = {name: in_system(mm, "millimeter", units).number for name, mm in sizes.items()}
    return {name: f"{figure:.4g}" for name, figure in shown.items()}


def chosen(
    workshop: Workshop, answer: Answer, typed: Mapping[str, str], names: str, *, reason: str
) -> Substituted:
    """Return the event of a stack chosen for a job, its seat as it was measured. Raises
    BadValue."""
    hub = answer.machine.hub
    if hub is None:
        raise BadValue("Found no hub of this machine, expected one with a seal.", "names")
    seat = seat_typed(workshop, typed)
    if seat is None:
        raise BadValue("Found nothing, expected the seat as it was measured.", "shaft")
    offers, _ = offers_for(workshop, seat)
    offer = next((one for one in offers if one.names == names), None)
    if offer is None:
        raise BadValue(f"Found '{names[:60]}', expected a stack that fills this seat.", "names")
    if workshop.settings.parts == "makers" and not reason.strip():
        raise BadValue(
            "This shop fits the maker's parts only. Say why another goes in here.", "reason"
        )
    said = [f"{ASKED[k].lower()} {typed[k].strip()}" for k in ASKED if typed.get(k, "").strip()]
    return Substituted(
        component=hub.component,
        parts=tuple(seal.stock.name for seal in offer.stack.seals),
        price_eur=offer.stack.price_eur,
        seat=", ".join(said) + " mm",
        on=offer.on,
        note=reason.strip(),
    )


def seating_of(workshop: Workshop, answer: Answer, typed: list[str]) -> SeatingMeasured:
    """Return the event of a seating measured at points evenly round. Raises BadValue in the field
    "points"."""
    hub = answer.machine.hub
    if hub is None or hub.seating is None:
        raise BadValue("Found nothing to be measured on this hub.", "points")
    points = [typed_amount(workshop, t, "length", "points") for t in typed if t.strip()]
    try:
        how = seated(points, hub.seating)
    except SeatingError as error:
        raise BadValue(sentence(error), "points") from error
    return SeatingMeasured(
        what=hub.seating.name,
        points_mm=tuple(points),
        low=hub.seating.low,
        high=hub.seating.high,
        tilt_mm=how.tilt_mm,
        mean_mm=how.mean_mm,
        verdict=how.verdict,
    )
