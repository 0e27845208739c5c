"""Small machines whose best plan can be priced exactly: made at random, or cut out of a shipped
archetype."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from random import Random

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, Finding, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.model import DiagnosisModel
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.library.machine_type import (
    Calibration,
    Check,
    Effect,
    Fault,
    MachineType,
    Outcome,
    RepairOption,
    Stated,
)
from bottega.core.library.records import Component, Needs, OperationRecord, Part
from bottega.core.library.sheet import Plate
from bottega.core.library.speaking import answers
from bottega.core.library.tables import EngineTable
from bottega.core.machine.state import MachineState

RATE_PER_MIN = 0.9
"""Euro a minute of work; chosen, as the demo shop."""
AGE_YEARS = 7.0
"""Age of every machine, in years; chosen, where neither early faults nor wear rule."""


@dataclass(frozen=True)
class Puzzle:
    """A small machine, what was said of it, where it stands and what things cost."""

    name: str
    machine: MachineType
    told: tuple[Finding, ...]
    start: MachineState
    prices: ShopPrices


def random_puzzle(seed: int, faults: int = 6, checks: int = 5, prove_at: float = 0.0) -> Puzzle:
    """Return a puzzle on a random machine with openings to be shared, reproducible by its seed."""
    rng = Random(seed)
    machine = random_machine(seed, faults=faults, effects=checks, openings=3)
    sure = {
        name: replace(r, covers=tuple((f, 1.0) for f, _ in r.covers))
        for name, r in machine.repairs.items()
    }
    machine = replace(machine, repairs=sure, no_fault_rate=rng.uniform(0.0005, 0.02))
    prices = ShopPrices(RATE_PER_MIN, rng.uniform(150, 600), prove_at=prove_at)
    return Puzzle(f"random {seed}", machine, (), MachineState(), prices)


def cut_out(
    model: DiagnosisModel,
    seed: int,
    engine: EngineTable,
    faults: int = 6,
    *,
    checks: int = 5,
    prove_at: float = 0.0,
) -> Puzzle:
    """Return the part of an archetype that one of its complaints, drawn by the seed, makes likely.

    The likeliest faults stay, each with its cheapest repair, taken as sure; of the checks that read
    their effects those stay that tell them apart best.
    """
    machine, rng = model.machine, Random(seed)
    complaint = machine.complaints[rng.choice(sorted(machine.complaints))]
    told = (said("told", complaint, 0),)
    chances = infer(model, prior(model, AGE_YEARS, engine), Evidence(told)).fault_now()
    kept = sorted(sorted(chances, key=lambda f: -chances[f])[:faults])
    repairs = {r.id: r for r in (_cheapest(machine, fault) for fault in kept)}
    small = replace(
        machine,
        faults={f: replace(machine.faults[f], causes={}, severity="stops") for f in kept},
        checks={c.id: c for c in _telling(machine, kept, [chances[f] for f in kept], checks)},
        repairs={
            name: replace(r, covers=tuple((f, 1.0) for f in kept if r.ends(f) > 0))
            for name, r in repairs.items()
        },
        complaints={},
        marks={},
        details={},
        codes={},
        meanings={},
        programmes={},
        variant=None,
    )
    prices = ShopPrices(RATE_PER_MIN, machine.new_price_eur, prove_at=prove_at)
    return Puzzle(f"{machine.archetype} {complaint.id}", small, told, MachineState(), prices)


def _cheapest(machine: MachineType, fault: str) -> RepairOption:
    return min(machine.repairs_of(fault), key=lambda r: r.price_eur + r.minutes * RATE_PER_MIN)


def _telling(
    machine: MachineType, faults: Sequence[str], weights: Sequence[float], count: int
) -> list[Check]:
    """Return the checks whose outcome depends most on which of the faults is there."""
    share = np.array(weights) / sum(weights)

    def tells(check: Check) -> float:
        """Return how far the check's answers part the faults, weighed by their chances."""
        told = answers(machine, check, *faults)
        return float(share @ np.abs(told - share @ told).sum(axis=1))

    return sorted(machine.checks.values(), key=lambda check: (-tells(check), check.id))[:count]


