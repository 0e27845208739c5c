"""Hub, seat and stack drawn true to scale: the upper half in section, the lower its mirror image,
with their dimensions in millimetres."""

from collections.abc import Sequence
from dataclasses import dataclass

from bottega.core.bearings.mark import Bearing
from bottega.core.bearings.rates import Inside
from bottega.core.bearings.stack import Placed, Seat
from bottega.core.library.hub_record import Bore, HubRecord, Land

SEAT_PX_MM = 3.6
"""Drawing units a millimetre."""
SEAT_MARGIN, WALL_MM, TAIL_MM = 46.0, 8.0, 14.0
"""Units left free at each side; millimetres of wall shown round a seat, of shaft beyond it."""
DIMENSION_ROW = 18.0
"""Units between two rows of dimensions."""
SEAT_WIDEST = 660.0
"""Units a drawing may be wide; it is drawn smaller when it would be wider."""


@dataclass(frozen=True)
class Box:
    """A rectangle of the upper half; ``kind`` is how it is drawn."""

    x: float
    y: float
    width: float
    height: float
    kind: str


@dataclass(frozen=True)
class Ball:
    """A ball between its rings."""

    x: float
    y: float
    r: float


@dataclass(frozen=True)
class Lip:
    """A seal's lip as a path from its body to the shaft, bent to the side it looks to."""

    path: str


@dataclass(frozen=True)
class Along:
    """A dimension along the shaft: from and to in drawing units, its row, its text."""

    x1: float
    x2: float
    y: float
    text: str

    @property
    def middle(self) -> float:
        """Return where its text stands."""
        return (self.x1 + self.x2) / 2

    @property
    def text_y(self) -> float:
        """Return how high its text stands."""
        return self.y - 3

    @property
    def path(self) -> str:
        """Return its line with an end at each side."""
        ends = "".join(f"M{x} {self.y - 5}v10" for x in (self.x1, self.x2))
        return f"{ends}M{self.x1} {self.y}H{self.x2}"


@dataclass(frozen=True)
class Across:
    """A diameter: where it stands, from where to where it reaches, its text and where that
    stands."""

    x: float
    top: float
    bottom: float
    text: str
    at: float

    @property
    def turned(self) -> str:
        """Return how its text is turned along its line."""
        return f"translate({self.x - 3} {self.at}) rotate(-90)"


@dataclass(frozen=True)
class Section:
    """A section true to scale; the axis lies at ``axis`` units from the top."""

    width: float
    height: float
    axis: float
    boxes: tuple[Box, ...]
    balls: tuple[Ball, ...]
    lips: tuple[Lip, ...]
    along: tuple[Along, ...]
    across: tuple[Across, ...]
    water_x: float
    """Where the water begins; nought where there is none."""
    ways: tuple[int, ...] = (1, -1)
    """The upper half, and its mirror image where it is drawn."""

    @property
    def halves(self) -> list[str]:
        """Return how each half is laid about the axis."""
        return [
            f"translate(0 {self.axis}) scale(1 {way}) translate(0 {-self.axis})"
            for way in self.ways
        ]

    @property
    def axis_path(self) -> str:
        """Return the axis as a line."""
        return f"M8 {self.axis}H{self.width - 8}"

    @property
    def corner(self) -> tuple[float, float]:
        """Return where the word for the side of the water stands."""
        return self.width - 6, self.axis - 6


