"""A machine that is not quite as the library says: every likelihood word a step off, every rate off
by a factor."""

from dataclasses import replace
from math import exp
from random import Random

from bottega.core.library.machine_type import Fault, MachineType

RATE_FACTOR = 0.5
"""How far the logarithm of a rate is off, up or down; chosen: a rate remembered is right to
two thirds."""


def disturbed(machine: MachineType, words: dict[str, float], seed: str) -> MachineType:
    """Return the machine as it is in truth: what each fault brings about is a word likelier or less
    likely than the library says, and each rate is off by a factor."""
    rng = Random(f"{seed}:{machine.archetype}")
    ladder = sorted(words.values())
    faults = {name: _off(fault, ladder, rng) for name, fault in machine.faults.items()}
    return replace(machine, faults=faults)


def _off(fault: Fault, ladder: list[float], rng: Random) -> Fault:
    rate = fault.rate * exp(rng.choice((-RATE_FACTOR, RATE_FACTOR)))
    effects = {e: _moved(chances, ladder, rng) for e, chances in fault.effects.items()}
    return replace(fault, rate=rate, effects=effects)


def _moved(chances: tuple[float, ...], ladder: list[float], rng: Random) -> tuple[float, ...]:
    """Return the distribution with the chance of not being normal moved to a word beside its own;
    at the ends of the ladder it moves inwards or stays."""
    bad = 1 - chances[0]
    if bad <= 0:
        return chances
    here = min(range(len(ladder)), key=lambda n: abs(ladder[n] - bad))
    there = here + rng.choice((-1, 1))
    if not 0 <= there < len(ladder):
        return chances
    share = ladder[there] / bad
    return (1 - ladder[there], *(p * share for p in chances[1:]))
