"""The stack finder: every stack of stock seals that fills a seal's seat. Exhaustive and exact over
the table; sizes by ISO 6194-1."""

from collections.abc import Iterator
from dataclasses import dataclass

from bottega.core.library.bearing_record import SealTable
from bottega.core.library.hub_record import Bore, HubRecord, Land, Relief

MOST_A_STEP = 3
"""Seals one behind the other in one bore; chosen, no seat of a washer is deeper."""
TOUCH_MM = 1e-6
"""Two ends that are one; the tables have tenths."""


class SeatError(ValueError):
    """A seat nothing can be fitted to: ``field`` is what is wrong with it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


@dataclass(frozen=True)
class Stock:
    """A seal a dealer has: its size in mm, its form, its price."""

    shaft_mm: float
    bore_mm: float
    width_mm: float
    form: str
    price_eur: float

    @property
    def name(self) -> str:
        """Return its size as it is asked for: "35 x 52 x 8 AS"."""
        return f"{self.shaft_mm:g} x {self.bore_mm:g} x {self.width_mm:g} {self.form}"


@dataclass(frozen=True)
class Seat:
    """Where seals go: the steps of its bore and the lands of the shaft, in mm along the shaft, the
    water beyond the last; the relief hole that has to stay open."""

    steps: tuple[Bore, ...]
    lands: tuple[Land, ...]
    relief: Relief | None = None


@dataclass(frozen=True)
class Placed:
    """A seal in its place: where its back stands, whether its lip looks to the water; by how much
    the shaft is larger than its lip's nominal, the bore than its outside, in mm."""

    stock: Stock
    at_mm: float
    to_water: bool
    on_shaft_mm: float
    in_bore_mm: float
    grooved: bool

    @property
    def ends_mm(self) -> float:
        """Return where its front stands."""
        return self.at_mm + self.stock.width_mm


@dataclass(frozen=True)
class Stack:
    """Seals that fill a seat, from the bearings outward."""

    seals: tuple[Placed, ...]
    water: int
    """Lips that look to the water."""
    back: int
    """Lips that look to the bearings: they keep grease in and water not out."""
    dust: int
    left_mm: float
    """Depth of the seat that stays empty."""
    price_eur: float

    @property
    def grooved(self) -> int:
        """Return how many lips run where the shaft is worn."""
        return sum(seal.grooved for seal in self.seals)


def seat_of(hub: HubRecord) -> Seat:
    """Return the seat of a hub's seal: the steps and lands between its ends."""
    first, last = hub.seal
    steps = tuple(
        b.model_copy(update={"from_": max(b.from_, first), "to": min(b.to, last)})
        for b in hub.seat
        if b.to > first + TOUCH_MM and b.from_ < last - TOUCH_MM
    )
    lands = tuple(land for land in hub.shaft if land.to > first and land.from_ < last)
    return Seat(steps, lands, hub.relief)


def checked_seat(seat: Seat) -> Seat:
    """Return the seat. Raises SeatError for one that cannot be: a bore no larger than the shaft in
    it, steps that narrow towards the water."""
    for step in seat.steps:
        for land in seat.lands:
            if land.from_ < step.to and step.from_ < land.to and land.mm >= step.mm:
                raise SeatError(
                    "bore",
                    f"found a seat of {step.mm:g} mm round a shaft of {land.mm:g} mm, expected "
                    "a seat larger than the shaft",
                )
    for inner, outer in zip(seat.steps, seat.steps[1:], strict=False):
        if outer.mm < inner.mm:
            raise SeatError(
                "bore",
                f"found {outer.mm:g} mm in front of {inner.mm:g} mm, expected a seat that widens "
                "towards the water; nothing could be pushed in",
            )
    return seat


def stock_of(table: SealTable) -> list[Stock]:
    """Return every seal of the table in every form."""
    return [
        Stock(shaft, bore, width, form, round(price * record.dearer, 2))
        for shaft, bores in table.sizes.items()
        for bore, widths in bores.items()
        for width, price in widths.items()
        for form, record in table.forms.items()
    ]


