"""The variants a model comes in, for a job to be moved to the one that stands there."""

from collections.abc import Sequence
from dataclasses import dataclass

from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import Variant


@dataclass(frozen=True)
class VariantChoice:
    """A variant of the model: its sheet and the present revision of it; ``here`` when the job is
    diagnosed with it, ``by_serial`` when the serial says that it is this one."""

    sheet: str
    revision: str
    variant: Variant
    here: bool
    by_serial: bool = False


def another_by_serial(choices: Sequence[VariantChoice]) -> VariantChoice | None:
    """Return the variant that the serial says it is, where the job is diagnosed with another."""
    return next((choice for choice in choices if choice.by_serial and not choice.here), None)


def variants_of(workshop: Workshop, machine: MachineType, serial: str = "") -> list[VariantChoice]:
    """Return the variants of a machine's model, in the library's order; none where there is one
    alone."""
    if machine.sheet is None:
        return []
    return [
        VariantChoice(
            record.sheet,
            workshop.machine(record.archetype, record.sheet).revision,
            record.variant,
            record.sheet == machine.sheet,
            record.variant.is_of(serial),
        )
        for record in workshop.shelf.variants(machine.sheet)
        if record.variant
    ]
