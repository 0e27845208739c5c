"""Read a bearing's mark, also one that is partly worn away, and find a bearing by its size."""

import re
from dataclasses import dataclass, replace

from bottega.core.library.bearing_record import BearingTable

SMALL_CODES = {"00": 10.0, "01": 12.0, "02": 15.0, "03": 17.0}
"""Bore codes that are no fifth of the bore (ISO 15)."""
FIFTH = 5
CALIPER_MM = 0.1
"""How far a caliper and a worn ring may be off; chosen, two divisions of a vernier."""
SPELLINGS = (
    (r"ZZ|2ZR?", "2Z"),
    (r"2RS(?:H2|[RH12])?", "2RS"),
    (r"(?<![2?*])RS[RH12]\b", "RS"),
    (r"^61([89])", r"6\1"),
    (r"(?<=[0-9ZS])/(?=C[2-5N])", ""),
)
"""Ways in which makers stamp the same: covers, the thin series with five figures (ISO 15: 618 is
68), a stroke before the clearance."""


class MarkError(ValueError):
    """A mark or a size that fits no bearing: says what was found and what was expected."""


@dataclass(frozen=True)
class Bearing:
    """A deep-groove ball bearing, all in mm. ``closure`` and ``clearance`` are empty where the mark
    does not say."""

    series: str
    bore_mm: float
    outside_mm: float
    width_mm: float
    closure: str = ""
    clearance: str = ""

    @property
    def name(self) -> str:
        """Return its basic designation: "6205", "608", "62/22"."""
        return f"{self.series}{code_of(self.bore_mm)}"

    @property
    def mark(self) -> str:
        """Return its whole mark: "6205-2RS C3"."""
        closed = f"{self.name}-{self.closure}" if self.closure else self.name
        return f"{closed} {self.clearance}".strip()

    @property
    def size(self) -> str:
        """Return bore, outside and width as they are said: "25 x 52 x 15"."""
        return f"{self.bore_mm:g} x {self.outside_mm:g} x {self.width_mm:g}"


def code_of(bore_mm: float) -> str:
    """Return the bore code of a designation (ISO 15): 00 to 03, from 20 mm a fifth of the bore,
    below 10 mm the bore itself, in between behind a stroke."""
    for code, bore in SMALL_CODES.items():
        if bore == bore_mm:
            return code
    if bore_mm < min(SMALL_CODES.values()):
        return f"{bore_mm:g}"
    if bore_mm % FIFTH == 0:
        return f"{int(bore_mm // FIFTH):02d}"
    return f"/{bore_mm:g}"


def bearings_of(table: BearingTable) -> list[Bearing]:
    """Return all bearings of the table."""
    return [
        Bearing(series, bore, outside, width)
        for series, rows in table.series.items()
        for bore, (outside, width) in rows.items()
    ]


def read_mark(table: BearingTable, typed: str) -> list[Bearing]:
    """Return the bearings a mark may be, ``?`` for a sign that cannot be read and ``*`` for any
    number of them; cover and clearance where the mark leaves but one. Raises MarkError where none
    fits."""
    text = re.sub(r"[\s\-–_,]+", "", typed.upper())
    for stamped, plain in SPELLINGS:
        text = re.sub(stamped, plain, text)
    if not re.fullmatch(r"[0-9A-Z?*/]{2,20}", text):
        raise MarkError(f"found '{typed[:20]}', expected a mark such as 6205, 62?5-2RS or 6*5 C3")
    pattern = re.compile(re.escape(text).replace(r"\?", ".").replace(r"\*", ".*"))
    gaps = [
        "",
        *(gap for gap, one in table.clearances.names.items() if not one.rare or "C" in text),
    ]
    ends = [(cover, gap) for cover in table.closures.names for gap in gaps]
    found = []
    for bearing in bearings_of(table):
        fits = [end for end in ends if pattern.fullmatch(bearing.name + "".join(end))]
        if fits:
            closures, clearances = ({end[n] for end in fits} for n in (0, 1))
            found.append(replace(bearing, closure=_one(closures), clearance=_one(clearances)))
    if not found:
        series = ", ".join(table.series)
        raise MarkError(
            f"found '{typed[:20]}', which fits no bearing of the series {series} with bores of 8 "
            "to 50 mm; measure bore, outside and width"
        )
    return found


def _one(said: set[str]) -> str:
    return next(iter(said)) if len(said) == 1 else ""


def by_size(
    table: BearingTable,
    bore_mm: float | None,
    outside_mm: float | None,
    width_mm: float | None,
    *,
    within_mm: float = CALIPER_MM,
) -> list[Bearing]:
    """Return the bearings of a size as far as it is known, the nearest first. Raises MarkError
    where nothing is known, or none fits."""
    wanted = (bore_mm, outside_mm, width_mm)
    if all(size is None for size in wanted):
        raise MarkError("found no size, expected bore, outside or width in mm")
    found = []
    for bearing in bearings_of(table):
        sizes = (bearing.bore_mm, bearing.outside_mm, bearing.width_mm)
        off = [abs(a - b) for a, b in zip(sizes, wanted, strict=True) if b is not None]
        if max(off) <= within_mm + 1e-9:
            found.append((sum(off), bearing))
    if not found:
        said = " x ".join("?" if size is None else f"{size:g}" for size in wanted)
        near = min(bearings_of(table), key=lambda b: _far(b, wanted))
        raise MarkError(
            f"found {said} mm, which is no bearing of the table; the nearest is {near.name}, "
            f"{near.size} mm"
        )
    return [bearing for _, bearing in sorted(found, key=lambda pair: pair[0])]


def _far(bearing: Bearing, wanted: tuple[float | None, ...]) -> float:
    sizes = (bearing.bore_mm, bearing.outside_mm, bearing.width_mm)
    return sum(abs(a - b) for a, b in zip(sizes, wanted, strict=True) if b is not None)


def mistaken_for(table: BearingTable, bearing: Bearing) -> list[tuple[Bearing, str]]:
    """Return the bearings this one is easily mistaken for, each with what they share: the same bore
    and outside, or the same bore or outside with another width."""
    found = []
    for other in bearings_of(table):
        if other.name == bearing.name:
            continue
        same = [
            name
            for name in ("bore", "outside", "width")
            if getattr(other, f"{name}_mm") == getattr(bearing, f"{name}_mm")
        ]
        if "bore" in same and abs(other.outside_mm - bearing.outside_mm) <= 0.25 * (
            bearing.outside_mm - bearing.bore_mm
        ):
            found.append(
                (other, f"same bore, {other.outside_mm:g} outside, {other.width_mm:g} wide")
            )
        elif "outside" in same:
            found.append((other, f"same outside, bore {other.bore_mm:g}, {other.width_mm:g} wide"))
    return found
