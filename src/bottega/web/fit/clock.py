"""What is pressed on round, drawn as a clock face: its mark, its drain holes, the order of the
places, where the band's screw or spring comes to stand."""

from dataclasses import dataclass
from math import cos, pi, sin

from bottega.app.strip.fitting import PartFitting
from bottega.core.library.records import ClockFace

MIDDLE = 90.0
"""Of the drawing, in its own units."""
LIP, NUMBERS, BAND, MARK = 58.0, 44.0, 68.0, 80.0
"""How far from the middle lip, numbers, the band and the mark are drawn."""


@dataclass(frozen=True)
class FacePlace:
    """A place on the face: where it is drawn, and what stands there."""

    x: float
    y: float
    text: str = ""


@dataclass(frozen=True)
class Clock:
    """The face: places in the order they are pressed home, numbered from one; the mark, the drain
    holes, and the band's screw or spring."""

    presses: list[FacePlace]
    mark: FacePlace
    drains: list[FacePlace]
    band: FacePlace | None
    middle: float = MIDDLE
    lip: float = LIP
    outer: float = BAND


def clock_of(fitting: PartFitting) -> Clock | None:
    """Return how a part is pressed on round; None where that has no order."""
    face: ClockFace | None = fitting.clock
    if face is None:
        return None
    return Clock(
        presses=[_at(hour, NUMBERS, str(n)) for n, hour in enumerate(face.order, start=1)],
        mark=_at(face.mark, MARK),
        drains=[_at(hour, LIP) for hour in face.drains],
        band=_at(fitting.band_at, BAND) if fitting.band_at else None,
    )


def _at(hour: float, radius: float, text: str = "") -> FacePlace:
    turn = hour / 12 * 2 * pi
    return FacePlace(
        round(MIDDLE + radius * sin(turn), 1), round(MIDDLE - radius * cos(turn), 1), text
    )
