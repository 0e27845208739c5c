"""A machine with known faults that answers checks as such a machine would: for the benchmark, and
for proofs."""

from dataclasses import dataclass, replace
from random import Random

import numpy as np

from bottega.core.library.machine_type import Check, MachineType


@dataclass(frozen=True)
class Patient:
    """A machine type, its faults, and the state each effect is in (index into the effect's
    states)."""

    machine: MachineType
    faults: tuple[str, ...]
    states: dict[str, int]

    def answer(self, check: Check) -> str:
        """Return the outcome such a state gives most often; of a run through every function
        whether anything shows."""
        if check.watches:
            return check.outcomes[-1 if self.complaints() else 0].id
        state = self.states[check.effect]
        return max(check.outcomes, key=lambda outcome: outcome.chances[state]).id

    def in_state(self, effect: str, state: int) -> "Patient":
        """Return the same machine with one effect in that state."""
        return replace(self, states={**self.states, effect: state})

    def answer_by(self, check: Check, rng: Random) -> str:
        """Return an outcome drawn from the check's reliability."""
        if check.watches:
            return self.answer(check)
        state = self.states[check.effect]
        return rng.choices(check.outcomes, [outcome.chances[state] for outcome in check.outcomes])[
            0
        ].id

    def showed(self, check: Check, outcome: str) -> tuple[str, ...]:
        """Return the phrases a run through every function shows to be so, by its outcome; none of
        any other check."""
        shows = check.watches and outcome != check.outcomes[0].id
        return tuple(self.complaints()) if shows else ()

    def complaints(self) -> list[str]:
        """Return what the customer most likely says: every phrase more likely said than not."""
        return [
            c.id for c in self.machine.complaints.values() if c.said[self.states[c.effect]] > 0.5
        ]

    def codes(self) -> list[str]:
        """Return the codes most likely stored: every one more likely than not."""
        return [c.id for c in self.machine.codes.values() if c.stored[self.states[c.effect]] > 0.5]


def typical(machine: MachineType, faults: tuple[str, ...]) -> Patient:
    """Return a machine with these faults whose every effect is in the state they most often
    bring."""
    return Patient(
        machine, faults, {e: int(np.argmax(_chances(machine, faults, e))) for e in machine.effects}
    )


def drawn(machine: MachineType, faults: tuple[str, ...], rng: Random) -> Patient:
    """Return a machine with these faults whose every effect's state is drawn from what they
    bring."""
    states = {effect: drawn_state(machine, faults, effect, rng) for effect in machine.effects}
    return Patient(machine, faults, states)


def drawn_state(machine: MachineType, faults: tuple[str, ...], effect: str, rng: Random) -> int:
    """Return the state of one effect, drawn from what these faults and the background bring."""
    chances = _chances(machine, faults, effect)
    return rng.choices(range(len(chances)), chances.tolist())[0]


def _chances(machine: MachineType, faults: tuple[str, ...], effect: str) -> np.ndarray:
    """Return P(state | these faults) by noisy-MAX: the worst of what each fault and the background
    bring."""
    below = np.cumsum(machine.effects[effect].background)
    for fault in faults:
        if effect in machine.faults[fault].effects:
            below = below * np.cumsum(machine.faults[fault].effects[effect])
    return np.diff(below, prepend=0.0)
