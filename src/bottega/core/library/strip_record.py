"""Figures of opening and closing that are the same for all machines."""

from pydantic import Field

from bottega.core.library.records import Record
from bottega.core.library.vocabulary import ProofName


class PaceFigures(Record):
    """How a shop's own minutes are learned: from how many steps on, how many of one operation weigh
    as much as the shop's common pace, and between which shares of the library's minutes."""

    source: str
    fewest: int = Field(ge=1)
    weight: float = Field(gt=0)
    least: float = Field(gt=0, lt=1)
    most: float = Field(gt=1)


class StripTable(Record):
    """tables/strip.yaml: minutes of changing a tool, of laying oil, of each proof beyond the run;
    what the floor wants while it stands; what is used up, by the word an operation says it with."""

    source: str
    tool_minutes: float = Field(gt=0)
    oil_minutes: float = Field(gt=0)
    proofs: dict[ProofName, float]
    proofs_note: str
    floor: str
    consumables: dict[str, str]
    soaked: str
    wet: str
    always: tuple[str, ...]
    pace: PaceFigures
