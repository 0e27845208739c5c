"""Random findings on small random machines, for properties of the engine."""

from random import Random

from bottega.core.diagnosis.evidence import Evidence, Finding, Removal, Source
from bottega.core.library.machine_type import MachineType


def random_evidence(machine: MachineType, seed: int, count: int = 5, repairs: int = 0) -> Evidence:
    """Return random findings, with repeats, and ``repairs`` repairs in between."""
    rng = Random(seed)
    findings = []
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
