"""A brute-force engine, written from the model's definition alone: every set, every state of every
effect, by loops."""

from itertools import combinations, product
from math import prod

from bottega.core.diagnosis.evidence import Evidence, Finding
from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import EngineTable


def fault_sets(machine: MachineType) -> list[frozenset[str]]:
    names = list(machine.faults)
    sets = [frozenset()] + [frozenset(c) for n in (1, 2) for c in combinations(names, n)]
    for cause in names:
        for middle in machine.faults[cause].causes:
            for result in machine.faults[middle].causes:
                chain = frozenset((cause, middle, result))
                if len(chain) == 3 and chain not in sets:
                    sets.append(chain)
    return sets


def prior_weight(
    machine: MachineType, faults: frozenset[str], age: float, engine: EngineTable
) -> float:
    if not faults:
        return machine.no_fault_rate * engine.horizon_years
    weight = 1.0
    for name in faults:
        fault = machine.faults[name]
        shape = engine.ageing[fault.ageing].shape
        rate = (
            fault.rate
            * (max(age, engine.youngest_years) / engine.reference_age_years) ** (shape - 1)
            * engine.horizon_years
        )
        spared = 1 - min(rate, 0.999)
        for other in faults - {name}:
            spared *= 1 - machine.faults[other].causes.get(name, 0.0)
        weight *= 1 - spared
        for result, p in fault.causes.items():
            weight *= 1.0 if result in faults else 1 - p
    return weight


def state_chances(machine: MachineType, faults: frozenset[str], effect: str) -> list[float]:
    """Noisy-MAX by enumeration: every cause and the background draws a state, the worst one
    shows."""
    sources = [machine.effects[effect].background]
    sources += [
        machine.faults[f].effects[effect] for f in faults if effect in machine.faults[f].effects
    ]
    out = [0.0] * len(machine.effects[effect].states)
    for drawn in product(*(range(len(s)) for s in sources)):
        out[max(drawn)] += prod(source[k] for source, k in zip(sources, drawn, strict=True))
    return out


def run_likelihood(findings: list[Finding], state: int) -> float:
    rho = findings[0].repeatability
    chances = [f.likelihood[state] for f in findings]
    independent = prod(chances)
    if len(findings) == 1:
        return independent
    same = len({f.answer for f in findings}) == 1
    return (
        rho * sum(chances) / len(chances) + (1 - rho) * independent
        if same
        else (1 - rho) * independent
    )


def likelihood(machine: MachineType, path: list[frozenset[str]], evidence: Evidence) -> float:
    """P(findings | the fault sets of the epochs), effect by effect; states are drawn anew where a
    touching fault went."""
    total = 1.0
    for effect in sorted({f.effect for f in evidence.findings}):
        stretches: list[list[int]] = [[0]]
        for epoch in range(1, len(path)):
            lost = path[epoch - 1] - path[epoch]
            if any(effect in machine.faults[f].effects for f in lost):
                stretches.append([])
            stretches[-1].append(epoch)
        for stretch in stretches:
            own = [f for f in evidence.findings if f.effect == effect and f.epoch in stretch]
            if not own:
                continue
            states = state_chances(machine, path[stretch[0]], effect)
            summed = 0.0
            for k, p in enumerate(states):
                for source in sorted({f.source for f in own}):
                    heard = [f for f in own if f.source == source]
                    since = [
                        f.epoch if f.unchanged_since is None else f.unchanged_since for f in heard
                    ]
                    for epoch in sorted(set(since)):
                        same = [f for f, s in zip(heard, since, strict=True) if s == epoch]
                        p *= run_likelihood(same, k)
                summed += p
            total *= summed
    return total


def posterior(
    machine: MachineType, age: float, engine: EngineTable, evidence: Evidence
) -> tuple[dict[str, float], dict[str, float]]:
    """Return P(fault at the call) and P(fault now) for each fault."""
    was = dict.fromkeys(machine.faults, 0.0)
    now = dict.fromkeys(machine.faults, 0.0)
    total = 0.0
    removals = sorted(evidence.removals, key=lambda r: r.after_epoch)
    for faults in fault_sets(machine):
        for worked in product((True, False), repeat=len(removals)):
            chance, path, here = 1.0, [faults], faults
            for removal, success in zip(removals, worked, strict=True):
                chance *= removal.success if success else 1 - removal.success
                here = here - removal.faults if success else here
                path.append(here)
            joint = (
                chance
                * prior_weight(machine, faults, age, engine)
                * likelihood(machine, path, evidence)
            )
            total += joint
            for name in faults:
                was[name] += joint
            for name in here:
                now[name] += joint
    return {k: v / total for k, v in was.items()}, {k: v / total for k, v in now.items()}
