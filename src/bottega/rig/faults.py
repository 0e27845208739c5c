"""What faults change of a machine, from just bad to gone, and how they come and go."""

from collections.abc import Mapping
from difflib import get_close_matches
from functools import lru_cache
from random import Random
from typing import Literal

from pydantic import Field

from bottega.core.library.records import Record
from bottega.core.library.tables import validated
from bottega.core.library.yamlfile import read_yaml
from bottega.rig.parameters import RIG
from bottega.rig.values import Values

Provoked = Literal["chance", "warm", "flex"]
WIDE = 20.0
"""From this ratio on what lies between just bad and gone is told by its logarithm; chosen."""


HARDLY = -0.5
"""How far a fault of no severity came: half of the way from sound to just bad; chosen, so that it
is hardly to be noticed."""
SCATTER = 0.25
"""By how much a machine, and each sign of a fault in it, is further on or less far, in the same
measure; chosen, two in three within a quarter."""
BROKEN_OHM = 1e9
"""What a broken wire is set to."""


class FaultError(ValueError):
    """A set of faults that cannot be: says what was found and what was expected."""


class _Comes(Record):
    by: Provoked
    share: float = Field(gt=0, lt=1)


class FaultChange(Record):
    """What one fault changes, and how it comes and goes."""

    sets: dict[str, tuple[float, float]]
    times: dict[str, tuple[float, float]] = {}
    comes: _Comes | None = None
    steady: tuple[str, ...] = ()
    more_per_day: float = Field(default=0.0, ge=0, le=1)


class FaultTable(Record):
    """data/rig/faults.yaml: what can be wrong, and what cannot be wrong together."""

    source: str
    faults: dict[str, FaultChange]
    apart: tuple[tuple[str, ...], ...]


@lru_cache(maxsize=1)
def fault_table() -> FaultTable:
    """Return what can be wrong with machines of physics. Raises LibraryError for a broken file."""
    return validated(FaultTable, read_yaml(RIG / "faults.yaml"))


def injectable(known: Mapping[str, object]) -> list[str]:
    """Return those of the known faults of a machine that the rig can have."""
    return [name for name in known if name in fault_table().faults]


def refuse_impossible(faults: Mapping[str, float], known: Mapping[str, object]) -> None:
    """Raise FaultError for a fault this machine or the rig has not, a severity out of nought to
    one, or faults that cannot be together."""
    table = fault_table()
    for name, severity in faults.items():
        if name not in known or name not in table.faults:
            near = get_close_matches(name, injectable(known), n=1)
            hint = f", nearest is '{near[0]}'" if near else ""
            raise FaultError(
                f"found the fault '{name}', expected one that this machine can have{hint}"
            )
        if not 0 <= severity <= 1:
            raise FaultError(f"found the severity {severity:g} of '{name}', expected 0 to 1")
    for group in table.apart:
        both = [name for name in group if name in faults]
        if len(both) > 1:
            raise FaultError(
                f"found {' and '.join(both)} together, expected one of them: both cannot be at once"
            )
    _refuse_both_ways(faults, table)


def _refuse_both_ways(faults: Mapping[str, float], table: FaultTable) -> None:
    """Raise FaultError for two faults of which one opens what the other shorts."""
    ends: dict[str, tuple[str, float]] = {}
    for name in faults:
        for parameter, (_, gone) in table.faults[name].sets.items():
            before, other = ends.setdefault(parameter, (name, gone))
            if {gone, other} == {0.0, BROKEN_OHM}:
                raise FaultError(
                    f"found {before} and {name} together, expected one: they pull {parameter} "
                    "both ways"
                )


def between(just_bad: float, gone: float, severity: float) -> float:
    """Return the figure at a severity of nought to one: on a line, or on its logarithm where it
    spans widely."""
    low, high = sorted((just_bad, gone))
    if low > 0 and high / low > WIDE:
        return float(just_bad * (gone / just_bad) ** severity)
    return just_bad + (gone - just_bad) * severity


def came_to(sound: float, just_bad: float, gone: float, far: float) -> float:
    """Return the figure of a fault that came as far: at minus one as sound, at nought just bad, at
    one gone. What is there or not is there from the first."""
    if far >= 0 or just_bad == gone:
        return between(just_bad, gone, max(0.0, far))
    return between(sound, just_bad, 1.0 + far)


def _as_far(severity: float, drawn_by: str, parameter: str) -> float:
    """Return how far one sign of a fault came, from minus one to one: with the fault's severity,
    from hardly to gone, and scattered around that by the machine and by the sign."""
    own = Random(f"{drawn_by}:{parameter}").gauss(0.0, SCATTER)
    common = Random(drawn_by).gauss(0.0, SCATTER)
    return max(-1.0, min(1.0, HARDLY + (1.0 - HARDLY) * severity + common + own))


def changed(
    sound: Values, kind: str, faults: Mapping[str, float], acting: frozenset[str], seed: str = ""
) -> Values:
    """Return the values of a machine with faults by severity, of which those in ``acting`` act
    now; where several change one parameter, that which takes it farthest from what is sound
    holds. By ``seed`` each sign of a fault is further on or less far than the fault: of two
    machines with the same one shows this first, the other that."""
    table, values = fault_table(), sound.but()
    for name, severity in faults.items():
        change = table.faults[name]
        for parameter, (just_bad, gone) in {**change.sets, **change.times}.items():
            if name in acting or change.comes is None or parameter in change.steady:
                here = _as_far(severity, f"{seed}:{name}", parameter) if seed else severity
                whole = 1.0 if parameter in change.times else sound[parameter]
                value = came_to(whole, just_bad, gone, here)
                value *= sound[parameter] if parameter in change.times else 1.0
                was = values[parameter]
                if abs(value - sound[parameter]) >= abs(was - sound[parameter]):
                    values[parameter] = value
    return values