def random_machine(
    seed: int, faults: int = 6, effects: int = 4, openings: int = 0, *, coming: float = 0.0
) -> MachineType:
    """Return a machine with ``faults`` faults on as many components, random effects, causes without
    circles, one check an effect, and ``openings`` operations that checks and repairs may want; of
    the faults a share ``coming`` come and go."""
    rng = Random(seed)
    made_effects = {f"e{e}": _effect(rng, f"e{e}") for e in range(effects)}
    operations = {
        f"open{o}": OperationRecord(
            name=f"open {o}", minutes=rng.uniform(1, 12), after=(f"open{o - 1}",) if o == 1 else ()
        )
        for o in range(openings)
    }
    parts = {
        f"c{f}": Part(name=f"part {f}", price_eur=rng.uniform(5, 90), minutes=rng.uniform(5, 40))
        for f in range(faults)
    }
    return MachineType(
        archetype="T",
        sheet=None,
        name="test",
        maker=None,
        about="test",
        revision=str(seed),
        drawing="FB",
        no_fault_rate=0.002,
        new_price_eur=400,
        life_years=10,
        plate=Plate(),
        panel=None,
        charge=None,
        paper=None,
        notes=(),
        components={
            f"c{f}": Component(name=f"component {f}", function="none") for f in range(faults)
        },
        parts=parts,
        part_numbers={},
        effects=made_effects,
        faults={
            f"f{f}": _fault(rng, f, faults, made_effects, coming=coming) for f in range(faults)
        },
        repairs={f"{c}.part": _repair(rng, c, part, operations) for c, part in parts.items()},
        checks={
            f"k{e}": _check(rng, e, effect, operations)
            for e, effect in enumerate(made_effects.values())
        },
        complaints={},
        marks={},
        details={},
        codes={},
        meanings={},
        programmes={},
        wiring={},
        variant=None,
        unreadable=None,
        operations=operations,
        service={},
        calibration=Calibration(),
        values={},
        curves={},
        out={},
        laid=(),
        hub=None,
        places={},
        openings={},
        connectors={},
        excused={},
        seen={},
    )


def _effect(rng: Random, name: str) -> Effect:
    count = rng.choice((2, 2, 3, 4))
    return Effect(
        name, f"effect {name}", tuple(f"s{k}" for k in range(count)), _spread(rng, count, 0.1)
    )


def _fault(rng: Random, f: int, faults: int, effects: dict[str, Effect], *, coming: float) -> Fault:
    touched = rng.sample(sorted(effects), rng.randint(1, min(3, len(effects))))
    rate = rng.uniform(0.0005, 0.01)
    ageing = rng.choice(("early", "random", "wear"))
    own = {e: _spread(rng, len(effects[e].states), 0.9) for e in touched}
    fault = Fault(
        id=f"f{f}",
        component=f"c{f}",
        name=f"fault {f}",
        rate=rate,
        ageing=ageing,
        effects=own,
        causes={
            f"f{g}": rng.uniform(0.05, 0.5) for g in range(f + 1, faults) if rng.random() < 0.25
        },
        severity="stops",
        ask_why=None,
        stated=Stated(rate, "physics", own, dict.fromkeys(own, "physics")),
    )
    if coming and rng.random() < coming:
        return replace(fault, shows=rng.uniform(0.1, 0.9), steady=tuple(touched[2:]))
    return fault


def _repair(
    rng: Random, component: str, part: Part, operations: dict[str, OperationRecord]
) -> RepairOption:
    return RepairOption(
        id=f"{component}.part",
        do="part",
        name=part.name or component,
        component=component,
        minutes=part.minutes,
        price_eur=part.price_eur,
        covers=((f"f{component[1:]}", 0.97),),
        needs=(needs := _wanting(rng, operations)),
        way=needs,
    )


def _check(rng: Random, e: int, effect: Effect, operations: dict[str, OperationRecord]) -> Check:
    return Check(
        id=f"k{e}",
        name=f"check {e}",
        effect=effect.id,
        component="c0",
        outcomes=_outcomes(rng, len(effect.states)),
        repeatability=0.9,
        needs=_wanting(rng, operations),
        minutes=rng.uniform(1, 12),
        tool="none",
        who="technician",
        acts=(),
        steps=(),
        caution=None,
        why=None,
        measure=None,
    )


def _wanting(rng: Random, operations: dict[str, OperationRecord]) -> Needs:
    return Needs(off=tuple(name for name in operations if rng.random() < 0.4))


def _spread(rng: Random, count: int, rest: float) -> tuple[float, ...]:
    raw = [rng.random() for _ in range(count - 1)]
    scale = rest * rng.uniform(0.3, 1) / sum(raw)
    tail = [value * scale for value in raw]
    return (1 - sum(tail), *tail)


def _outcomes(rng: Random, states: int) -> tuple[Outcome, ...]:
    columns = []
    for state in range(states):
        raw = [rng.random() * 0.1 + (0.9 if o == state else 0) for o in range(states)]
        columns.append([value / sum(raw) for value in raw])
    return tuple(
        Outcome(f"o{o}", f"outcome {o}", tuple(columns[k][o] for k in range(states)))
        for o in range(states)
    )
