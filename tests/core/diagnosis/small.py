"""Small random machines and random findings on them, for properties of the engine."""

from random import Random

from bottega.core.diagnosis.evidence import Evidence, Finding, Removal
from bottega.core.library.machine_type import Check, Effect, Fault, MachineType, Outcome, RepairOption
from bottega.core.library.records import Component, Needs, Part, Plate


def random_machine(seed: int, faults: int = 6, effects: int = 4) -> MachineType:
    """Return a machine with ``faults`` faults on as many components, random effects, causes without circles, checks."""
    rng = Random(seed)
    made_effects = {}
    for e in range(effects):
        count = rng.choice((2, 3, 4))
        made_effects[f"e{e}"] = Effect(
            f"e{e}", f"effect {e}", tuple(f"s{k}" for k in range(count)), _spread(rng, count, 0.1)
        )
    made_faults, components, repairs, parts = {}, {}, {}, {}
    for f in range(faults):
        touched = rng.sample(sorted(made_effects), rng.randint(1, min(3, effects)))
        causes = {f"f{g}": rng.uniform(0.05, 0.5) for g in range(f + 1, faults) if rng.random() < 0.25}
        made_faults[f"f{f}"] = Fault(
            f"f{f}",
            f"c{f}",
            f"fault {f}",
            rng.uniform(0.0005, 0.01),
            rng.choice(("early", "random", "wear")),
            {e: _spread(rng, len(made_effects[e].states), 0.9) for e in touched},
            causes,
            "stops",
            None,
        )
        components[f"c{f}"] = Component(name=f"component {f}", function="none")
        parts[f"c{f}"] = Part(name=f"part {f}", price_eur=rng.uniform(5, 90), minutes=rng.uniform(5, 40))
        repairs[f"c{f}.part"] = RepairOption(
            f"c{f}.part",
            "part",
            f"part {f}",
            f"c{f}",
            parts[f"c{f}"].minutes,
            parts[f"c{f}"].price_eur,
            ((f"f{f}", 0.97),),
            Needs(),
        )
    checks = {}
    for e, effect in made_effects.items():
        checks[f"k{e}"] = Check(
            f"k{e}",
            f"check {e}",
            e,
            "c0",
            _outcomes(rng, len(effect.states)),
            0.9,
            Needs(),
            rng.uniform(1, 12),
            "none",
            "technician",
            (),
            None,
            None,
            None,
        )
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
        components=components,
        parts=parts,
        part_numbers={},
        effects=made_effects,
        faults=made_faults,
        repairs=repairs,
        checks=checks,
        complaints={},
        codes={},
        unreadable=None,
        operations={},
        service={},
        calibration=(),
        values={},
        places={},
    )


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
                check.id,
                check.effect,
                outcome.id,
                outcome.chances,
                check.repeatability,
                rng.randint(0, repairs),
            )
        )
    removals = tuple(
        Removal(r, frozenset(rng.sample(sorted(machine.faults), rng.randint(1, 2))), rng.uniform(0.7, 0.99))
        for r in range(repairs)
    )
    return Evidence(tuple(findings), removals)


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
    return tuple(Outcome(f"o{o}", f"outcome {o}", tuple(columns[k][o] for k in range(states))) for o in range(states))
