"""What a shop has found on machines of a kind, as a correction of how often faults come."""

from collections.abc import Mapping

from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import EngineTable


def scales(
    machine: MachineType, found: Mapping[str, float], jobs: int, engine: EngineTable
) -> dict[str, float]:
    """Return by what the rate of each fault is multiplied after ``jobs`` closed jobs on such
    machines.

    ``found`` counts how often each fault was there (fractions where it was not sure). A fault
    expected e times and found k times counts (a + k) / (a + e): the mean of a gamma-distributed
    rate with a counts of its own (Gelman et al., Bayesian Data Analysis, section 2.6), kept within
    the engine's bounds. Faults no job speaks of keep 1.
    """
    faults = machine.faults
    total = sum(fault.rate for fault in faults.values())
    own, low, high = engine.history_counts, engine.history_least, engine.history_most
    scaled = {}
    for name, fault in faults.items():
        expected = jobs * fault.rate / total
        scaled[name] = min(max((own + found.get(name, 0.0)) / (own + expected), low), high)
    return scaled