class _Plan:
    """A drawing as it grows: millimetres in, drawing units out."""

    def __init__(
        self, length_mm: float, radius_mm: float, rows: int, mirrored: bool = True
    ) -> None:
        self.mirrored = mirrored
        self.scale = min(SEAT_PX_MM, (SEAT_WIDEST - 2 * SEAT_MARGIN) / length_mm)
        self.radius = radius_mm
        self.axis = SEAT_MARGIN / 2 + rows * DIMENSION_ROW + radius_mm * self.scale
        self.width = 2 * SEAT_MARGIN + length_mm * self.scale
        self.boxes: list[Box] = []
        self.lips: list[Lip] = []
        self.balls: list[Ball] = []
        self.along: list[Along] = []
        self.across: list[Across] = []

    def x(self, mm: float) -> float:
        return round(SEAT_MARGIN + mm * self.scale, 2)

    def box(self, first: float, last: float, inner: float, outer: float, *, kind: str) -> None:
        """Add a ring from ``inner`` to ``outer`` radius."""
        wide, high = (last - first) * self.scale, (outer - inner) * self.scale
        top = self.axis - outer * self.scale
        self.boxes.append(Box(self.x(first), round(top, 2), round(wide, 2), round(high, 2), kind))

    def size(self, first: float, last: float, row: int, text: str) -> None:
        """Add a dimension along the shaft, above the drawing."""
        y = self.axis - self.radius * self.scale - DIMENSION_ROW * row - 6
        self.along.append(Along(self.x(first), self.x(last), round(y, 2), text))

    def diameter(self, at: float, mm: float) -> None:
        """Add a diameter, standing across the axis."""
        half = mm / 2 * self.scale
        top, whole = round(self.axis - half, 2), self.mirrored
        bottom = round(self.axis + half, 2) if whole else self.axis
        middle = self.axis if whole else round(self.axis - half / 2, 2)
        self.across.append(Across(self.x(at), top, bottom, f"⌀{mm:g}", middle))

    def done(self, water_mm: float | None) -> Section:
        """Return the drawing."""
        below = self.radius * self.scale if self.mirrored else 0
        return Section(
            round(self.width, 1),
            round(self.axis + below + SEAT_MARGIN / 2, 1),
            round(self.axis, 2),
            tuple(self.boxes),
            tuple(self.balls),
            tuple(self.lips),
            tuple(self.along),
            tuple(self.across),
            self.x(water_mm) if water_mm is not None else 0.0,
            (1, -1) if self.mirrored else (1,),
        )


def of_bearing(bearing: Bearing, balls: Inside) -> Section:
    """Return a bearing by itself with its three sizes."""
    plan = _Plan(bearing.width_mm + 2 * TAIL_MM, bearing.outside_mm / 2, 1)
    _bearing(plan, bearing, balls, TAIL_MM)
    plan.size(TAIL_MM, TAIL_MM + bearing.width_mm, 1, f"{bearing.width_mm:g}")
    plan.diameter(TAIL_MM / 2, bearing.outside_mm)
    plan.diameter(bearing.width_mm + 1.5 * TAIL_MM, bearing.bore_mm)
    return plan.done(None)


def of_seat(seat: Seat, seals: Sequence[Placed]) -> Section:
    """Return a seat with the seals of a stack in it, the water to the right."""
    first, last = seat.steps[0].from_, seat.steps[-1].to
    shift = TAIL_MM - first
    radius = max(step.mm for step in seat.steps) / 2 + WALL_MM
    plan = _Plan(last - first + 2 * TAIL_MM, radius, 2, mirrored=False)
    _shaft(plan, seat.lands, shift, first - TAIL_MM, last=last + TAIL_MM)
    _housing(plan, seat.steps, shift, radius)
    inner = seat.steps[0].mm / 2 - WALL_MM / 2
    land = seat.lands[0].mm / 2
    plan.box(TAIL_MM / 2, TAIL_MM, max(inner, land + 1), radius, kind="housing")
    if seat.relief is not None:
        at, half = seat.relief.at + shift, seat.relief.mm / 2
        plan.box(at - half, at + half, seat.steps[0].mm / 2, radius, kind="hole")
    for seal in seals:
        _seal(plan, seat, seal, shift)
    for seal in seals:
        plan.size(seal.at_mm + shift, seal.ends_mm + shift, 1, f"{seal.stock.width_mm:g}")
    plan.size(first + shift, last + shift, 2, f"{last - first:g}")
    plan.diameter(TAIL_MM / 4, 2 * land)
    for n, step in enumerate(seat.steps):
        plan.diameter(last + shift + TAIL_MM * (0.35 + 0.4 * n), step.mm)
    return plan.done(last + shift)


