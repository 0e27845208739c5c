"""Schools: where practitioners disagree about fitting, what each does, and why."""

import re
from collections.abc import Mapping

from pydantic import Field, model_validator

from bottega.core.library.records import Record

PLACE = re.compile(r"\{(\w+)\}")
"""Where a line of fitting says what the shop's school does."""


class SchoolSide(Record):
    """One side of a disagreement: what is done, why, and what that risks. ``at`` is an hour of the
    clock face, where it is about a place."""

    name: str
    does: str
    because: str
    risks: str
    at: float | None = Field(default=None, gt=0, le=12)


class School(Record):
    """One disagreement with its sides, and the side of a shop that has not chosen."""

    name: str
    usual: str
    choices: dict[str, SchoolSide] = Field(min_length=2)

    @model_validator(mode="after")
    def _usual_is_one(self) -> "School":
        if self.usual not in self.choices:
            raise ValueError(f"found '{self.usual}', expected one of {', '.join(self.choices)}")
        return self


class SchoolTable(Record):
    """tables/schools.yaml."""

    source: str
    schools: dict[str, School]

    def of(self, name: str, chosen: Mapping[str, str]) -> SchoolSide | None:
        """Return a shop's side in one disagreement: what it chose, else the usual; None for one
        nobody knows."""
        school = self.schools.get(name)
        if school is None:
            return None
        return school.choices.get(chosen.get(name, ""), school.choices[school.usual])

    def said(self, line: str, chosen: Mapping[str, str]) -> str:
        """Return a line of fitting with what the shop's school does in its places, and why; a place
        that names no school stays as it is written."""

        def _side(found: re.Match[str]) -> str:
            choice = self.of(found[1], chosen)
            return f"{choice.does} ({choice.because})" if choice else found[0]

        return PLACE.sub(_side, line)

    def named(self, line: str) -> list[str]:
        """Return the schools a line of fitting names, known or not."""
        return PLACE.findall(line)
