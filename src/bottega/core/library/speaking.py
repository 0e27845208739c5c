"""Which check speaks for which fault, and how clearly: by the answers that a machine with the fault
gives beside those of a sound one."""

import numpy as np
from numpy.typing import NDArray

from bottega.core.library.machine_type import Check, MachineType, Outcome

Floats = NDArray[np.float64]


SOUND = ""
"""Stands for no fault at all."""


def answers(machine: MachineType, check: Check, *faults: str) -> Floats:
    """Return P(each answer of a check | each fault alone, or a ``SOUND`` machine), shape (F, R)."""
    sound = machine.effects[check.effect].background
    told = {fault: machine.faults[fault].effects for fault in faults if fault != SOUND}
    states = [told.get(fault, {}).get(check.effect, sound) for fault in faults]
    return np.asarray(np.array(states) @ np.array([o.chances for o in check.outcomes]).T)


def telling_checks(machine: MachineType, fault: str) -> list[tuple[str, float]]:
    """Return the checks that tell a fault, the clearest first, each with how far its answers move
    from those of a sound machine (0..1)."""
    touched = machine.faults[fault].effects
    told = [
        (check.id, float(moved(machine, check, fault).max()))
        for check in machine.checks.values()
        if check.effect in touched
    ]
    return sorted(told, key=lambda item: -item[1])


def moved(machine: MachineType, check: Check, fault: str) -> Floats:
    """Return how far each answer of a check moves with a fault from a sound machine's, (R,)."""
    bad, sound = answers(machine, check, fault, SOUND)
    return np.asarray(np.abs(bad - sound))


def odds(machine: MachineType, check: Check, outcome: Outcome, fault: str) -> float:
    """Return how much likelier an answer is with a fault than of a sound machine; 1 where the check
    reads nothing of the fault."""
    place = check.outcomes.index(outcome)
    bad, sound = answers(machine, check, fault, SOUND)[:, place].tolist()
    return float(bad / max(sound, 1e-9))


def speaks_for(machine: MachineType, check: Check, outcome: Outcome, fault: str) -> bool:
    """Return whether an answer speaks most for the state a fault leads the check's effect to, which
    is not the sound one."""
    state = machine.faults[fault].leads(check.effect)
    return bool(state) and outcome.speaks_of == state
