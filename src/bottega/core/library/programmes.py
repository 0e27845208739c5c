"""What a machine's programmes are meant to do, held against what is said of it."""

from collections.abc import Iterable
from dataclasses import dataclass

from bottega.core.library.machine_type import MachineType


@dataclass(frozen=True)
class Meant:
    """Something complained of that a programme does by design: the programme, the complaint and
    what is meant, in words."""

    programme: str
    says: str
    because: str


def meant(machine: MachineType, said: Iterable[str]) -> list[Meant]:
    """Return what of the complaints ``said`` some programme of the machine does by design, in the
    order they are said; a complaint the machine does not know is nothing."""
    known = machine.complaints
    return [
        Meant(programme.name, known[name].record.says, programme.by_design[name])
        for name in said
        for programme in machine.programmes.values()
        if name in programme.by_design and name in known
    ]
