"""A panel as it is drawn: dial, keys, lamps, display and bar of its sheet, laid out to be touched.

All measures are drawing units; on the phone one is about a point, so that what is touched is a
thumb wide.
"""

from dataclasses import dataclass
from math import cos, pi, sin

from bottega.core.library.panel_record import Face, PanelRecord

FACE_WIDTH = 360.0
FACE_MARGIN = 12.0
TOUCH = 52.0
"""The least width and height of what is touched, so that a glove hits it; the template's too."""
LAMP_ROW = 70.0
"""From one row of lamps to the next."""
RING, BULB = 80.0, 17.0
DIAL = 40.0
DIAL_X, DIAL_RIGHT = 97.0, 204.0
"""Middle of a dial that stands beside the keys, and where the keys begin."""
KEY_ROW = 74.0
DIGIT = (40.0, 72.0)
"""Width and height of a display's character."""
THICK = 7.0


@dataclass(frozen=True)
class PanelSpot:
    """Something round or square on the panel: its name, its middle, and where its name stands."""

    name: str
    x: float
    y: float
    label_y: float
    lamp: int = -1
    """Its place among the lamps that are read; -1 where it is none."""

    @property
    def drop(self) -> float:
        """Return how far its name stands below its middle."""
        return round(self.label_y - self.y, 1)

    @property
    def named_inside(self) -> bool:
        """Return whether its name stands within it."""
        return self.drop < BULB


@dataclass(frozen=True)
class DialPlace:
    """One place of the dial: its name, its angle clockwise from the top, its tick, its label."""

    name: str
    degrees: float
    x: float
    y: float
    to_x: float
    to_y: float
    label_x: float
    label_y: float
    anchor: str


@dataclass(frozen=True)
class Knob:
    """The dial: its middle, radius and places."""

    x: float
    y: float
    radius: float
    places: list[DialPlace]

    @property
    def tip(self) -> float:
        """Return where its pointer ends, above its middle."""
        return self.y - self.radius + 5


@dataclass(frozen=True)
class Stroke:
    """One bar of a character: its letter and the line it is drawn as."""

    bar: str
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True)
class Digit:
    """One character of the display: where it stands, and its bars."""

    x: float
    y: float
    width: float
    height: float
    strokes: list[Stroke]


@dataclass(frozen=True)
class DrawnPanel:
    """A panel's drawing. ``reads`` says what of it is read: lamps, bars, bar or nothing."""

    height: float
    reads: str
    states: int
    """States a lamp has: two, or three where it blinks."""
    pages: list[str]
    """Names of what is read one after the other; one name where there is one."""
    lamps: list[PanelSpot]
    keys: list[PanelSpot]
    knob: Knob | None
    digits: list[Digit]
    segments: list[PanelSpot]
    door: PanelSpot | None

    @property
    def width(self) -> float:
        """Return the width of every panel."""
        return FACE_WIDTH


