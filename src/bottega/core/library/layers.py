"""Lay assemblies, archetype and sheet over each other into one machine type with every default
filled in."""

import hashlib
from collections.abc import Iterable
from difflib import get_close_matches

from bottega.core.library.chances import ChanceError, chance, outcome_table, over_states
from bottega.core.library.errors import LibraryError, misfit
from bottega.core.library.machine_type import (
    Check,
    Effect,
    Fault,
    MachineType,
    Outcome,
    RepairOption,
)
from bottega.core.library.records import (
    ArchetypeFile,
    AssemblyFile,
    CheckRecord,
    Component,
    FaultRecord,
    Needs,
    Omit,
    Part,
    Plate,
    Repair,
    ServiceStep,
    SheetFile,
    Window,
)
from bottega.core.library.signs import codes_of, complaints_of, marks_of, unreadable_of
from bottega.core.library.tables import Tables

PER_MACHINE_YEARS = 10_000
"""Machine-years a weight of the library is counted in."""


class Layering:
    """Joins the layers of one machine type; names the file and key of whatever does not fit."""

    def __init__(self, tables: Tables, known_effects: set[str]) -> None:
        self._tables = tables
        self._known_effects = known_effects

    def join(
        self, archetype: ArchetypeFile, assemblies: list[AssemblyFile], sheet: SheetFile | None
    ) -> MachineType:
        """Return the machine type. Raises LibraryError for the first thing that does not fit."""
        for assembly in assemblies:
            self._known_reads(assembly)
        assemblies = [trimmed(assembly, archetype.omit) for assembly in assemblies]
        components = _components(archetype, assemblies)
        fault_records = {
            name: (assembly, record)
            for assembly in assemblies
            for name, record in assembly.faults.items()
        }
        effects = self._effects(
            assemblies, {e for _, record in fault_records.values() for e in record.effects}
        )
        parts = _parts(components, sheet)
        scale = {**archetype.weights, **(sheet.weights if sheet else {})}
        faults = {
            name: self._fault(assembly, name, record, effects, scale.get(name), set(fault_records))
            for name, (assembly, record) in fault_records.items()
        }
        checks = {
            name: self._check(assembly, name, record, effects, components)
            for assembly in assemblies
            for name, record in assembly.checks.items()
            if record.reads in effects
        }
        complaints, marks = {}, {}
        for assembly in assemblies:
            complaints.update(complaints_of(assembly, effects, self._tables))
            marks.update(marks_of(assembly, effects, components, self._tables))
        operations = {
            name: op for assembly in assemblies for name, op in assembly.operations.items()
        }
        operations = {**operations, **archetype.operations, **(sheet.operations if sheet else {})}
        repairs = _repairs((n, r) for n, (_, r) in fault_records.items())
        values = {**archetype.values, **(sheet.values if sheet else {})}
        self._units(checks, values, sheet.sheet if sheet else archetype.archetype)
        return MachineType(
            archetype=archetype.archetype,
            sheet=sheet.sheet if sheet else None,
            name=sheet.model if sheet else archetype.name,
            maker=sheet.maker if sheet else None,
            about=archetype.name,
            revision=_revision(archetype, assemblies, sheet),
            drawing=archetype.drawing,
            no_fault_rate=archetype.no_fault_weight / PER_MACHINE_YEARS,
            new_price_eur=archetype.new_price_eur,
            life_years=archetype.life_years,
            plate=sheet.plate if sheet else Plate(),
            panel=sheet.panel if sheet else None,
            charge=archetype.charge,
            paper=sheet.paper if sheet else None,
            notes=sheet.notes if sheet else (),
            components=components,
            parts=parts,
            part_numbers=dict(sheet.parts) if sheet else {},
            effects=effects,
            faults=faults,
            repairs=self._priced(repairs, components, parts),
            checks=checks,
            complaints=complaints,
            marks=marks,
            codes=codes_of(sheet, effects, self._tables) if sheet else {},
            unreadable=unreadable_of(sheet, effects, self._tables) if sheet else None,
            operations={
                name: op for name, op in operations.items() if name not in archetype.omit.operations
            },
            service=self._service(assemblies, sheet, checks) if "board" in components else {},
            calibration=sheet.calibration if sheet else (),
            values=values,
            places={name: place for name, place in archetype.places.items() if name in components},
            openings=archetype.openings,
        )

    def _units(self, checks: dict[str, Check], values: dict[str, Window], home: str) -> None:
        """Refuse an expected value whose unit is not that of what is measured against it."""
        for check in checks.values():
            if check.measure is None:
                continue
            unit = self._tables.quantities[check.measure.quantity].unit
            known = {f"values.{check.measure.value}": values.get(check.measure.value)}
            known[f"checks.{check.id}.measure.generic"] = check.measure.generic
            for key, window in known.items():
                if window is not None and window.unit != unit:
                    raise misfit(
                        home, f"{key}.unit", window.unit, f"{unit}, the unit of '{check.name}'"
                    )

    def _known_reads(self, assembly: AssemblyFile) -> None:
        for kind, reads in (
            ("checks", {name: record.reads for name, record in assembly.checks.items()}),
            ("complaints", {name: record.reads for name, record in assembly.complaints.items()}),
            ("marks", {name: record.reads for name, record in assembly.marks.items()}),
        ):
            for name, effect in reads.items():
                if effect not in self._known_effects:
                    near = get_close_matches(effect, self._known_effects, n=1)
                    expected = "the id of an effect" + (f", nearest is '{near[0]}'" if near else "")
                    raise misfit(assembly.assembly, f"{kind}.{name}.reads", effect, expected)

    def _effects(self, assemblies: list[AssemblyFile], touched: set[str]) -> dict[str, Effect]:
        """Return the effects some fault of this machine touches; the others would never be anything
        but background."""
        return {
            name: self._effect(assembly, name)
            for assembly in assemblies
            for name in assembly.effects
            if name in touched
        }

    def _effect(self, assembly: AssemblyFile, name: str) -> Effect:
        record = assembly.effects[name]
        background = self._distribution(
            assembly.assembly, f"effects.{name}.background", record.background, record.states
        )
        return Effect(name, record.name, record.states, background)

    def _fault(
        self,
        assembly: AssemblyFile,
        name: str,
        record: FaultRecord,
        effects: dict[str, Effect],
        weight: float | None,
        known: set[str],
    ) -> Fault:
        touched = {}
        for effect, spec in record.effects.items():
            key = f"faults.{name}.effects.{effect}"
            if effect in effects:
                touched[effect] = self._distribution(
                    assembly.assembly, key, spec, effects[effect].states
                )
            elif effect not in self._known_effects:
                raise misfit(assembly.assembly, key, effect, "the id of an effect of some assembly")
        causes = {
            target: self._chance(assembly.assembly, f"faults.{name}.causes.{target}", value)
            for target, value in record.causes.items()
            if target in known
        }
        rate = (record.weight if weight is None else weight) / PER_MACHINE_YEARS
        return Fault(
            name,
            record.component,
            record.name,
            rate,
            record.ageing,
            touched,
            causes,
            record.severity,
            record.ask_why,
        )

    def _check(
        self,
        assembly: AssemblyFile,
        name: str,
        record: CheckRecord,
        effects: dict[str, Effect],
        components: dict[str, Component],
    ) -> Check:
        where, key = assembly.assembly, f"checks.{name}"
        component = record.component or record.at
        if component is None or component not in components:
            raise misfit(where, key, str(component), "component or at: the id of a component")
        if record.tool not in self._tables.tools:
            raise misfit(
                where, f"{key}.tool", record.tool, "one of " + ", ".join(self._tables.tools)
            )
        tool = self._tables.tools[record.tool]
        reach = components[record.at].reach if record.at else Needs()
        return Check(
            id=name,
            name=record.name,
            effect=record.reads,
            component=component,
            outcomes=self._outcomes(where, key, record, effects[record.reads]),
            repeatability=record.repeatability,
            needs=both(reach, record.needs),
            minutes=record.minutes or tool.minutes,
            tool=record.tool,
            who=record.who,
            steps=record.steps,
            caution=record.caution or tool.caution,
            why=record.why,
            measure=record.measure,
        )

    def _outcomes(
        self, where: str, key: str, record: CheckRecord, effect: Effect
    ) -> tuple[Outcome, ...]:
        for name, outcome in record.outcomes.items():
            if outcome.state not in effect.states:
                expected = "one of " + ", ".join(effect.states)
                raise misfit(where, f"{key}.outcomes.{name}", outcome.state, expected)
        if record.measure:
            if record.measure.quantity not in self._tables.quantities:
                expected = "one of " + ", ".join(self._tables.quantities)
                raise misfit(where, f"{key}.measure.quantity", record.measure.quantity, expected)
            for band, name in record.measure.bands.items():
                if name not in record.outcomes:
                    expected = "one of " + ", ".join(record.outcomes)
                    raise misfit(where, f"{key}.measure.bands.{band}", name, expected)
        reported = [effect.states.index(outcome.state) for outcome in record.outcomes.values()]
        rows = outcome_table(reported, len(effect.states), record.reliability)
        if record.table is not None:
            rows = self._written_table(where, key, record, effect)
        return tuple(
            Outcome(name, outcome.label, row)
            for (name, outcome), row in zip(record.outcomes.items(), rows, strict=True)
        )

    def _written_table(
        self, where: str, key: str, record: CheckRecord, effect: Effect
    ) -> list[tuple[float, ...]]:
        assert record.table is not None
        names = tuple(record.outcomes)
        columns = []
        for state in effect.states:
            if state not in record.table:
                raise misfit(
                    where,
                    f"{key}.table",
                    "no row for " + state,
                    "a row for every state of the effect",
                )
            columns.append(
                self._distribution(where, f"{key}.table.{state}", record.table[state], names)
            )
        return [tuple(column[o] for column in columns) for o in range(len(names))]

    def _service(
        self, assemblies: list[AssemblyFile], sheet: SheetFile | None, checks: dict[str, Check]
    ) -> dict[str, ServiceStep]:
        """Return the service steps, those the sheet names in its order and with its pass bands."""
        known = {
            name: step
            for assembly in assemblies
            for name, step in assembly.service.items()
            if step.answers in checks
        }
        if sheet is None:
            return known
        for name in (*sheet.service, *sheet.bands):
            if name not in known:
                raise misfit(sheet.sheet, "service", name, "one of " + ", ".join(known))
        bands = {
            name: {"low": w.low, "high": w.high, "unit": w.unit} for name, w in sheet.bands.items()
        }
        return {
            name: known[name].model_copy(update=bands.get(name, {}))
            for name in sheet.service or known
        }

    def _priced(
        self,
        repairs: dict[str, tuple[str, Repair, list[str]]],
        components: dict[str, Component],
        parts: dict[str, Part],
    ) -> dict[str, RepairOption]:
        options = {}
        for repair_id, (component, repair, covered) in repairs.items():
            part = parts.get(component)
            minutes, price, name, success = (
                repair.minutes,
                repair.price_eur,
                repair.name,
                repair.success,
            )
            if repair.do == "part":
                if part is None:
                    raise misfit(
                        "assemblies",
                        f"components.{component}.part",
                        "no part",
                        "a part, since a fault wants it",
                    )
                minutes, price = minutes or part.minutes, part.price_eur
                name, success = name or f"Fit a new {part.name}", success or part.success
            options[repair_id] = RepairOption(
                id=repair_id,
                do=repair.do,
                name=name or f"{repair.do} {components[component].name}",
                component=component,
                minutes=minutes or 10,
                price_eur=price,
                covers=tuple((fault, success or 0.9) for fault in covered),
                needs=components[component].reach,
            )
        return options

    def _distribution(
        self,
        where: str,
        key: str,
        spec: dict[str, float | str] | str | float,
        states: tuple[str, ...],
    ) -> tuple[float, ...]:
        try:
            return over_states(spec, states, self._tables.words)
        except ChanceError as error:
            raise LibraryError.of_chance(where, key, error) from error

    def _chance(self, where: str, key: str, value: float | str) -> float:
        try:
            return chance(value, self._tables.words)
        except ChanceError as error:
            raise LibraryError.of_chance(where, key, error) from error


