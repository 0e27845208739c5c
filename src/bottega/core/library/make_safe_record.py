"""What making a machine safe knows beyond its own sheet: ways to get the water out, to lay it down,
to open a locked door, and the limits of a test on a live machine."""

from collections.abc import Iterable
from typing import Literal

from pydantic import Field

from bottega.core.library.records import Record


class Emptying(Record):
    """A way to empty a machine: its minutes, the litres that stay in, what it wants, and where it
    fails or hurts."""

    name: str
    minutes: float = Field(gt=0)
    stays_l: float = Field(ge=0)
    wants: str
    works: str
    part: str | None = None
    """The component it takes; None where any machine can be emptied so."""


class Laying(Record):
    """A way to bring the underside to the hand: which way it turns and how far, what water may stay
    in, how many people, what the floor wants, and what is held or taped before it moves."""

    name: str
    turns: str
    over: Literal["rear", "side", "face"]
    """The edge or side it goes over."""
    angle_deg: float = Field(gt=0, le=90)
    stays_l: float = Field(ge=0)
    people: int = Field(ge=1, le=4)
    floor: str
    before: tuple[str, ...] = Field(min_length=1)
    risk: str

    @property
    def wet(self) -> bool:
        """Return whether some water may stay in."""
        return self.stays_l > 0


class Unlocking(Record):
    """An approved way to open what is locked: its minutes, what it wants, where it works, and the
    kinds of lock it is for, by component."""

    name: str
    minutes: float = Field(gt=0)
    wants: str
    works: str
    locks: tuple[str, ...] = Field(min_length=1)


class LiveLimits(Record):
    """How far a test on a live machine goes: how full, by the component that keeps it shut; hands;
    who stays."""

    fullest: dict[str, str]
    hands: str
    stays: str


class MakeSafeTable(Record):
    """tables/make_safe.yaml."""

    source: str
    emptying: dict[str, Emptying]
    laying: dict[str, Laying]
    unlocking: dict[str, Unlocking]
    never: str
    """What is never done to what is locked."""
    live: LiveLimits

    def laid(self, names: Iterable[str]) -> list[Laying]:
        """Return the ways to lay a machine down, by their names; unknown ones are left out."""
        return [self.laying[name] for name in names if name in self.laying]
