"""How a part goes in here: its steps with what the shop's schools do, what is replaced with it,
what goes in again if it is sound."""

from dataclasses import dataclass

from bottega.app.workshop import Workshop
from bottega.core.library.records import ClockFace, Part


@dataclass(frozen=True)
class PartFitting:
    """How a part is fitted in this shop. ``band_at`` is the hour at which the band's screw or
    spring comes to stand, None where it has none."""

    lines: list[str]
    together: list[str]
    reused: dict[str, str]
    clock: ClockFace | None
    band_at: float | None


def fitting_of(workshop: Workshop, part: Part) -> PartFitting:
    """Return how a part is fitted by the shop's schools. A shop that swaps the cheap part replaces
    what is cheap with it, where another looks whether it is sound."""
    settings, schools = workshop.settings, workshop.shelf.tables.schools
    chosen = dict(settings.schools)
    swapped = part.cheap if settings.school == "swap_cheap" else ()
    band = schools.of(part.clock.band, chosen) if part.clock else None
    return PartFitting(
        lines=[schools.said(line, chosen) for line in part.fitting],
        together=list(dict.fromkeys([*part.together, *swapped])),
        reused={what: seen for what, seen in part.reused.items() if what not in swapped},
        clock=part.clock,
        band_at=band.at if band else None,
    )
