"""The table of what may never be together, as it is written: rows of state predicates, no code."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from bottega.core.library.records import Record
from bottega.core.library.vocabulary import Act, Face, Opens

StandingField = Literal[
    "plug",
    "taps",
    "water",
    "charge",
    "drum",
    "door",
    "posture",
    "open",
    "interlock",
    "loads",
    "doing",
    "danger",
    "fed",
    "face",
]
"""What the reduced state says, by name."""

VALUES: dict[StandingField, tuple[str, ...]] = {
    "plug": ("in", "out", "unknown"),
    "taps": ("open", "shut", "unknown"),
    "water": ("in", "out", "unknown"),
    "charge": ("none", "held", "unknown"),
    "drum": ("empty", "loaded", "unknown"),
    "door": ("open", "shut", "unknown"),
    "posture": ("upright", "tipped"),
    "open": Opens.__args__,  # type: ignore[attr-defined]  # the words of a Literal
    "interlock": ("whole", "defeated"),
    "loads": ("front", "top"),
    "doing": Act.__args__,  # type: ignore[attr-defined]  # likewise
    "danger": ("calm", "unsettled"),
    "fed": ("no", "yes"),
    "face": Face.__args__,  # type: ignore[attr-defined]  # likewise
}
"""The values of each field; ``open`` holds any number of its own at once."""


class Invariant(Record):
    """One row: what may not be together, why in a sentence, what to do instead, what lifts it."""

    when: dict[StandingField, tuple[str, ...]] = Field(min_length=1)
    why: str
    instead: str
    lifted_by: Literal["never", "live_test"] = "never"

    @model_validator(mode="after")
    def _values_are_known(self) -> "Invariant":
        for field, values in self.when.items():
            for value in values:
                if value not in VALUES[field]:
                    expected = ", ".join(VALUES[field])
                    raise ValueError(f"found {field} '{value}', expected one of {expected}")
        return self


class InvariantTable(Record):
    """tables/invariants.yaml: the rows by id, and the one voltage below which a place may be
    touched."""

    source: str
    touch_below_v: Annotated[float, Field(gt=0, le=60)]
    """Volts d.c. below which a place that held a charge may be touched."""
    touch_source: str
    defeats: tuple[str, ...] = ()
    """Words by which something temporary is known to keep a lock or a switch from its work."""
    rows: dict[str, Invariant]
