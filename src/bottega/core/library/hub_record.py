"""The hub of a machine in section: shaft, seat, bearings, seal, spacer, relief hole, in mm along
the shaft from the bearings' outer end towards the water."""

from typing import Literal

from pydantic import Field, model_validator

from bottega.core.library.records import Grade, Record


class Stretch(Record):
    """A stretch along the shaft: from and to in mm."""

    from_: float = Field(alias="from", ge=0, le=400)
    to: float = Field(gt=0, le=400)

    @model_validator(mode="after")
    def _goes_on(self) -> "Stretch":
        if self.to <= self.from_:
            raise ValueError(f"found from {self.from_:g} to {self.to:g}, expected to go on")
        return self


class Land(Stretch):
    """A stretch of the shaft with its diameter; ``grooved`` where lips have worn it."""

    mm: float = Field(gt=3, le=120)
    grooved: bool = False


class Bore(Stretch):
    """A stretch of the seat with its diameter."""

    mm: float = Field(gt=5, le=200)


class HubBearing(Record):
    """A bearing of the hub: its mark, where its outer end stands, what it is called."""

    name: str
    mark: str
    at: float = Field(ge=0, le=400)


class Relief(Record):
    """The hole that lets out what passes the seal: where its middle is, how wide it is."""

    at: float = Field(ge=0, le=400)
    mm: float = Field(gt=0, le=30)


class Seating(Record):
    """What is measured when it is together: the stand-out of a part over a face, in mm."""

    name: str
    low: float
    high: float
    tilt_mm: float = Field(gt=0)
    """The most by which opposite sides may differ."""


class HubRecord(Record):
    """A hub as it is drawn and fitted."""

    component: str = "bearings"
    """The component whose part they are."""
    housing: Literal["aluminium", "cast_iron", "plastic"]
    shaft: tuple[Land, ...] = Field(min_length=1)
    seat: tuple[Bore, ...] = Field(min_length=1)
    """The bore of the seal's seat and of the bearings, in stretches."""
    bearings: tuple[HubBearing, ...] = ()
    seal: tuple[float, float]
    """From and to of the seal's place."""
    seal_name: str
    spacer: tuple[float, float] | None = None
    relief: Relief | None = None
    seating: Seating | None = None
    order: tuple[str, ...] = ()
    """How it goes together, where something cannot pass afterwards."""
    source: str
    grade: Grade
