"""Find a bearing by its mark or its size, and say what it is: cover, clearance, what it is mistaken
for, how it sits, what is inside."""

from dataclasses import dataclass

from bottega.app.errors import BadValue
from bottega.app.measure.reading import typed_amount
from bottega.app.workshop import Workshop
from bottega.core.bearings.fits import Interference, in_housing, on_shaft, press_force, warm_up
from bottega.core.bearings.mark import Bearing, MarkError, by_size, mistaken_for, read_mark
from bottega.core.bearings.rates import Inside, inside, rating_n
from bottega.core.library.bearing_record import SuffixRecord, UsualFit
from bottega.core.library.hub_record import HubRecord
from bottega.core.wording import sentence

SIZES = ("bore", "outside", "width")
"""What a caliper measures of a bearing."""


@dataclass(frozen=True)
class SeatFit:
    """How a bearing sits in one kind of place: the fits, and by how much it is tighter than its
    seat."""

    place: str
    fit: UsualFit
    shaft: Interference
    housing: Interference


@dataclass(frozen=True)
class Described:
    """A bearing and all that is said of it."""

    bearing: Bearing
    cover: SuffixRecord | None
    gap: SuffixRecord | None
    inside: Inside
    rating_kn: float
    mistaken: list[tuple[Bearing, str]]
    fittings: list[SeatFit]


@dataclass(frozen=True)
class PressForce:
    """What it takes to put a bearing into its seat: by how much it is tighter at most, the newton
    that push it home, or how warm the seat has to be, and may be, in °C."""

    material: str
    most_um: float
    newton: float
    seat_c: float
    hottest_c: float


def pressed(workshop: Workshop, hub: HubRecord, bearing: Bearing) -> PressForce:
    """Return what it takes to put a bearing into the seat of a hub."""
    fits = workshop.shelf.tables.fits
    how, material = fits.pressing, getattr(fits.materials, hub.housing)
    most = in_housing(fits, bearing, fits.usual.drum.housing).most_um
    outside = bearing.outside_mm
    newton, _ = press_force(most, outside, bearing.width_mm, how.wall_mm, material.elastic_gpa)
    warm = warm_up(most, how.gap_um, outside, material.expands_um_m_k, how.room_c)
    return PressForce(material.name, most, round(newton, -2), round(warm), material.hottest_c)


def find_bearings(workshop: Workshop, typed: dict[str, str]) -> list[Bearing]:
    """Return the bearings of a ``mark``, else of a size as far as it was typed; nothing where
    nothing was typed. Raises BadValue in the field."""
    table = workshop.shelf.tables.bearings
    mark = typed.get("mark", "").strip()
    sizes = {name: typed[name] for name in SIZES if typed.get(name, "").strip()}
    try:
        if mark:
            return read_mark(table, mark)
        if not sizes:
            return []
        amounts = {
            name: typed_amount(workshop, text, "length", name) for name, text in sizes.items()
        }
        return by_size(table, *(amounts.get(name) for name in SIZES))
    except MarkError as error:
        raise BadValue(sentence(error), "mark" if mark else "bore") from error


def described(workshop: Workshop, bearing: Bearing) -> Described:
    """Return what is said of a bearing."""
    tables = workshop.shelf.tables
    table, fits = tables.bearings, tables.fits
    balls = inside(table, bearing)
    usual = (("In a drum", fits.usual.drum), ("On a motor", fits.usual.motor))
    return Described(
        bearing,
        table.closures.names.get(bearing.closure),
        table.clearances.names.get(bearing.clearance),
        balls,
        round(rating_n(table, balls) / 1000, 1),
        mistaken_for(table, bearing),
        [
            SeatFit(
                place,
                fit,
                on_shaft(fits, bearing, fit.shaft),
                in_housing(fits, bearing, fit.housing),
            )
            for place, fit in usual
        ],
    )
