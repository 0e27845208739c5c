"""Lay assemblies, archetype and sheet over each other into one machine type with every default
filled in."""

import hashlib
from collections.abc import Mapping
from dataclasses import replace

from bottega.core.library.archetype import ArchetypeFile
from bottega.core.library.checks import checks_of, refuse_other_units, refuse_unknown_reads
from bottega.core.library.errors import LibraryError, misfit, one_of
from bottega.core.library.faults import PER_MACHINE_YEARS, effects_of, faults_of, records_of
from bottega.core.library.machine_type import Calibration, Check, Code, Effect, MachineType
from bottega.core.library.recipe import RecipeFile
from bottega.core.library.records import (
    AssemblyFile,
    Component,
    ConnectorRecord,
    Omit,
    OperationRecord,
    ServiceStep,
)
from bottega.core.library.repairs import parts_of, repairs_of
from bottega.core.library.seen import explained, makers_of, sure_checks, sure_effects, sure_faults
from bottega.core.library.sheet import Plate, SheetFile
from bottega.core.library.signs import (
    calibration_of,
    codes_of,
    complaints_of,
    marks_of,
    slip_of,
    unreadable_of,
)
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import Face, Posture
from bottega.core.library.wiring_record import WayRecord, WiringFile, unfed, wiring_of


class Layering:
    """Joins the layers of one machine type; names the file and key of whatever does not fit."""

    def __init__(
        self,
        tables: Tables,
        known_effects: set[str],
        recipes: Mapping[str, RecipeFile],
        wirings: Mapping[str, WiringFile],
    ) -> None:
        self._tables = tables
        self._known_effects = known_effects
        self._recipes = recipes
        self._wirings = wirings

    def join(
        self, archetype: ArchetypeFile, assemblies: list[AssemblyFile], sheet: SheetFile | None
    ) -> MachineType:
        """Return the machine type. Raises LibraryError for the first thing that does not fit."""
        for assembly in assemblies:
            refuse_unknown_reads(assembly, self._known_effects)
        omit = both_omitted(archetype.omit, sheet.omit) if sheet else archetype.omit
        assemblies = [trimmed(assembly, omit) for assembly in assemblies]
        components = _components(archetype, assemblies)
        records = records_of(assemblies)
        effects = effects_of(assemblies, records, self._tables, self._recipes)
        parts = parts_of(components, sheet)
        scale = {**archetype.weights, **(sheet.weights if sheet else {})}
        faults = faults_of(records, effects, scale, self._known_effects, tables=self._tables)
        checks: dict[str, Check] = {}
        complaints, marks = {}, {}
        for assembly in assemblies:
            made = checks_of(
                assembly,
                effects,
                components,
                faults,
                tables=self._tables,
                recipes=self._recipes.get(assembly.assembly),
            )
            for name in made.keys() & archetype.stands.keys():
                made[name] = replace(made[name], needs=archetype.stands[name])
            checks.update(probed(made, sheet.terminals if sheet else {}))
            complaints.update(complaints_of(assembly, effects, self._tables))
            marks.update(marks_of(assembly, effects, components, self._tables))
        makers, sure = makers_of(effects, faults), self._tables.engine.seen
        checks = sure_checks(checks, effects, makers, sure)
        effects, faults = sure_effects(effects, makers, sure), sure_faults(faults, makers, sure)
        effects = explained(effects, faults, sure)
        operations = {
            name: op for assembly in assemblies for name, op in assembly.operations.items()
        }
        operations = {**operations, **archetype.operations, **(sheet.operations if sheet else {})}
        behind = operations["rear_panel"].face if "rear_panel" in operations else "rear"
        out = {part: way for assembly in assemblies for part, way in assembly.out.items()}
        out = {part: way for part, way in {**out, **archetype.out}.items() if part in components}
        values = {**archetype.values, **(sheet.values if sheet else {})}
        home = sheet.sheet if sheet else archetype.archetype
        refuse_other_units(checks, values, sheet.curves if sheet else {}, home, tables=self._tables)
        return MachineType(
            archetype=archetype.archetype,
            sheet=sheet.sheet if sheet else None,
            name=sheet.model if sheet else archetype.name,
            maker=sheet.maker if sheet else None,
            about=archetype.name,
            revision=_revision(archetype, assemblies, sheet),
            drawing=archetype.drawing,
            no_fault_rate=archetype.no_fault_weight / PER_MACHINE_YEARS / slip_of(complaints),
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
            repairs=repairs_of(records, components, parts, out),
            out=out,
            checks=checks,
            complaints=complaints,
            marks=marks,
            details={name: d for assembly in assemblies for name, d in assembly.details.items()},
            codes=codes_of(sheet.sheet, sheet.codes, effects, self._tables) if sheet else {},
            meanings=self._meanings(assemblies, effects) if "board" in components else {},
            programmes=sheet.programmes if sheet else {},
            wiring=self._wired(assemblies, components, sheet),
            variant=sheet.variant if sheet else None,
            unreadable=unreadable_of(sheet, effects, self._tables) if sheet else None,
            operations={
                name: _stood(op, behind)
                for name, op in operations.items()
                if name not in omit.operations
            },
            service=self._service(assemblies, sheet, checks) if "board" in components else {},
            calibration=calibration_of(sheet, effects, self._tables) if sheet else Calibration(),
            values=values,
            curves=sheet.curves if sheet else {},
            places={name: place for name, place in archetype.places.items() if name in components},
            openings=archetype.openings,
            laid=archetype.laid,
            hub=(sheet.hub if sheet else None) or archetype.hub,
            connectors=_connectors(assemblies, sheet, components),
            excused=archetype.excused,
            seen=makers,
        )

    def _wired(
        self,
        assemblies: list[AssemblyFile],
        components: Mapping[str, Component],
        sheet: SheetFile | None,
    ) -> dict[str, WayRecord]:
        """Return how the machine is wired. Raises LibraryError for a load that nothing feeds."""
        files = [self._wirings[a.assembly] for a in assemblies if a.assembly in self._wirings]
        wiring = wiring_of(files, sheet.wiring if sheet else {}, components)
        for name in unfed(wiring):
            home = f"{sheet.sheet}.yaml" if sheet and name in sheet.wiring else "wiring"
            found = f"'{name}', a load that nothing feeds"
            raise LibraryError.one(home, 0, f"wiring.{name}", found, "a way from live to neutral")
        return wiring

    def _meanings(
        self, assemblies: list[AssemblyFile], effects: dict[str, Effect]
    ) -> dict[str, Code]:
        """Return what boards store of these assemblies."""
        known: dict[str, Code] = {}
        for assembly in assemblies:
            here = {name: code for name, code in assembly.codes.items() if code.reads in effects}
            known |= codes_of(assembly.assembly, here, effects, self._tables)
        return known

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
                raise misfit(sheet.sheet, "service", name, one_of(known))
        bands = {
            name: {"low": w.low, "high": w.high, "unit": w.unit} for name, w in sheet.bands.items()
        }
        return {
            name: known[name].model_copy(update=bands.get(name, {}))
            for name in sheet.service or known
        }


