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


def state_chances(
    machine: MachineType, faults: frozenset[str], effect: str, idle: frozenset[str] = frozenset()
) -> list[float]:
    """Noisy-MAX by enumeration: every cause and the background draws a state, the worst one
    shows. Of the ``idle`` faults only what is steady is there."""
    sources = [machine.effects[effect].background]
    sources += [
        machine.faults[f].effects[effect]
        for f in faults
        if effect in machine.faults[f].effects
        and (f not in idle or effect in machine.faults[f].steady)
    ]
    out = [0.0] * len(machine.effects[effect].states)
    for drawn in product(*(range(len(s)) for s in sources)):
        out[max(drawn)] += prod(source[k] for source, k in zip(sources, drawn, strict=True))
    return out


def comes(machine: MachineType, faults: frozenset[str], effect: str) -> bool:
    """Whether the effect comes and goes with one of these faults."""
    return any(
        machine.faults[f].shows < 1
        and effect in machine.faults[f].effects
        and effect not in machine.faults[f].steady
        for f in faults
    )


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


def found_given(own: list[Finding], state: int) -> float:
    """P(these findings of one effect | state); a source under the same conditions repeats."""
    p = 1.0
    for source in sorted({f.source for f in own}):
        heard = [f for f in own if f.source == source]
        since = [f.conditions for f in heard]
        for epoch in sorted(set(since)):
            same = [f for f, s in zip(heard, since, strict=True) if s == epoch]
            p *= run_likelihood(same, state)
    return p


def likelihood(machine: MachineType, path: list[frozenset[str]], evidence: Evidence) -> float:
    """P(findings | the fault sets of the epochs): effects that come and go occasion by occasion,
    the others with one state until a touching fault went."""
    total = 1.0
    for effect in sorted({f.effect for f in evidence.findings}):
        if comes(machine, path[0], effect):
            continue
        stretches: list[list[int]] = [[0]]
        for epoch in range(1, len(path)):
            lost = path[epoch - 1] - path[epoch]
            if any(effect in machine.faults[f].effects for f in lost):
                stretches.append([])
            stretches[-1].append(epoch)
        for stretch in stretches:
            own = [f for f in evidence.findings if f.effect == effect and f.epoch in stretch]
            if own:
                states = state_chances(machine, path[stretch[0]], effect)
                total *= sum(p * found_given(own, k) for k, p in enumerate(states))
    for epoch, faults in enumerate(path):
        now = [f for f in evidence.findings if f.epoch == epoch]
        for occasion in {f.occasion for f in now}:
            here = [f for f in now if f.occasion == occasion and comes(machine, path[0], f.effect)]
            total *= on_occasion(machine, faults, here)
    return total


def on_occasion(machine: MachineType, faults: frozenset[str], found: list[Finding]) -> float:
    """P(findings of one occasion | faults), over everything that may act on it."""
    if not found:
        return 1.0
    occasion, names = found[0].occasion, sorted(faults)
    provoked = dict(occasion.provokes)
    total = 0.0
    for acts in product((True, False), repeat=len(names)):
        chance = 1.0
        for name, acting in zip(names, acts, strict=True):
            shows = machine.faults[name].shows
            shows = 1.0 if occasion.many or shows == 1 else max(shows, provoked.get(name, 0))
            chance *= shows if acting else 1 - shows
        idle = frozenset(name for name, acting in zip(names, acts, strict=True) if not acting)
        for effect in sorted({f.effect for f in found}):
            own = [f for f in found if f.effect == effect]
            states = state_chances(machine, faults, effect, idle)
            chance *= sum(p * found_given(own, k) for k, p in enumerate(states))
        total += chance
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
