"""What a technician expects to be able to ask of a thing, by its kind: the checks a kind brings by
itself, and what is still missing of a machine."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from bottega.core.library.errors import misfit, one_of
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import (
    AssemblyFile,
    CheckRecord,
    Component,
    EffectRecord,
    HowDone,
    OutcomeRecord,
)
from bottega.core.library.tables import Demand, KindTable

ENDS = {"first": 0, "last": -1}
"""Words of a pattern for the normal and the worst state of an effect, whatever these are called."""
OUT_OF_IT = 0.6
"""Of the minutes of a part's change that taking it out takes; chosen."""
LOOKED_AT = 2.0
"""Minutes of looking at a part on the bench; chosen."""


NEVER_FED = "never fed by itself: measured instead"
"""Why a part that may not be fed from a lead is not asked how it does so."""


@dataclass(frozen=True)
class KindGap:
    """What a machine's component lacks of its kind: the component, what is asked for, in words."""

    component: str
    demand: str
    says: str


def with_kinds(
    assembly: AssemblyFile, kinds: KindTable, effects: Mapping[str, EffectRecord]
) -> AssemblyFile:
    """Return an assembly with the checks its components' kinds bring. A check that is written wins.
    Raises LibraryError for a kind, demand or effect nobody knows."""
    made: dict[str, CheckRecord] = {}
    for name, component in assembly.components.items():
        for demand_id, demand in _demands(assembly.assembly, name, component, kinds).items():
            effect = component.reads.get(demand_id)
            if effect is None or demand.check is None or _asked(assembly, name, demand_id):
                continue
            if demand.feeds and not component.may_be_fed:
                continue
            key = f"components.{name}.reads.{demand_id}"
            if effect not in effects:
                raise misfit(assembly.assembly, key, effect, "the id of an effect")
            made[f"{name}_{demand_id}"] = _check(
                assembly.assembly,
                key,
                name,
                component,
                demand=demand,
                effect=effect,
                record=effects[effect],
            )
    return assembly.model_copy(update={"checks": {**made, **assembly.checks}})


def missing_of(machine: MachineType, kinds: KindTable) -> Iterator[KindGap]:
    """Yield what a component lacks of what its kinds demand, and has no reason in the data for."""
    for name, demand, excuse in _demanded(machine, kinds):
        if excuse is None and not _met(machine, name, demand):
            yield KindGap(name, demand.id, demand.says)


def excuses_of(machine: MachineType, kinds: KindTable) -> list[tuple[str, str, str]]:
    """Return what is excused on a machine: component, what its kind demands, the reason."""
    demanded = _demanded(machine, kinds)
    return [(name, demand.says, excuse) for name, demand, excuse in demanded if excuse is not None]


def _demanded(machine: MachineType, kinds: KindTable) -> Iterator[tuple[str, Demand, str | None]]:
    """Yield every component with what its kinds demand, and the reason that excuses it."""
    for name, component in machine.components.items():
        excused = {**component.excused, **machine.excused.get(name, {})}
        for kind in component.kind:
            for demand_id, demand in kinds.kinds[kind].demands.items():
                never = NEVER_FED if demand.feeds and not component.may_be_fed else None
                yield name, demand, excused.get(demand_id, never)


def _demands(where: str, name: str, component: Component, kinds: KindTable) -> dict[str, Demand]:
    demands: dict[str, Demand] = {}
    for kind in component.kind:
        if kind not in kinds.kinds:
            raise misfit(where, f"components.{name}.kind", kind, one_of(kinds.kinds))
        demands.update(kinds.kinds[kind].demands)
    for section, named in (("reads", component.reads), ("excused", component.excused)):
        for demand in named:
            if demand not in demands:
                raise misfit(where, f"components.{name}.{section}", demand, one_of(demands))
    return demands


def _asked(assembly: AssemblyFile, component: str, demand: str) -> bool:
    return any(demand in check.asks.get(component, ()) for check in assembly.checks.values())


def _check(
    where: str,
    key: str,
    name: str,
    component: Component,
    *,
    demand: Demand,
    effect: str,
    record: EffectRecord,
) -> CheckRecord:
    """Return the check a demand's pattern makes for a component."""
    pattern = demand.check
    assert pattern is not None
    words = {"name": component.name, "Name": component.name[0].upper() + component.name[1:]}
    outcomes = {}
    for outcome, label in pattern.outcomes.items():
        state = record.states[ENDS[outcome]] if outcome in ENDS else outcome
        if state not in record.states:
            raise misfit(where, key, effect, f"an effect with the state '{state}'")
        outcomes[state] = OutcomeRecord(label=label.format(**words), state=state)
    measure = pattern.measure
    if measure is not None:
        bands = {
            band: record.states[ENDS[state]] if state in ENDS else state
            for band, state in measure.bands.items()
        }
        terminals = measure.terminals.format(**words)
        measure = measure.model_copy(update={"bands": bands, "terminals": terminals})
    minutes = pattern.minutes
    if demand.in_hand and component.part is not None:
        minutes = component.part.minutes * OUT_OF_IT + LOOKED_AT
    as_written = {key: getattr(pattern, key) for key in HowDone.model_fields}
    own = {
        "minutes": minutes,
        "steps": tuple(step.format(**words) for step in pattern.steps),
        "why": pattern.why.format(**words) if pattern.why else None,
        "measure": measure,
    }
    return CheckRecord(
        name=pattern.name.format(**words),
        reads=effect,
        component=pattern.component or name,
        at=name if pattern.where == "part" else None,
        plug=name if pattern.where == "plug" else None,
        outcomes=outcomes,
        asks={name: (demand.id,)},
        **{**as_written, **own},
    )


def _met(machine: MachineType, component: str, demand: Demand) -> bool:
    """Return whether a demand of a component is met by a check, a service step or a mark."""
    own = {
        effect
        for fault in machine.faults.values()
        if fault.component == component
        for effect in fault.effects
    }
    if demand.by == "service":
        answered = [machine.checks[step.answers] for step in machine.service.values()]
        return any(check.effect in own for check in answered)
    if demand.by == "mark":
        return any(mark.record.at == component for mark in machine.marks.values())
    if demand.by is not None:
        check = machine.checks.get(demand.by)
        return check is not None and check.effect in own
    return any(_answers(check, component, demand.id) for check in machine.checks.values())


def _answers(check: Check, component: str, demand: str) -> bool:
    return demand in dict(check.asks).get(component, ())
