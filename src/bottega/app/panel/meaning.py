"""What a code may mean before anybody has looked at the machine, and what to check first."""

from dataclasses import dataclass

from bottega.core.diagnosis.words import fault_title
from bottega.core.library.machine_type import Check, Code, MachineType

MOST_CAUSES, MOST_CHECKS = 4, 3
"""Chosen, what is read at one look."""


@dataclass(frozen=True)
class Cause:
    """A fault that may have stored a code, and its share of all that may, 0..1."""

    name: str
    share: float


@dataclass(frozen=True)
class Meaning:
    """The likeliest causes of a code, and the cheapest checks of what the board watched."""

    causes: tuple[Cause, ...] = ()
    checks: tuple[Check, ...] = ()


def meaning_of(machine: MachineType, code: Code) -> Meaning:
    """Return what a code may mean: by Bayes over single faults, each as often as a machine of the
    reference age has it."""
    weights = {
        name: fault.rate
        * sum(p * q for p, q in zip(fault.effects[code.effect], code.stored, strict=True))
        for name, fault in machine.faults.items()
        if code.effect in fault.effects
    }
    whole = sum(weights.values()) or 1.0
    likeliest = sorted(weights, key=lambda name: -weights[name])[:MOST_CAUSES]
    causes = tuple(Cause(fault_title(machine, name), weights[name] / whole) for name in likeliest)
    reading = [check for check in machine.checks.values() if check.effect == code.effect]
    return Meaning(causes, tuple(sorted(reading, key=lambda check: check.minutes)[:MOST_CHECKS]))