def trimmed(assembly: AssemblyFile, omit: Omit) -> AssemblyFile:
    """Return an assembly without what the archetype leaves out."""
    gone = set(omit.components)
    components = {n: c for n, c in assembly.components.items() if n not in gone}
    faults = {
        n: f for n, f in assembly.faults.items() if f.component not in gone and n not in omit.faults
    }
    checks = {
        n: c
        for n, c in assembly.checks.items()
        if not {c.component, c.at} & gone and n not in omit.checks
    }
    operations = {n: o for n, o in assembly.operations.items() if n not in omit.operations}
    update = {
        "components": components,
        "faults": faults,
        "checks": checks,
        "operations": operations,
    }
    return assembly.model_copy(update=update)


def _components(archetype: ArchetypeFile, assemblies: list[AssemblyFile]) -> dict[str, Component]:
    """Return the components with this archetype's way of reaching them, connected to each other
    only."""
    found = {name: part for assembly in assemblies for name, part in assembly.components.items()}
    return {
        name: part.model_copy(
            update={
                "reach": archetype.reach.get(name, part.reach),
                "connects": tuple(other for other in part.connects if other in found),
            }
        )
        for name, part in found.items()
    }


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


def _parts(components: dict[str, Component], sheet: SheetFile | None) -> dict[str, Part]:
    parts = {name: component.part for name, component in components.items() if component.part}
    for name, numbers in (sheet.parts if sheet else {}).items():
        if name in parts:
            parts[name] = parts[name].model_copy(update={"price_eur": numbers[-1].price_eur})
    return parts


def _repairs(
    records: Iterable[tuple[str, FaultRecord]],
) -> dict[str, tuple[str, Repair, list[str]]]:
    """Gather repairs: the part of a component ends every fault of it that lists ``part``; other
    work is per fault."""
    gathered: dict[str, tuple[str, Repair, list[str]]] = {}
    for fault, record in records:
        for repair in record.repairs:
            component = repair.of or record.component
            repair_id = f"{component}.part" if repair.do == "part" else f"{fault}.{repair.do}"
            gathered.setdefault(repair_id, (component, repair, []))[2].append(fault)
    return gathered


def _revision(
    archetype: ArchetypeFile, assemblies: list[AssemblyFile], sheet: SheetFile | None
) -> str:
    digest = hashlib.sha256(archetype.model_dump_json().encode())
    for record in [*assemblies, *([sheet] if sheet else [])]:
        digest.update(record.model_dump_json().encode())
    return digest.hexdigest()[:12]
