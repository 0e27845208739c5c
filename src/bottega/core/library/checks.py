"""Checks of one machine type: what each reads, how well, where, with what, and in which unit."""

from collections.abc import Collection
from difflib import get_close_matches

from bottega.core.library.chances import chance, outcome_table, over_states, placed
from bottega.core.library.errors import misfit, one_of
from bottega.core.library.machine_type import Check, Effect, Outcome
from bottega.core.library.recipe import RecipeFile, RigRecipe
from bottega.core.library.records import (
    AssemblyFile,
    Chances,
    CheckRecord,
    Component,
    CurveRecord,
    Needs,
    Window,
)
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import INCONCLUSIVE, Act


def checks_of(
    assembly: AssemblyFile,
    effects: dict[str, Effect],
    components: dict[str, Component],
    faults: Collection[str],
    *,
    tables: Tables,
    recipes: RecipeFile | None = None,
) -> dict[str, Check]:
    """Return the checks of an assembly that read an effect this machine has, each with its recipe
    for a machine of physics. Raises LibraryError."""
    return {
        name: _check(
            assembly.assembly,
            name,
            record,
            effects,
            components=components,
            faults=faults,
            tables=tables,
            recipe=recipes.checks.get(name) if recipes is not None else None,
        )
        for name, record in assembly.checks.items()
        if record.reads in effects
    }


def refuse_unknown_reads(assembly: AssemblyFile, known_effects: set[str]) -> None:
    """Raise LibraryError when something of an assembly reads an effect no assembly has."""
    for kind, reads in (
        ("checks", {name: record.reads for name, record in assembly.checks.items()}),
        ("complaints", {name: record.reads for name, record in assembly.complaints.items()}),
        ("marks", {name: record.reads for name, record in assembly.marks.items()}),
    ):
        for name, effect in reads.items():
            if effect not in known_effects:
                near = get_close_matches(effect, known_effects, n=1)
                expected = "the id of an effect" + (f", nearest is '{near[0]}'" if near else "")
                raise misfit(assembly.assembly, f"{kind}.{name}.reads", effect, expected)


def refuse_other_units(
    checks: dict[str, Check],
    values: dict[str, Window],
    curves: dict[str, CurveRecord],
    home: str,
    *,
    tables: Tables,
) -> None:
    """Raise LibraryError for an expected value whose unit is not that of what is measured against
    it."""
    for check in checks.values():
        if check.measure is None:
            continue
        unit = tables.quantities[check.measure.quantity].unit
        name = check.measure.value
        known: dict[str, Window | CurveRecord | None] = {f"values.{name}": values.get(name)}
        known[f"curves.{name}"] = curves.get(name)
        known[f"checks.{check.id}.measure.generic"] = check.measure.generic
        for key, window in known.items():
            if window is not None and window.unit != unit:
                expected = f"{unit}, the unit of '{check.name}'"
                raise misfit(home, f"{key}.unit", window.unit, expected)


def both(first: Needs, second: Needs) -> Needs:
    """Return needs that ask for what either asks for; where they differ the second wins."""
    merged = {name: value for name, value in first.model_dump().items() if value is not None}
    merged.update(
        {
            name: value
            for name, value in second.model_dump().items()
            if value is not None and name != "off"
        }
    )
    merged["off"] = tuple(dict.fromkeys((*first.off, *second.off)))
    if merged.get("power") == "on":
        merged.pop("charge", None)
    return Needs(**merged)


