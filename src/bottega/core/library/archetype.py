"""The record of one machine type as a technician writes it in YAML: its assemblies, where they are,
what it is worth."""

from pydantic import Field

from bottega.core.library.hub_record import HubRecord
from bottega.core.library.records import (
    Chance,
    Needs,
    Omit,
    OperationRecord,
    Record,
    StoredCharge,
    Weight,
    Window,
)


class DrawnPlace(Record):
    """Where a component is drawn: the point a leader line ends at, in the drawing's own units."""

    x: float
    y: float


class ArchetypeFile(Record):
    """archetypes/ID.yaml: a machine type is a choice of assemblies, a drawing, a strip-down graph,
    typical values.

    ``like`` takes over places, operations, reaching and values of another archetype; what is
    written here wins.
    """

    archetype: str
    name: str
    about: str
    like: str | None = None
    assemblies: tuple[str, ...]
    omit: Omit = Omit()
    no_fault_weight: float = Field(gt=0)
    """Calls about machines that have nothing, per 10,000 machine-years: counted as the faults
    are, by the calls they bring."""
    drawing: str
    places: dict[str, DrawnPlace] = {}
    openings: dict[str, DrawnPlace] = {}
    """Where operations are drawn: the way to a part leads over them."""
    reach: dict[str, Needs] = {}
    stands: dict[str, Needs] = {}
    """By check, how a machine of this kind stands for it, where that is not as the assembly
    says."""
    operations: dict[str, OperationRecord] = {}
    out: dict[str, tuple[str, ...]] = {}
    """By component, the operations that take it out, where the assembly cannot know."""
    values: dict[str, Window] = {}
    weights: dict[str, Weight] = {}
    excused: dict[str, dict[str, str]] = {}
    """By component, what its kinds demand and cannot or need not be asked of it here, with the
    reason."""
    traits: dict[str, Chance] = {}
    """Chance that a machine of this kind shows a trait of tables/traits.yaml."""
    charge: StoredCharge | None = None
    laid: tuple[str, ...] = ()
    """Ways of tables/make_safe.yaml to bring its underside to the hand, the usual first."""
    hub: HubRecord | None = None
    """Bearings and seal in section."""
    new_price_eur: float = Field(gt=0)
    life_years: float = Field(gt=0)
