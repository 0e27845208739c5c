"""How a machine is wired: which conductor joins which two points. Plain facts by assembly and
sheet, without any fault and any chance."""

from collections.abc import Iterable, Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, field_validator, model_validator

from bottega.core.library.records import Record

WayKind = Literal[
    "wire", "plug", "contact", "switch", "protector", "load", "sensor", "capacitor", "insulation"
]
"""What joins two points. A ``contact`` is closed by the board or timer, a ``switch`` by something
else that moves; ``insulation`` should join nothing."""
CONDUCTS = frozenset({"wire", "plug", "contact", "switch", "protector", "load", "capacitor"})
"""Kinds through which a load is fed by alternating current, once everything is closed."""
LIVE, NEUTRAL, EARTH = "mains.L", "socket.N", "earth"
"""Where current comes from, where it goes, and the metal that hands touch."""
Point = Annotated[str, Field(pattern=r"^(earth|[a-z]+\.[A-Za-z0-9]+)$", max_length=20)]


class WayRecord(Record):
    """One conductor: what it is, the component it belongs to (of several, whichever the machine
    has), and the points it joins."""

    is_: WayKind = Field(alias="is")
    of: Annotated[tuple[str, ...], Field(min_length=1)]
    between: Annotated[tuple[Point, Point], Field(min_length=2, max_length=2)]

    @field_validator("of", mode="before")
    @classmethod
    def _one_is_a_list_of_one(cls, of: Any) -> Any:
        return (of,) if isinstance(of, str) else of

    @model_validator(mode="after")
    def _joins_two(self) -> "WayRecord":
        if self.between[0] == self.between[1]:
            raise ValueError(f"found both ends at {self.between[0]}, expected two points")
        return self


class WiringFile(Record):
    """wiring/NAME.yaml: how an assembly is wired, by the name of each conductor."""

    assembly: str
    ways: dict[str, WayRecord]


Wiring = Mapping[str, WayRecord]
"""The conductors of a machine by name."""


def wiring_of(
    files: Iterable[WiringFile], own: Mapping[str, WayRecord | None], components: Iterable[str]
) -> dict[str, WayRecord]:
    """Return the wiring of a machine: that of its assemblies, with what its sheet has otherwise.
    What belongs to a component it has not is left out."""
    there = set(components)
    found: dict[str, WayRecord | None] = {}
    for file in files:
        found |= file.ways
    found |= own
    return {name: way for name, way in found.items() if way is not None and there & set(way.of)}


def points(wiring: Wiring) -> list[str]:
    """Return the points that conductors join, in their order."""
    return list(dict.fromkeys(point for way in wiring.values() for point in way.between))


def unfed(wiring: Wiring) -> list[str]:
    """Return the loads that no way leads to from live, or from neutral, with everything closed:
    what nothing feeds."""
    rest = [way for way in wiring.values() if way.is_ in CONDUCTS]
    found = []
    for name, way in wiring.items():
        if way.is_ != "load" or LIVE not in points(wiring):
            continue
        others = [other for other in rest if other is not way]
        first, second = (_reached(end, others) for end in way.between)
        fed = (LIVE in first and NEUTRAL in second) or (LIVE in second and NEUTRAL in first)
        if not fed and not _of_an_inverter(way):
            found.append(name)
    return found


def _of_an_inverter(way: WayRecord) -> bool:
    """Return whether a load is a winding that an inverter makes the current for."""
    return any(point.startswith("stator.") for point in way.between)


def _reached(start: str, ways: list[WayRecord]) -> set[str]:
    """Return every point that conductors lead to from one."""
    reached, again = {start}, True
    while again:
        again = False
        for way in ways:
            first, second = way.between
            if (first in reached) != (second in reached):
                reached |= {first, second}
                again = True
    return reached
