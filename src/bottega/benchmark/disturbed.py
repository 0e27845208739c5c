"""A machine that is not quite as the library says: every figure off by as much as its grade lets
it be."""

from dataclasses import replace
from math import exp
from random import Random

from bottega.core.library.doubt import Doubts, moved
from bottega.core.library.machine_type import Fault, MachineType


def disturbed(machine: MachineType, doubts: Doubts, seed: str) -> MachineType:
    """Return the machine as it is in truth: what each fault is stated to bring about is a word
    likelier or less likely, and each rate is off by a factor, as the doubts of their grades say."""
    rng = Random(f"{seed}:{machine.archetype}")
    faults = {name: _off(fault, doubts, rng) for name, fault in machine.faults.items()}
    return replace(machine, faults=faults)


def _off(fault: Fault, doubts: Doubts, rng: Random) -> Fault:
    stated = fault.stated
    rate = stated.rate * exp(rng.choice((-1, 1)) * doubts.grades[stated.grade].rate)
    effects = dict(fault.effects)
    for effect, chances in stated.effects.items():
        bad = 1 - chances[0]
        there = rng.choice(doubts.beside(bad))
        if bad > 0 and rng.random() < doubts.grades[stated.grades[effect]].words:
            effects[effect] = moved(chances, there)
        else:
            effects[effect] = chances
    return replace(fault, rate=rate, effects=effects)