def stacks(table: SealTable, seat: Seat) -> list[Stack]:
    """Return every stack of stock seals that fills the seat, the best first: lips on good shaft,
    lips against water and dust, least depth left, price. Raises SeatError."""
    checked_seat(seat)
    by_step = [_in_step(table, seat, step) for step in seat.steps]
    found = [_stack(table, seat, seals) for seals in _joined(by_step) if seals]
    kept = [stack for stack in found if stack.water]
    return sorted(kept, key=_order)


def _order(stack: Stack) -> tuple[float, ...]:
    return (
        stack.grooved,
        -min(stack.water, 2),
        -min(stack.dust, 1),
        stack.back,
        stack.left_mm,
        stack.price_eur,
    )


def _fits(table: SealTable, stock: Stock, step: Bore) -> bool:
    return (
        abs(stock.bore_mm - step.mm) <= table.bore_within_mm + TOUCH_MM
        and stock.width_mm <= step.to - step.from_ + TOUCH_MM
    )


def _in_step(table: SealTable, seat: Seat, step: Bore) -> list[tuple[Placed, ...]]:
    """Return every row of seals in one step, packed from its shoulder; the empty one too."""
    fitting = [stock for stock in stock_of(table) if _fits(table, stock, step)]
    return list(_grown(table, seat, step, fitting, (), step.from_))


def _grown(
    table: SealTable,
    seat: Seat,
    step: Bore,
    fitting: list[Stock],
    row: tuple[Placed, ...],
    at: float,
) -> Iterator[tuple[Placed, ...]]:
    """Yield a row of seals that ends at ``at``, and every longer one that begins with it."""
    yield row
    if len(row) == MOST_A_STEP:
        return
    for stock in fitting:
        if at + stock.width_mm > step.to + TOUCH_MM:
            continue
        for to_water in (True, False):
            placed = _placed(table, seat, step, stock, at, to_water)
            if placed is not None:
                longer, ends = (*row, placed), at + stock.width_mm
                yield from _grown(table, seat, step, fitting, longer, ends)


def _placed(
    table: SealTable, seat: Seat, step: Bore, stock: Stock, at: float, to_water: bool
) -> Placed | None:
    """Return a seal in its place; None where its lip finds no shaft of its size, or it would shut
    the relief hole."""
    share = table.lip_at if to_water else 1 - table.lip_at
    lip = at + share * stock.width_mm
    land = next((one for one in seat.lands if one.from_ <= lip <= one.to), None)
    if land is None or abs(land.mm - stock.shaft_mm) > table.shaft_within_mm + TOUCH_MM:
        return None
    hole = seat.relief
    if hole is not None:
        first, last = hole.at - hole.mm / 2, hole.at + hole.mm / 2
        if at < last - TOUCH_MM and first < at + stock.width_mm - TOUCH_MM:
            return None
    return Placed(
        stock,
        at,
        to_water,
        round(land.mm - stock.shaft_mm, 3),
        round(step.mm - stock.bore_mm, 3),
        land.grooved,
    )


def _joined(by_step: list[list[tuple[Placed, ...]]]) -> Iterator[tuple[Placed, ...]]:
    if not by_step:
        yield ()
        return
    for row in by_step[0]:
        for rest in _joined(by_step[1:]):
            yield row + rest


def _stack(table: SealTable, seat: Seat, seals: tuple[Placed, ...]) -> Stack:
    forms = [(seal, table.forms[seal.stock.form]) for seal in seals]
    depth = sum(step.to - step.from_ for step in seat.steps)
    return Stack(
        seals,
        sum(form.water for seal, form in forms if seal.to_water),
        sum(form.water for seal, form in forms if not seal.to_water),
        sum(form.dust for _, form in forms),
        round(depth - sum(seal.stock.width_mm for seal in seals), 3),
        round(sum(seal.stock.price_eur for seal in seals), 2),
    )
