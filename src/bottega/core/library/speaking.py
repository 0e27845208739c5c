"""Which check speaks for which fault, and how clearly: by the answers that a machine with the fault
gives beside those of a sound one."""

import numpy as np
from numpy.typing import NDArray

from bottega.core.library.machine_type import Check, MachineType, Outcome

Floats = NDArray[np.float64]


def answers(machine: MachineType, check: Check, fault: str | None) -> Floats:
    """Return P(each answer of a check | the fault alone), or of a sound machine for None, (R,)."""
    sound = machine.effects[check.effect].background
    states = machine.faults[fault].effects.get(check.effect, sound) if fault else sound
    return np.asarray(np.array([outcome.chances for outcome in check.outcomes]) @ np.array(states))


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
    return np.asarray(np.abs(answers(machine, check, fault) - answers(machine, check, None)))


def odds(machine: MachineType, check: Check, outcome: Outcome, fault: str) -> float:
    """Return how much likelier an answer is with a fault than of a sound machine; 1 where the check
    reads nothing of the fault."""
    place = check.outcomes.index(outcome)
    sound = float(answers(machine, check, None)[place])
    return float(answers(machine, check, fault)[place]) / max(sound, 1e-9)


def speaks_for(machine: MachineType, check: Check, outcome: Outcome, fault: str) -> bool:
    """Return whether an answer speaks most for the state a fault leads the check's effect to, which
    is not the sound one."""
    state = machine.faults[fault].leads(check.effect)
    return bool(state) and outcome.speaks_of == state
