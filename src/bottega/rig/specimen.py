"""One machine: drawn sound by its seed, with its faults laid over it."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from math import exp
from random import Random

from bottega.core.library.machine_type import MachineType
from bottega.rig.drives import sound_pulls
from bottega.rig.faults import changed, fault_table, refuse_impossible
from bottega.rig.parameters import parameters
from bottega.rig.programmes import WASH_RPM, spin_rpm
from bottega.rig.values import Values

PLATE_SPREAD = 0.015
"""By how much an element's watts are off those of its plate, as a share; chosen."""
RATED_SLIP = 0.05
"""Slip of an induction motor at its full spin, and in a wash's strokes; usual of four poles."""


def mains_rpm(v: Values) -> float:
    """Return the speed an induction motor turns at on the mains, loaded."""
    return (1 - RATED_SLIP) * 60 * v.hertz / v.pole_pairs


def sound_values(machine: MachineType, seed: str) -> Values:
    """Return the values of a sound machine drawn by a seed: each figure times a lognormal of its
    spread, each drawn for itself, so that a new figure changes no other; the element and the mains
    by the plate."""
    values = dict[str, float]()
    for name, parameter in parameters(machine.archetype, machine.sheet).items():
        values[name] = parameter.value * _drawn(seed, name, parameter.spread)
    plate = machine.plate
    values["rated_v"] = plate.volts or values["rated_v"]
    if plate.volts:
        share = values["mains_v"] / parameters(machine.archetype, machine.sheet)["mains_v"].value
        values["mains_v"] = plate.volts * share
    if plate.hertz:
        values["hertz"] = plate.hertz
    if plate.heater_w:
        share = _drawn(seed, "plate", PLATE_SPREAD)
        values["element_coil_ohm"] = (plate.volts or 230) ** 2 / plate.heater_w * share
    values |= dict.fromkeys(FOLLOWS, 0.0)
    found = Values(**values)
    if found.pole_pairs:
        found.belt_ratio = mains_rpm(found) / spin_rpm(machine)
        found.gear_ratio = spin_rpm(machine) / WASH_RPM
    found.sound_pull, found.sound_start_pull = sound_pulls(found)
    return found


def _drawn(seed: str, name: str, spread: float) -> float:
    """Return the factor by which a specimen's figure is off."""
    return exp(Random(f"specimen:{seed}:{name}").gauss(0, spread)) if spread else 1.0


FOLLOWS = ("gear_ratio", "sound_pull", "sound_start_pull")
"""Values that follow from the others when a machine is drawn."""


@dataclass(frozen=True)
class Specimen:
    """A machine of a type, drawn by a seed, with its faults by severity (nought just bad, one
    gone). Raises FaultError for faults that cannot be."""

    machine: MachineType
    seed: str
    faults: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        refuse_impossible(self.faults, self.machine.faults)

    @cached_property
    def sound(self) -> Values:
        """Return its values without its faults."""
        return sound_values(self.machine, self.seed)

    def acting(self, occasion: str, provoked: str | None = None) -> frozenset[str]:
        """Return which of its faults act on an occasion: those that are always there, those
        provoked, and of the others each with its share, by seed."""
        found = set()
        for name in self.faults:
            comes = fault_table().faults[name].comes
            if (
                comes is None
                or comes.by == provoked
                or Random(f"acts:{self.seed}:{name}:{occasion}").random() < comes.share
            ):
                found.add(name)
        return frozenset(found)

    def values(self, acting: frozenset[str]) -> Values:
        """Return its values while these of its faults act."""
        return changed(self.sound, self.machine.archetype, self.faults, acting, self.seed)

    def older(self, days: float) -> "Specimen":
        """Return it after so many days of use: what grows has grown. Raises ValueError for less
        than none."""
        if days < 0:
            raise ValueError(f"found {days:g} days, expected none or more")
        table = fault_table().faults
        grown = {
            name: min(1.0, s + days * table[name].more_per_day) for name, s in self.faults.items()
        }
        return Specimen(self.machine, self.seed, grown)

    def without(self, faults: frozenset[str]) -> "Specimen":
        """Return it with some of its faults put right."""
        return Specimen(
            self.machine, self.seed, {n: s for n, s in self.faults.items() if n not in faults}
        )
