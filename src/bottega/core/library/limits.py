"""Limits of the electrical check after a repair, by the set a shop chooses."""

from pydantic import Field

from bottega.core.library.records import Record


class LimitSet(Record):
    """The most ohm of the earth, the least megohm of the insulation, the most milliampere of
    leakage, and where that is from."""

    name: str
    source: str
    earth_ohm: float = Field(gt=0)
    insulation_mohm: float = Field(gt=0)
    leakage_ma: float = Field(gt=0)


class LimitTable(Record):
    """The sets of limits, by id."""

    source: str
    sets: dict[str, LimitSet]
