"""Random findings on small random machines, for properties of the engine."""

from random import Random

from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Occasion,
    Removal,
    Source,
    told_to_us,
)
from bottega.core.library.machine_type import MachineType


def random_evidence(
    machine: MachineType, seed: int, count: int = 5, repairs: int = 0, *, occasions: int = 0
) -> Evidence:
    """Return random findings, with repeats, and ``repairs`` repairs in between; of each epoch what
    was told, and ``occasions`` occasions at the machine, some of which provoke a fault."""
    rng = Random(seed)
    findings = []
    times = {
        epoch: [told_to_us(epoch)]
        + [
            Occasion(1 + epoch * occasions + n, provokes=_provoked(machine, rng))
            for n in range(occasions)
        ]
        for epoch in range(repairs + 1)
    }
    for n in range(count):
        check = machine.checks[rng.choice(sorted(machine.checks))]
        outcome = rng.choice(check.outcomes)
        findings.append(
            Finding(
                f"m{n}",
                Source("check", check.id),
                check.effect,
                outcome.id,
                outcome.chances,
                check.repeatability,
                epoch := rng.randint(0, repairs),
                rng.choice((None, rng.randint(0, epoch))),
                rng.choice(times[epoch]),
            )
        )
    removals = tuple(
        Removal(
            r,
            frozenset(rng.sample(sorted(machine.faults), rng.randint(1, 2))),
            rng.uniform(0.7, 0.99),
        )
        for r in range(repairs)
    )
    return Evidence(tuple(findings), removals)


def _provoked(machine: MachineType, rng: Random) -> tuple[tuple[str, float], ...]:
    coming = [name for name, fault in machine.faults.items() if fault.shows < 1]
    if not coming or rng.random() < 0.5:
        return ()
    return ((rng.choice(coming), rng.uniform(0.5, 1.0)),)
