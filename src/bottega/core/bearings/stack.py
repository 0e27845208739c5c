"""The stack finder: the best stacks of stock seals that fill a seal's seat, exact over the table,
and how many there are. Sizes by ISO 6194-1."""

from collections.abc import Iterator
from dataclasses import dataclass
from heapq import heapify, heappop, heappush, nsmallest
from itertools import islice
from math import prod

from bottega.core.library.bearing_record import SealTable
from bottega.core.library.hub_record import Bore, HubRecord, Land, Relief

MOST_A_STEP = 3
"""Seals one behind the other in one bore; chosen, no seat of a washer is deeper."""
MOST_STACKS = 200
"""Stacks that are worked out, the best first; chosen, nobody reads on."""
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


@dataclass(frozen=True)
class BestStacks:
    """The best stacks of a seat, in their order, and how many fill it in all."""

    stacks: list[Stack]
    count: int


def stacks(table: SealTable, seat: Seat, most: int = MOST_STACKS) -> BestStacks:
    """Return the best ``most`` stacks of stock seals that fill the seat: lips on good shaft, lips
    against water and dust, least depth left, price. Raises SeatError.

    Rows of one step that are alike in all but their price stand together, the cheapest first; since
    the order is by sums, no more than ``most`` of such rows can be part of the best.
    """
    checked_seat(seat)
    by_step = [_in_step(table, seat, step) for step in seat.steps]
    dry = [sum(not any(seal.to_water for seal in row) for row in rows) for rows in by_step]
    count = prod(len(rows) for rows in by_step) - prod(dry)
    alike: Alike = {(0, 0, 0, 0, 0.0): [(0.0, ())]}
    for rows in by_step:
        alike = _beside(alike, _grouped(table, rows), most)
    found = [
        _stack(table, seat, seals)
        for kind in sorted(alike, key=_order)
        if kind[1]
        for _, seals in alike[kind]
    ]
    return BestStacks(found[:most], count)


Kind = tuple[int, int, int, int, float]
"""What two rows are alike in: lips on worn shaft, lips against water (two are enough) and dust (one
is), lips the other way, and the depth they fill."""
Priced = tuple[float, tuple[Placed, ...]]
Alike = dict[Kind, list[Priced]]


def _order(kind: Kind) -> tuple[float, ...]:
    grooved, water, dust, back, filled = kind
    return grooved, -water, -dust, back, -filled


def _grouped(table: SealTable, rows: list[tuple[Placed, ...]]) -> Alike:
    alike: Alike = {}
    for row in rows:
        forms = [(seal, table.forms[seal.stock.form]) for seal in row]
        kind = _kind(
            sum(seal.grooved for seal in row),
            sum(form.water for seal, form in forms if seal.to_water),
            sum(form.dust for _, form in forms),
            sum(form.water for seal, form in forms if not seal.to_water),
            sum(seal.stock.width_mm for seal in row),
        )
        alike.setdefault(kind, []).append((sum(seal.stock.price_eur for seal in row), row))
    return alike


def _kind(grooved: int, water: int, dust: int, back: int, filled: float) -> Kind:
    return grooved, min(water, 2), min(dust, 1), back, round(filled, 3)


def _beside(before: Alike, more: Alike, most: int) -> Alike:
    """Return what comes of every row before with every row of one more step, of each kind the
    cheapest ``most``."""
    cheap = {kind: nsmallest(most, rows, key=_price) for kind, rows in more.items()}
    joined: dict[Kind, list[tuple[list[Priced], list[Priced]]]] = {}
    for one, rows in before.items():
        for other, others in cheap.items():
            kind = _kind(*(a + b for a, b in zip(one, other, strict=True)))  # type: ignore[arg-type]
            joined.setdefault(kind, []).append((rows, others))
    return {kind: list(islice(_cheapest(both), most)) for kind, both in joined.items()}


def _cheapest(both: list[tuple[list[Priced], list[Priced]]]) -> Iterator[Priced]:
    """Yield the sums of a row of one list and a row of another, of many such pairs of lists, the
    cheapest first. Both lists of a pair rise in price, so the next is beside one that was taken."""
    heap = [(a[0][0] + b[0][0], n, 0, 0) for n, (a, b) in enumerate(both)]
    heapify(heap)
    while heap:
        price, n, i, j = heappop(heap)
        rows, others = both[n]
        yield price, rows[i][1] + others[j][1]
        if j + 1 < len(others):
            heappush(heap, (rows[i][0] + others[j + 1][0], n, i, j + 1))
        if j == 0 and i + 1 < len(rows):
            heappush(heap, (rows[i + 1][0] + others[0][0], n, i + 1, 0))


def _price(one: Priced) -> float:
    return one[0]


def _fits(table: SealTable, stock: Stock, step: Bore) -> bool:
    return (
        abs(stock.bore_mm - step.mm) <= table.bore_within_mm + TOUCH_MM
        and stock.width_mm <= step.to - step.from_ + TOUCH_MM
    )


def _in_step(table: SealTable, seat: Seat, step: Bore) -> list[tuple[Placed, ...]]:
    """Return every row of seals in one step, packed from its shoulder; the empty one too."""
    fitting = [stock for stock in stock_of(table) if _fits(table, stock, step)]
    return list(_grown(table, seat, step, fitting, row=(), at=step.from_))


def _grown(
    table: SealTable,
    seat: Seat,
    step: Bore,
    fitting: list[Stock],
    *,
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
            placed = _placed(table, seat, step, stock, at=at, to_water=to_water)
            if placed is not None:
                longer, ends = (*row, placed), at + stock.width_mm
                yield from _grown(table, seat, step, fitting, row=longer, at=ends)


def _placed(
    table: SealTable, seat: Seat, step: Bore, stock: Stock, *, at: float, to_water: bool
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
