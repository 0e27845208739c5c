"""When a cure that nobody can explain is looked at again: after so many runs that what comes and
goes would have shown itself."""

from dataclasses import dataclass
from math import ceil, log

from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import EngineTable


@dataclass(frozen=True)
class Again:
    """So many ``runs`` would have shown it again, and they are made in so many ``days``."""

    runs: int
    days: int


def again_after(repair: str, machine: MachineType, engine: EngineTable) -> Again:
    """Return when a repair is looked at again: one of the faults it ends, still there, would have
    shown itself by then with the chance ``recheck_sure``.

    A fault that acts in a share s of runs stays away for n of them with the chance (1 - s)^n: the
    geometric distribution.
    """
    shows = min(machine.faults[fault].shows for fault, _ in machine.repairs[repair].covers)
    seen = shows * (1 - engine.run_misses)
    runs = ceil(log(1 - engine.recheck_sure) / log(1 - seen))
    return Again(runs, max(1, ceil(runs * 7 / engine.runs_a_week)))
