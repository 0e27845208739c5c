"""The record of one model sheet as a technician writes it in YAML: plate, panel, codes, parts,
values."""

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator

from bottega.core.library.hub_record import HubRecord
from bottega.core.library.panel_record import CalibrationRecord, PanelRecord
from bottega.core.library.records import (
    Chance,
    CodeRecord,
    ConnectorRecord,
    CurveRecord,
    Omit,
    OperationRecord,
    Record,
    Weight,
    Window,
)
from bottega.core.library.wiring_record import WayRecord


class SheetPart(Record):
    """A part number of this model with its price and what tells its revisions apart."""

    number: str
    price_eur: float = Field(gt=0)
    revision: str | None = None
    tell: str | None = None
    diagram: str | None = Field(default=None, max_length=20)
    """Where it stands on the sheet's own diagram."""
    replaces: tuple[str, ...] = Field(default=(), max_length=12)
    """Numbers that are ordered no more, in whose place this one comes."""


class Plate(Record):
    """The rating plate; what cannot be read stays empty."""

    volts: float | None = Field(default=None, ge=90, le=260)
    hertz: float | None = Field(default=None, ge=45, le=65)
    heater_w: float | None = Field(default=None, ge=300, le=4000)
    motor_w: float | None = Field(default=None, ge=50, le=2000)
    capacity_kg: float | None = Field(default=None, ge=1, le=25)
    spin_rpm: float | None = Field(default=None, ge=200, le=2200)
    year: int | None = Field(default=None, ge=1950, le=2100)
    serial: str | None = Field(default=None, max_length=40)


class Programme(Record):
    """What a programme is meant to do; what the paper does not say stays empty."""

    name: str
    fill_l: float | None = Field(default=None, gt=0, le=200)
    """Water taken in for the wash, in litres."""
    fill: Literal["cold", "hot", "mixed"] = "cold"
    temperature_c: float | None = Field(default=None, ge=0, le=95)
    """The hottest the wash gets, in degrees Celsius; not what is printed beside the dial."""
    minutes: float | None = Field(default=None, gt=0, le=600)
    spin_rpm: float | None = Field(default=None, ge=0, le=2200)
    """The fastest spin, in turns a minute; nothing where it does not spin."""
    lock_minutes: float | None = Field(default=None, ge=0, le=60)
    """How long the door or lid stays locked after the end, in minutes."""
    by_design: dict[str, str] = {}
    """By complaint, what of it this programme does by design."""


class Variant(Record):
    """One of several machines that share a model's name: what it is called, and what tells it."""

    name: str = Field(min_length=1, max_length=40)
    tell: str = Field(min_length=1, max_length=200)
    serial_from: int | None = Field(default=None, ge=0)
    """The first serial number of this variant, where its maker says."""
    serial_below: int | None = Field(default=None, ge=0)
    """The serial number from which on it is another."""

    def is_of(self, serial: str) -> bool:
        """Return whether a serial says that it is this variant; by the figures in it. False where
        nobody says which serials are."""
        figures = "".join(c for c in serial if c.isdigit())
        if not figures or (self.serial_from, self.serial_below) == (None, None):
            return False
        number = int(figures)
        below = self.serial_below
        return (self.serial_from or 0) <= number and (below is None or number < below)


class SheetFile(Record):
    """sheets/NAME.yaml: one model. It sharpens its archetype, and may change any weight, value or
    operation. One that is ``like`` another takes over what it does not say otherwise."""

    sheet: str
    maker: str
    model: str
    archetype: str
    like: str | None = None
    variant: Variant | None = None
    omit: Omit = Omit()
    """What this model has not of what its archetype has."""
    terminals: dict[str, Annotated[str, Field(min_length=1, max_length=300)]] = {}
    """By measurement, where this model's probes go; a reading keeps them."""
    connectors: dict[str, ConnectorRecord] = {}
    """By component, this model's plug, where it differs from the kind's."""
    programmes: dict[str, Programme] = {}
    traits: dict[str, Chance] = {}
    """Chance that this model shows a trait of tables/traits.yaml: those of its platform, or of its
    kind where it differs."""
    plate: Plate = Plate()
    paper: str | None = None
    panel: PanelRecord | None = None
    service: tuple[str, ...] = ()
    """The service steps this model has, in its order; empty for all that its archetype knows."""
    bands: dict[str, Window] = {}
    """Pass bands of its service steps that differ from the archetype's."""
    operations: dict[str, OperationRecord] = {}
    """Operations that differ from the archetype's: other fasteners, traps."""
    wiring: dict[str, WayRecord | None] = {}
    """Conductors that differ from the kind's, by name; nothing for one that this model has not."""
    calibration: CalibrationRecord = CalibrationRecord()
    codes: dict[str, CodeRecord] = {}
    values: dict[str, Window] = {}
    curves: dict[str, CurveRecord] = {}
    """By value, how it moves with temperature or level, where the paper prints a table."""
    parts: dict[str, Annotated[tuple[SheetPart, ...], Field(min_length=1)]] = {}
    weights: dict[str, Weight] = {}
    notes: tuple[str, ...] = ()
    hub: HubRecord | None = None
    """This model's bearings and seal in section, where they differ from the kind's."""

    @field_validator("calibration", mode="before")
    @classmethod
    def _plain_words_are_steps(cls, calibration: Any) -> Any:
        """Sheets of before its phases were known list sentences."""
        return {"steps": calibration} if isinstance(calibration, list | tuple) else calibration

    @property
    def title(self) -> str:
        """Return maker and model, and which variant of it."""
        return titled(f"{self.maker} {self.model}", self.variant)


def titled(model: str, variant: Variant | None) -> str:
    """Return a model's name with that of its variant."""
    return f"{model}, {variant.name}" if variant else model