def face_of(panel: PanelRecord) -> DrawnPanel | None:
    """Return the drawing of a panel; None where its sheet does not say what stands on it."""
    face, y = panel.face, FACE_MARGIN
    if face == Face():
        return None
    knob, lamps, digits, segments = None, [], [], []
    if face.ring:
        y += RING + TOUCH / 2
        lamps = _ring(face.ring, y)
        knob = _knob(face.dial, FACE_WIDTH / 2, y, labels=False) if face.dial else None
        y += RING + TOUCH / 2
    if face.display:
        digits = _digits(face.display, panel.segments, y + FACE_MARGIN)
        y += DIGIT[1] + 3 * FACE_MARGIN
    if face.bar:
        segments = _segments(face.bar, y + TOUCH / 2)
        y += TOUCH + FACE_MARGIN
    for row in face.lamps:
        lamps += _row(row, y + BULB + 4, len(lamps))
        y += LAMP_ROW
    below = ([("door", True)] if face.door else []) + [(key, False) for key in face.keys]
    beside = bool(face.dial) and knob is None
    if beside:
        knob = _knob(face.dial, DIAL_X, y + DIAL + 34, labels=True)
    left, across = (DIAL_RIGHT, 2) if beside else (0.0, max(1, len(below)))
    spots = _grid([name for name, _ in below], y + TOUCH / 2, left, across)
    rows = -(-len(below) // across)
    y += max(rows * KEY_ROW, 2 * (DIAL + 34) if beside else 0.0)
    door = spots[0] if face.door else None
    keys = spots[1:] if face.door else spots
    read = _reads(panel)
    return DrawnPanel(
        height=y + FACE_MARGIN,
        reads=read,
        states=3 if panel.blinks else 2,
        pages=list(panel.lamps) if panel.kind == "lamp_weights" else [""],
        lamps=lamps if read == "lamps" else [_unread(spot) for spot in lamps],
        keys=keys,
        knob=knob,
        digits=digits,
        segments=segments,
        door=door,
    )


def _reads(panel: PanelRecord) -> str:
    if panel.kind in ("lamp_weights", "lamp_pattern"):
        wanted = len(panel.weights or panel.lamps)
        return "lamps" if len(panel.face.lights) == wanted else ""
    if panel.kind == "display" and panel.segments and panel.face.display:
        return "bars"
    return "bar" if panel.kind == "bar" and panel.face.bar else ""


def _unread(spot: PanelSpot) -> PanelSpot:
    return PanelSpot(spot.name, spot.x, spot.y, spot.label_y)


def _row(names: tuple[str, ...], y: float, first: int) -> list[PanelSpot]:
    step = (FACE_WIDTH - 2 * FACE_MARGIN) / max(1, len(names))
    return [
        PanelSpot(name, FACE_MARGIN + step * (n + 0.5), y, y + BULB + 16, first + n)
        for n, name in enumerate(names)
    ]


def _grid(names: list[str], y: float, left: float, across: int) -> list[PanelSpot]:
    """Return keys and door in rows beside or below the dial."""
    step = (FACE_WIDTH - FACE_MARGIN - left) / across
    return [
        PanelSpot(name, left + step * (n % across + 0.5), at, at + TOUCH / 2 + 12)
        for n, name in enumerate(names)
        for at in (y + KEY_ROW * (n // across),)
    ]


def _ring(names: tuple[str, ...], y: float) -> list[PanelSpot]:
    spots = []
    for n, name in enumerate(names):
        turn = 2 * pi * n / len(names)
        x, at = FACE_WIDTH / 2 + RING * sin(turn), y - RING * cos(turn)
        spots.append(PanelSpot(name, round(x, 1), round(at, 1), round(at + 5, 1), n))
    return spots


def _knob(names: tuple[str, ...], x: float, y: float, labels: bool) -> Knob:
    places = []
    for n, name in enumerate(names):
        turn = 2 * pi * n / len(names)
        dx, dy = sin(turn), -cos(turn)
        anchor = "middle" if abs(dx) < 0.3 else "start" if dx > 0 else "end"
        shown = name if labels else ""
        places.append(
            DialPlace(
                name=shown,
                degrees=round(360 * n / len(names), 1),
                x=round(x + dx * (DIAL + 3), 1),
                y=round(y + dy * (DIAL + 3), 1),
                to_x=round(x + dx * (DIAL + 9), 1),
                to_y=round(y + dy * (DIAL + 9), 1),
                label_x=round(x + dx * (DIAL + 14), 1),
                label_y=round(y + dy * (DIAL + 16) + 4, 1),
                anchor=anchor,
            )
        )
    radius = DIAL if labels else DIAL - 8
    return Knob(x, y, radius, places)


def _segments(count: int, y: float) -> list[PanelSpot]:
    step = (FACE_WIDTH - 2 * FACE_MARGIN) / count
    return [PanelSpot(str(n + 1), FACE_MARGIN + step * (n + 0.5), y, y, n) for n in range(count)]


def _digits(count: int, segments: int, y: float) -> list[Digit]:
    width, height = DIGIT
    step = width + 24
    left = (FACE_WIDTH - step * count + 24) / 2
    return [
        Digit(left + step * n, y, width, height, _strokes(segments, left + step * n, y))
        for n in range(count)
    ]


def _strokes(segments: int, x: float, y: float) -> list[Stroke]:
    w, h = DIGIT
    g = 3.0
    """Gap between bars where they meet."""
    mid, low = y + h / 2, y + h
    right, half = x + w, x + w / 2
    around = [
        ("a", x + g, y, right - g, y),
        ("b", right, y + g, right, mid - g),
        ("c", right, mid + g, right, low - g),
        ("d", x + g, low, right - g, low),
        ("e", x, mid + g, x, low - g),
        ("f", x, y + g, x, mid - g),
    ]
    if segments == 7:
        inside = [("g", x + g, mid, right - g, mid)]
    else:
        inside = [
            ("g", x + g, mid, half - g, mid),
            ("h", half + g, mid, right - g, mid),
            ("i", x + 2 * g, y + 2 * g, half - g, mid - 2 * g),
            ("j", half, y + 2 * g, half, mid - g),
            ("k", right - 2 * g, y + 2 * g, half + g, mid - 2 * g),
            ("l", x + 2 * g, low - 2 * g, half - g, mid + 2 * g),
            ("m", half, mid + g, half, low - 2 * g),
            ("n", half + g, mid + 2 * g, right - 2 * g, low - 2 * g),
        ]
    lines = [*around, *inside] if segments else []
    return [Stroke(bar, *(round(v, 1) for v in line)) for bar, *line in lines]
