"""Effects and faults of one machine type, their chances read and their weights made into rates."""

from collections.abc import Mapping

from bottega.core.library.chances import chance, over_states, placed
from bottega.core.library.doubt import Doubts, grade_of, least_sure
from bottega.core.library.errors import misfit
from bottega.core.library.machine_type import Effect, Fault, Stated
from bottega.core.library.recipe import RecipeFile, RigRecipe
from bottega.core.library.records import AssemblyFile, FaultRecord, GradedWeight, Weight
from bottega.core.library.tables import Tables

PER_MACHINE_YEARS = 10_000
"""Machine-years a weight of the library is counted in."""

MANNER = "manner"
"""The effect that says how a fault shows itself, every time or now and then; it follows from what
a fault's ``shows`` is."""
RUNS_REMEMBERED = 3
"""Runs a customer has in mind who says that it happens every time; chosen."""

Records = dict[str, tuple[AssemblyFile, FaultRecord]]
"""Faults of a machine by id, each with the assembly it is written in."""


def records_of(assemblies: list[AssemblyFile]) -> Records:
    """Return the faults of some assemblies as written."""
    return {
        name: (assembly, record)
        for assembly in assemblies
        for name, record in assembly.faults.items()
    }


def effects_of(
    assemblies: list[AssemblyFile],
    records: Records,
    tables: Tables,
    recipes: Mapping[str, RecipeFile],
) -> dict[str, Effect]:
    """Return the effects some fault of this machine touches; the others would never be anything but
    background. Raises LibraryError."""
    touched = {effect for _, record in records.values() for effect in record.effects}
    if any(record.shows < 1 for _, record in records.values()):
        touched.add(MANNER)
    return {
        name: _effect(assembly, name, tables, _recipe(recipes, assembly, name))
        for assembly in assemblies
        for name in assembly.effects
        if name in touched
    }


def faults_of(
    records: Records,
    effects: dict[str, Effect],
    scale: dict[str, Weight],
    known_effects: set[str],
    *,
    tables: Tables,
) -> dict[str, Fault]:
    """Return the faults with their effects and causes; ``scale`` are weights that stand for those
    of the assembly. Raises LibraryError for an effect no assembly knows or a chance that cannot be
    read."""
    return {
        name: _fault(
            _stated(
                assembly,
                name,
                record,
                scale,
                effects=effects,
                known_effects=known_effects,
                tables=tables,
            ),
            _causes(assembly, name, record, records, tables=tables),
            name,
            record,
            effects=effects,
            doubts=tables.doubts,
        )
        for name, (assembly, record) in records.items()
    }


def _fault(
    stated: Stated,
    causes: dict[str, float],
    name: str,
    record: FaultRecord,
    *,
    effects: dict[str, Effect],
    doubts: Doubts,
) -> Fault:
    """Return the fault as it is believed: what is stated of it with its doubt, and how it shows
    itself where it comes and goes."""
    believed = {
        effect: doubts.of_chances(chances, stated.grades[effect])
        for effect, chances in stated.effects.items()
    }
    if record.shows < 1 and MANNER in effects:
        every_time = record.shows**RUNS_REMEMBERED
        believed[MANNER] = (every_time, 1 - every_time)
    return Fault(
        name,
        record.component,
        record.name,
        doubts.of_rate(stated.rate, stated.grade),
        record.ageing,
        believed,
        causes,
        record.severity,
        record.ask_why,
        stated,
        record.shows,
        _steady(record, effects),
        record.unseen,
    )


def _recipe(
    recipes: Mapping[str, RecipeFile], assembly: AssemblyFile, effect: str
) -> RigRecipe | None:
    file = recipes.get(assembly.assembly)
    return None if file is None else file.effects.get(effect)


def _effect(assembly: AssemblyFile, name: str, tables: Tables, recipe: RigRecipe | None) -> Effect:
    record = assembly.effects[name]
    background = placed(
        assembly.assembly,
        f"effects.{name}.background",
        over_states,
        record.background,
        record.states,
        tables.words,
    )
    return Effect(
        name,
        record.name,
        record.states,
        background,
        record.keep_off,
        record.is_fault,
        recipe,
    )


def _stated(
    assembly: AssemblyFile,
    name: str,
    record: FaultRecord,
    scale: dict[str, Weight],
    *,
    effects: dict[str, Effect],
    known_effects: set[str],
    tables: Tables,
) -> Stated:
    touched, grades = {}, {}
    for effect, spec in record.effects.items():
        key = f"faults.{name}.effects.{effect}"
        if effect in effects:
            states = effects[effect].states
            touched[effect] = placed(
                assembly.assembly, key, over_states, spec, states, tables.words
            )
            grades[effect] = least_sure(spec.values() if isinstance(spec, dict) else ())
        elif effect not in known_effects:
            raise misfit(assembly.assembly, key, effect, "the id of an effect of some assembly")
    weight = scale.get(name, record.weight)
    number = weight.value if isinstance(weight, GradedWeight) else weight
    return Stated(number / PER_MACHINE_YEARS, grade_of(weight), touched, grades)


def _steady(record: FaultRecord, effects: dict[str, Effect]) -> tuple[str, ...]:
    named = [effect for effect in record.steady if effect in effects]
    return tuple([*named, MANNER] if record.shows < 1 else named)


def _causes(
    assembly: AssemblyFile, name: str, record: FaultRecord, records: Records, *, tables: Tables
) -> dict[str, float]:
    return {
        target: placed(
            assembly.assembly,
            f"faults.{name}.causes.{target}",
            chance,
            value,
            tables.words,
        )
        for target, value in record.causes.items()
        if target in records
    }
