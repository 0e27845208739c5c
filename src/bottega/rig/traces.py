"""What is left to be seen of what wears, leaks and burns. Each trace follows from the machine's
values, whichever fault made them so; more on one machine, less on another."""

from functools import lru_cache
from math import exp, log10
from random import Random

from pydantic import Field

from bottega.core.library.records import Record
from bottega.core.library.tables import validated
from bottega.core.library.yamlfile import read_yaml
from bottega.rig.machine import ALIVE_V, Machine
from bottega.rig.parameters import RIG, loads
from bottega.rig.values import Values

DEAD_OHM, WELDED_OHM = 1e4, 10.0
"""An output that no longer closes, and one that no longer opens."""
MARKED = 0.6
"""Share of burnt outputs whose mark is seen; chosen."""


class TraceRule(Record):
    """What a sound machine shows, and how much more by what is no longer sound: for each unit, for
    the share of it, for each power of ten; nothing until it is ``beyond`` a figure."""

    is_: float = Field(alias="is")
    by: dict[str, float] = {}
    shares: dict[str, float] = {}
    decades: dict[str, float] = {}
    beyond: float = 0.0
    most: float | None = None

    def shown(self, v: Values, sound: Values) -> float:
        """Return what is shown of values that were ``sound`` once."""
        far = sum(each * (v[name] - sound[name]) for name, each in self.by.items())
        far += sum(each * (v[name] / sound[name] - 1) for name, each in self.shares.items())
        far += sum(each * log10(v[name] / sound[name]) for name, each in self.decades.items())
        found = self.is_ + (max(0.0, far - self.beyond) if self.beyond else far)
        return max(0.0, found if self.most is None else min(self.most, found))


class _TraceFile(Record):
    source: str
    scatters: float
    traces: dict[str, TraceRule]


@lru_cache(maxsize=1)
def _file() -> _TraceFile:
    return validated(_TraceFile, read_yaml(RIG / "traces.yaml"))


def traces_of(machine: Machine) -> dict[str, float]:
    """Return what is to be seen of a machine's past, by name: dust, marks, rub, corrosion. What
    comes and goes has left its traces, also while it does not act."""
    specimen, file = machine.specimen, _file()
    v, sound, seed = specimen.values(frozenset(specimen.faults)), specimen.sound, specimen.seed
    found = {}
    for name, trace in file.traces.items():
        scatter = exp(Random(f"{seed}:trace:{name}").gauss(0.0, file.scatters))
        found[name] = trace.is_ + (trace.shown(v, sound) - trace.is_) * scatter
    return {**found, "board_burnt_share": _burnt(v, seed)}


def _burnt(v: Values, seed: str) -> float:
    """Return how burnt the board looks: of outputs that failed, most have left a mark."""
    failed = [
        load
        for load in loads()
        if v[f"{load}_out_ohm"] > DEAD_OHM or v[f"{load}_rest_ohm"] < WELDED_OHM
    ]
    failed += ["supply"] if v.board_volts < ALIVE_V else []
    marked = [Random(f"{seed}:burnt:{name}").random() for name in failed]
    return max((1 - share for share in marked if share < MARKED), default=0.0)
