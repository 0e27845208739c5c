"""Hold the library against machines of physics: each fault at several severities, each check
performed."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from os import cpu_count
from random import Random

import numpy as np
from pydantic import BaseModel

from bottega.benchmark.outcomes import outcome_of
from bottega.benchmark.policy import ready, workshop
from bottega.core.diagnosis.model import Floats
from bottega.core.library.machine_type import Check, Fault, MachineType
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.rig.asking import Bench, CannotAsk, NotReached
from bottega.rig.faults import injectable
from bottega.rig.specimen import Specimen

TOLERANCE = 0.25
"""How far rig and library may differ, as half the sum of the differences of their chances (total
variation), beyond what so few specimens differ by chance; chosen, as far as one word of
likelihood lies from the next."""
SPECIMENS = 12
WATCHED = "run:"
"""How what is noticed in washes while the fault acts stands among the checks, before the effect's
id: what customers complain of, and what a watched run shows."""


class CheckedPair(BaseModel):
    """One fault and one check: how far rig and library are apart, and what each says most."""

    archetype: str
    fault: str
    check: str
    apart: float
    library: dict[str, float]
    rig: dict[str, float]
    telling: bool
    """Whether either of them says that the fault changes the answer."""


class Agreement(BaseModel):
    """What was compared. ``share`` is of all pairs, ``telling_share`` of those where the fault
    changes the answer."""

    seed: int
    specimens: int
    pairs: int
    within: int
    share: float
    telling: int
    telling_share: float
    without_recipe: list[str]
    social: dict[str, str]
    worst: list[CheckedPair]


@dataclass(frozen=True)
class _Task:
    archetype: str
    fault: str
    seed: int
    specimens: int
    checks: tuple[str, ...]


def library_agree(
    archetypes: Sequence[str],
    seed: int,
    specimens: int,
    only: Sequence[str],
    *,
    done: Callable[[], None],
    faults: Sequence[str] = (),
) -> Agreement:
    """Return how rig and library agree over every fault the rig can have and every check with a
    recipe; ``only`` names checks, none for all; ``done`` is called after each fault."""
    tasks = list(tasks_of(archetypes, seed, specimens, only, faults=faults))
    pairs: list[CheckedPair] = []
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        for found in pool.map(compare, tasks):
            pairs += found
            done()
    machines = [workshop().shelf.machine(name) for name in archetypes]
    return summed(pairs, machines, seed, specimens)


def tasks_of(
    archetypes: Sequence[str],
    seed: int,
    specimens: int,
    only: Sequence[str],
    *,
    faults: Sequence[str] = (),
) -> Iterator[_Task]:
    """Yield what is to be compared, a fault at a time."""
    for archetype in archetypes:
        machine = workshop().shelf.machine(archetype)
        for fault in injectable(machine.faults):
            if not faults or fault in faults:
                yield _Task(archetype, fault, seed, specimens, tuple(only))


def compare(task: _Task) -> list[CheckedPair]:
    """Return every check of one fault, as the rig answers it and as the library says it would."""
    machine = workshop().shelf.machine(task.archetype)
    quantities = workshop().shelf.tables.quantities
    fault = machine.faults[task.fault]
    counts: dict[str, dict[str, int]] = {}
    checks = [
        c
        for c in machine.checks.values()
        if (not task.checks or c.id in task.checks) and not c.watches
    ]
    for n in range(task.specimens):
        rng = Random(f"agree:{task.seed}:{task.archetype}:{task.fault}:{n}")
        bench = Bench(
            Specimen(machine, rng.random().hex(), {task.fault: rng.random()}), f"{task.seed}:{n}"
        )
        for check in checks:
            try:
                told = bench.perform(check, str(n))
            except (CannotAsk, NotReached):
                continue
            outcome = outcome_of(machine, check, told, quantities)
            if outcome == INCONCLUSIVE:
                continue
            counts.setdefault(check.id, dict.fromkeys((o.id for o in check.outcomes), 0))[
                outcome
            ] += 1
        for effect in machine.noticeable if not task.checks else ():
            state = bench.noticed(machine.effects[effect], str(n), frozenset([task.fault]))
            if state is not None:
                states = dict.fromkeys(machine.effects[effect].states, 0)
                counts.setdefault(f"{WATCHED}{effect}", states)[state] += 1
    return [
        _pair(machine, fault, name, rig)
        for name, rig in counts.items()
        if 2 * sum(rig.values()) >= task.specimens
    ]


def _pair(machine: MachineType, fault: Fault, name: str, counts: dict[str, int]) -> CheckedPair:
    n = sum(counts.values())
    rig = np.array([count / n for count in counts.values()])
    if name.startswith(WATCHED):
        effect = name.removeprefix(WATCHED)
        library, sound = (states_of(machine, one, effect, 1.0) for one in (fault, None))
    else:
        check = machine.checks[name]
        library, sound = (by_library(machine, one, check) for one in (fault, None))
    noise = 0.5 * float(np.sqrt(library * (1 - library) / n).sum())
    apart = max(0.0, 0.5 * float(abs(rig - library).sum()) - noise)
    moved = (
        0.5 * max(float(abs(library - sound).sum()), float(abs(rig - sound).sum()) - 2 * noise)
        > TOLERANCE
    )
    names = list(counts)
    return CheckedPair(
        archetype=machine.archetype,
        fault=fault.id,
        check=name,
        apart=round(apart, 3),
        library={name: round(float(p), 2) for name, p in zip(names, library, strict=True)},
        rig={name: round(float(p), 2) for name, p in zip(names, rig, strict=True)},
        telling=moved,
    )


def by_library(machine: MachineType, fault: Fault | None, check: Check) -> Floats:
    """Return the chances of a check's outcomes (O,) as the library states them, with one fault
    or with none."""
    acts = 1.0
    if fault is not None and fault.comes(check.effect):
        provoked = dict(check.provokes).get(fault.id, 0.0)
        whole = check.who == "customer"
        acts = 0.5 * (1 + fault.shows) if whole else max(fault.shows, provoked)
    states = states_of(machine, fault, check.effect, acts)
    return np.asarray(np.array([o.chances for o in check.outcomes]) @ states)


def states_of(machine: MachineType, fault: Fault | None, name: str, acts: float) -> Floats:
    """Return the chances of an effect's states (K,) as the library states them, with one fault
    that acts with the chance ``acts``, or with none."""
    background = np.array(machine.effects[name].background)
    if fault is None or name not in fault.effects:
        return background
    worse = np.diff(np.cumsum(background) * np.cumsum(fault.effects[name]), prepend=0.0)
    return np.asarray(acts * worse + (1 - acts) * background)


def summed(
    pairs: list[CheckedPair], machines: Sequence[MachineType], seed: int, specimens: int
) -> Agreement:
    """Return the figures of all pairs, and the worst of them."""
    within = [pair for pair in pairs if pair.apart <= TOLERANCE]
    telling = [pair for pair in pairs if pair.telling]
    checks = {check.id: check for machine in machines for check in machine.checks.values()}
    social = {
        name: check.on_rig.reason or ""
        for name, check in checks.items()
        if check.on_rig is not None and check.on_rig.act == "social"
    }
    without = [name for name, check in checks.items() if check.on_rig is None]
    good = sum(pair.apart <= TOLERANCE for pair in telling)
    return Agreement(
        seed=seed,
        specimens=specimens,
        pairs=len(pairs),
        within=len(within),
        share=round(len(within) / max(1, len(pairs)), 4),
        telling=len(telling),
        telling_share=round(good / max(1, len(telling)), 4),
        without_recipe=sorted(without),
        social=social,
        worst=sorted(pairs, key=lambda pair: -pair.apart),
    )


def agree_rows(found: Agreement, most: int) -> tuple[list[str], list[list[str]]]:
    """Return the worst pairs as a table: its head, its rows."""
    head = ["machine", "fault", "check", "apart", "library", "rig"]
    rows = []
    for pair in found.worst[:most]:
        says = [
            ", ".join(f"{k} {p:.0%}" for k, p in d.items() if p >= 0.1)
            for d in (pair.library, pair.rig)
        ]
        rows.append([pair.archetype, pair.fault, pair.check, f"{pair.apart:.2f}", *says])
    return head, rows