def _stood(record: OperationRecord, behind: Face) -> OperationRecord:
    """Return an operation with the posture its face wants, where it does not say one. What lies
    ``behind`` the rear panel is done from that panel's own side. What is done at the rear is done
    upright, for a machine that is laid down leans on its rear; from below it is tipped. A water
    joint is opened once the water is out."""
    face = behind if record.face == "rear" else record.face
    wanted: Posture | None = {"rear": "upright", "below": "tipped"}.get(face)  # type: ignore[assignment]
    needs = record.needs
    if needs.posture is None and wanted is not None:
        needs = needs.model_copy(update={"posture": wanted})
    if "water" in record.opens and needs.water is None:
        needs = needs.model_copy(update={"water": "out"})
    return record.model_copy(update={"face": face, "needs": needs})


def _connectors(
    assemblies: list[AssemblyFile], sheet: SheetFile | None, components: dict[str, Component]
) -> dict[str, ConnectorRecord]:
    """Return the plugs of the components there are, those of the sheet over those of the kind."""
    known = {name: plug for assembly in assemblies for name, plug in assembly.connectors.items()}
    known |= sheet.connectors if sheet else {}
    return {name: plug for name, plug in known.items() if name in components}


def both_omitted(first: Omit, second: Omit) -> Omit:
    """Return what either leaves out."""
    return Omit(**{key: (*getattr(first, key), *getattr(second, key)) for key in Omit.model_fields})


def probed(checks: dict[str, Check], terminals: dict[str, str]) -> dict[str, Check]:
    """Return the checks, those measured at other ``terminals`` than usual with these."""
    return {
        name: replace(
            check, measure=check.measure.model_copy(update={"terminals": terminals[name]})
        )
        if check.measure and name in terminals
        else check
        for name, check in checks.items()
    }


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
        if not {c.component, c.at, c.plug} & gone and n not in omit.checks
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


def _revision(
    archetype: ArchetypeFile, assemblies: list[AssemblyFile], sheet: SheetFile | None
) -> str:
    """Return a hash of everything that is asked or answered; drawings are no part of it."""
    digest = hashlib.sha256(archetype.model_dump_json().encode())
    for assembly in assemblies:
        digest.update(assembly.model_dump_json(exclude={"details"}).encode())
    if sheet:
        digest.update(sheet.model_dump_json().encode())
    return digest.hexdigest()[:12]
