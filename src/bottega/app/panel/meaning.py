"""What a code may mean before anybody has looked at the machine, and what to check first."""

from dataclasses import dataclass

from bottega.core.diagnosis.alone import TOLD_FROM, after_code
from bottega.core.diagnosis.model import DiagnosisModel
from bottega.core.diagnosis.words import fault_title
from bottega.core.library.machine_type import Check, Code
from bottega.core.library.tables import EngineTable

MOST_CAUSES, MOST_CHECKS = 4, 3
"""Chosen, what is read at one look."""


@dataclass(frozen=True)
class Cause:
    """What may have stored a code, and its chance, 0..1."""

    name: str
    chance: float


@dataclass(frozen=True)
class Meaning:
    """The likeliest causes of a code, and the cheapest checks of what the board watched."""

    causes: tuple[Cause, ...] = ()
    checks: tuple[Check, ...] = ()


def meaning_of(model: DiagnosisModel, code: Code, engine: EngineTable) -> Meaning:
    """Return what a code may mean by itself, as a job would reckon it."""
    machine, alone = model.machine, after_code(model, code, engine)
    causes = [Cause(fault_title(machine, name), chance) for name, chance in alone.faults]
    sound = [Cause("Nothing wrong with it", alone.sound)] if alone.sound >= TOLD_FROM else []
    reading = [check for check in machine.checks.values() if check.effect == code.effect]
    cheapest = sorted(reading, key=lambda check: check.minutes)[:MOST_CHECKS]
    return Meaning((*causes[:MOST_CAUSES], *sound), tuple(cheapest))
