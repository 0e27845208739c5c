"""The grey zone: on how many machines a fault that is hardly there shows at all."""

from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from os import cpu_count

from pydantic import BaseModel

from bottega.benchmark.policy import ready, workshop
from bottega.core.library.machine_type import MachineType
from bottega.rig.asking import Bench
from bottega.rig.faults import injectable
from bottega.rig.specimen import Specimen

HARDLY_ANY, NEARLY_ALL = 0.1, 0.9
"""Shares of machines between which a fault at its mildest should show."""
Task = tuple[str, str, int, int]
"""Kind, fault, seed and how many machines."""


class Mildest(BaseModel):
    """Of one kind: its faults, on how many machines each shows at its mildest, which show on none
    and which on all."""

    kind: str
    machines: int
    shows: dict[str, float]

    @property
    def in_between(self) -> float:
        """Return the share of faults that show on some machines and not on others."""
        some = [HARDLY_ANY <= share <= NEARLY_ALL for share in self.shows.values()]
        return sum(some) / len(some) if some else 0.0

    @property
    def never(self) -> list[str]:
        """Return the faults that show on no machine."""
        return [name for name, share in self.shows.items() if share == 0]

    @property
    def always(self) -> list[str]:
        """Return the faults that show on every machine: what is there or is not."""
        return [name for name, share in self.shows.items() if share == 1]


def mildest(kind: str, seed: int, machines: int, say: Callable[[str], None]) -> Mildest:
    """Return on which share of so many machines of a kind each fault shows at its mildest: whether
    any effect is told otherwise than of the same machine when sound."""
    names = injectable(workshop().shelf.machine(kind).faults)
    say(f"{kind}: {len(names)} faults on {machines} machines each")
    tasks = [(kind, name, seed, machines) for name in names]
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        return Mildest(kind=kind, machines=machines, shows=dict(pool.map(_shows, tasks)))


def _shows(task: Task) -> tuple[str, float]:
    kind, fault, seed, machines = task
    machine = workshop().shelf.machine(kind)
    told = [_differs(machine, fault, f"mildest:{seed}:{n}") for n in range(machines)]
    return fault, sum(told) / machines


def _differs(machine: MachineType, fault: str, seed: str) -> bool:
    sound, faulty = states_of(machine, seed, {}), states_of(machine, seed, {fault: 0.0})
    return any(sound[name] != faulty[name] for name in sound.keys() & faulty.keys())


def states_of(machine: MachineType, seed: str, faults: dict[str, float]) -> dict[str, str | None]:
    """Return the states of every effect that a machine comes to, exactly as they are: nobody
    blurs."""
    bench = Bench(Specimen(machine, seed, faults), seed)
    seen = bench.washes(frozenset(faults))
    found: dict[str, str | None] = {}
    for name, effect in machine.effects.items():
        if effect.on_rig is not None and effect.on_rig.cases:
            try:
                found[name] = effect.on_rig.told(seen)
            except KeyError:
                continue
    return found
