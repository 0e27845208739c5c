"""Ways to get the water out of a machine."""

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


class EmptyingTable(Record):
    """tables/emptying.yaml."""

    source: str
    ways: dict[str, Emptying]