def _check(
    where: str,
    name: str,
    record: CheckRecord,
    effects: dict[str, Effect],
    *,
    components: dict[str, Component],
    faults: Collection[str],
    tables: Tables,
    recipe: RigRecipe | None,
) -> Check:
    key, component = f"checks.{name}", record.component or record.at or record.plug
    if component is None or component not in components:
        raise misfit(where, key, str(component), "component or at: the id of a component")
    if record.tool not in tables.tools:
        raise misfit(where, f"{key}.tool", record.tool, one_of(tables.tools))
    tool = tables.tools[record.tool]
    reach = components[record.at].reach if record.at else Needs()
    if record.plug:
        reach = plug_of(components[record.plug])
    return Check(
        id=name,
        name=record.name,
        effect=record.reads,
        component=component,
        outcomes=_outcomes(where, key, record, effects[record.reads], tables=tables),
        repeatability=record.repeatability,
        needs=both(reach, record.needs),
        minutes=record.minutes or tool.minutes,
        tool=record.tool,
        who=record.who,
        acts=_acts(record, both(reach, record.needs)),
        steps=record.steps,
        caution=record.caution or tool.caution,
        why=record.why,
        measure=record.measure,
        provokes=_provokes(where, key, record, faults, tables=tables),
        asks=tuple(record.asks.items()),
        card=record.card,
        watches=record.watches,
        on_rig=_laid_over(where, name, recipe, effects[record.reads]),
    )


def _acts(record: CheckRecord, needs: Needs) -> tuple[Act, ...]:
    """Return what a check does to the machine: as it says, else a run where it is plugged in for
    it."""
    if record.acts is not None:
        return record.acts
    return ("run",) if needs.power == "on" else ()


def _laid_over(where: str, name: str, own: RigRecipe | None, effect: Effect) -> RigRecipe | None:
    """Return how a check is done on a machine of physics: its own way over that of its effect."""
    recipe = own.over(effect.on_rig) if own is not None else effect.on_rig
    for state in recipe.cases if recipe is not None else ():
        if state not in effect.states:
            file, key = f"on_rig/{where}", f"checks.{name}.cases.{state}"
            raise misfit(file, key, state, one_of(effect.states))
    return recipe


def plug_of(component: Component) -> Needs:
    """Return what has to be off to come at a component's plug."""
    return component.plug or Needs(off=component.reach.off)


def _provokes(
    where: str, key: str, record: CheckRecord, faults: Collection[str], *, tables: Tables
) -> tuple[tuple[str, float], ...]:
    return tuple(
        (fault, placed(where, f"{key}.provokes.{fault}", chance, value, tables.words))
        for fault, value in record.provokes.items()
        if fault in faults
    )


def _outcomes(
    where: str, key: str, record: CheckRecord, effect: Effect, *, tables: Tables
) -> tuple[Outcome, ...]:
    for name, outcome in record.outcomes.items():
        if outcome.state not in effect.states:
            raise misfit(where, f"{key}.outcomes.{name}", outcome.state, one_of(effect.states))
    if record.measure:
        quantity = record.measure.quantity
        if quantity not in tables.quantities:
            raise misfit(where, f"{key}.measure.quantity", quantity, one_of(tables.quantities))
        for band, name in record.measure.bands.items():
            if name not in (*record.outcomes, INCONCLUSIVE):
                expected = one_of((*record.outcomes, INCONCLUSIVE))
                raise misfit(where, f"{key}.measure.bands.{band}", name, expected)
    if record.table is None:
        reported = [effect.states.index(outcome.state) for outcome in record.outcomes.values()]
        rows = outcome_table(reported, len(effect.states), record.reliability)
    else:
        rows = _written_table(
            where, key, record.table, tuple(record.outcomes), effect=effect, tables=tables
        )
    return tuple(
        Outcome(name, outcome.label, row)
        for (name, outcome), row in zip(record.outcomes.items(), rows, strict=True)
    )


def _written_table(
    where: str,
    key: str,
    table: dict[str, Chances],
    names: tuple[str, ...],
    *,
    effect: Effect,
    tables: Tables,
) -> list[tuple[float, ...]]:
    columns = []
    for state in effect.states:
        if state not in table:
            expected = "a row for every state of the effect"
            raise misfit(where, f"{key}.table", "no row for " + state, expected)
        row = table[state]
        columns.append(placed(where, f"{key}.table.{state}", over_states, row, names, tables.words))
    return [tuple(column[o] for column in columns) for o in range(len(names))]