def of_hub(hub: HubRecord, bearings: Sequence[tuple[float, Bearing, Inside]]) -> Section:
    """Return a hub with its bearings, spacer, relief hole and the seal's place."""
    length = max(land.to for land in hub.shaft)
    radius = max(bore.mm for bore in hub.seat) / 2 + WALL_MM
    plan = _Plan(length, radius, 2)
    _shaft(plan, hub.shaft, 0.0, 0.0, last=length)
    _housing(plan, hub.seat, 0.0, radius)
    if hub.spacer is not None:
        first, last = hub.spacer
        inner = _land_at(hub.shaft, (first + last) / 2).mm / 2
        plan.box(first, last, inner, inner + 2.5, kind="spacer")
    for at, bearing, balls in bearings:
        _bearing(plan, bearing, balls, at)
        plan.size(at, at + bearing.width_mm, 1, f"{bearing.width_mm:g}")
    if hub.relief is not None:
        at, half = hub.relief.at, hub.relief.mm / 2
        across = next((b.mm for b in hub.seat if b.from_ <= at <= b.to), hub.seat[0].mm)
        plan.box(at - half, at + half, across / 2, radius, kind="hole")
    first, last = hub.seal
    shaft = _land_at(hub.shaft, last).mm / 2
    for bore in hub.seat:
        a, b = max(bore.from_, first), min(bore.to, last)
        if b > a:
            plan.box(a, b, shaft, bore.mm / 2, kind="seal")
    plan.size(first, last, 1, f"{last - first:g}")
    plan.size(0, max(bore.to for bore in hub.seat), 2, f"{max(b.to for b in hub.seat):g}")
    for land in hub.shaft:
        plan.diameter((land.from_ + land.to) / 2, land.mm)
    return plan.done(max(bore.to for bore in hub.seat))


def _land_at(lands: Sequence[Land], mm: float) -> Land:
    return next((land for land in lands if land.from_ <= mm <= land.to), lands[-1])


def _shaft(plan: _Plan, lands: Sequence[Land], shift: float, first: float, *, last: float) -> None:
    ends = [*lands]
    for n, land in enumerate(ends):
        start = first if n == 0 else land.from_
        stop = last if n == len(ends) - 1 else land.to
        a, b = max(start, first), min(stop, last)
        if b > a:
            kind = "worn" if land.grooved else "shaft"
            inner = -land.mm / 2 if plan.mirrored else 0.0
            plan.box(a + shift, b + shift, inner, land.mm / 2, kind=kind)


def _housing(plan: _Plan, bores: Sequence[Bore], shift: float, radius: float) -> None:
    for bore in bores:
        plan.box(bore.from_ + shift, bore.to + shift, bore.mm / 2, radius, kind="housing")


def _bearing(plan: _Plan, bearing: Bearing, balls: Inside, at: float) -> None:
    inner, outer = bearing.bore_mm / 2, bearing.outside_mm / 2
    ring = (outer - inner - balls.ball_mm * 0.72) / 2
    end = at + bearing.width_mm
    plan.box(at, end, inner, inner + ring, kind="ring")
    plan.box(at, end, outer - ring, outer, kind="ring")
    y = plan.axis - balls.pitch_mm / 2 * plan.scale
    x = plan.x(at + bearing.width_mm / 2)
    plan.balls.append(Ball(x, round(y, 2), round(balls.ball_mm / 2 * plan.scale, 2)))


def _seal(plan: _Plan, seat: Seat, seal: Placed, shift: float) -> None:
    """Draw a seal: a stiff ring in the bore, a web, a lip bent to the side it looks to."""
    stock, first = seal.stock, seal.at_mm + shift
    last = first + stock.width_mm
    outer, land = stock.bore_mm / 2, _land_at(seat.lands, seal.at_mm).mm / 2
    back = first if seal.to_water else last
    way = 1 if seal.to_water else -1
    plan.box(first, last, outer - 1.6, outer, kind="seal")
    web = min(back, back + 1.6 * way), max(back, back + 1.6 * way)
    plan.box(web[0], web[1], land + 1.2, outer - 1.6, kind="seal")
    tip = back + 0.65 * stock.width_mm * way
    plan.lips.append(_lip(plan, back + 1.6 * way, tip, land))
    if "S" in stock.form:
        plan.lips.append(_lip(plan, back + 0.4 * way, back - 0.8 * way, land))


def _lip(plan: _Plan, root: float, tip: float, land: float) -> Lip:
    def y(radius: float) -> float:
        return round(plan.axis - radius * plan.scale, 2)

    x1, x2 = plan.x(root), plan.x(tip)
    return Lip(f"M{x1} {y(land + 3.2)}L{x2} {y(land)}L{x1} {y(land + 1)}z")
