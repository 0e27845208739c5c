"""What is said, stored and seen of a machine: phrases, codes, an unreadable panel, marks, as
chances over states."""

from collections.abc import Mapping
from math import prod

from bottega.core.library.chances import per_state, placed
from bottega.core.library.errors import misfit, one_of
from bottega.core.library.machine_type import Calibration, Code, Complaint, Effect, Mark, Stall
from bottega.core.library.records import AssemblyFile, Chances, CodeRecord, Component
from bottega.core.library.sheet import SheetFile
from bottega.core.library.tables import Tables


def complaints_of(
    assembly: AssemblyFile, effects: dict[str, Effect], tables: Tables
) -> dict[str, Complaint]:
    """Return the phrases of an assembly that speak of an effect this machine has. Raises
    LibraryError."""
    return {
        name: Complaint(
            name,
            record,
            record.reads,
            _chances(
                assembly.assembly,
                f"complaints.{name}.reports",
                record.reports,
                effects[record.reads],
                tables=tables,
                otherwise=record.by_slip,
            ),
        )
        for name, record in assembly.complaints.items()
        if record.reads in effects
    }


def slip_of(complaints: dict[str, Complaint]) -> float:
    """Return the chance that something is complained of on a machine of which nothing is so."""
    return 1 - prod(1 - complaint.said[0] for complaint in complaints.values())


def codes_of(
    where: str, records: Mapping[str, CodeRecord], effects: dict[str, Effect], tables: Tables
) -> dict[str, Code]:
    """Return the codes of a sheet, or those an archetype knows by their meaning alone. Raises
    LibraryError."""
    codes = {}
    for name, record in records.items():
        effect = _effect(where, f"codes.{name}.reads", record.reads, effects)
        stored = _chances(
            where,
            f"codes.{name}.stored",
            record.stored,
            effect,
            tables=tables,
            otherwise=record.stale,
        )
        codes[name] = Code(name, record, record.reads, stored)
    return codes


def unreadable_of(
    sheet: SheetFile, effects: dict[str, Effect], tables: Tables
) -> tuple[str, tuple[float, ...]] | None:
    """Return what an unreadable panel says: the effect and P(unreadable | state); None if it says
    nothing."""
    spoken = sheet.panel.unreadable if sheet.panel else None
    if spoken is None:
        return None
    effect = _effect(sheet.sheet, "panel.unreadable.reads", spoken.reads, effects)
    key = "panel.unreadable.chances"
    return spoken.reads, _chances(
        sheet.sheet, key, spoken.chances, effect, tables=tables, otherwise=spoken.otherwise
    )


def calibration_of(sheet: SheetFile, effects: dict[str, Effect], tables: Tables) -> Calibration:
    """Return a sheet's calibration with P(stalls | state) of each phase. Raises LibraryError."""
    phases = []
    for name, phase in sheet.calibration.phases.items():
        key = f"calibration.phases.{name}"
        effect = _effect(sheet.sheet, f"{key}.reads", phase.reads, effects)
        chances = _chances(
            sheet.sheet,
            f"{key}.stalls",
            phase.stalls,
            effect,
            tables=tables,
            otherwise=phase.otherwise,
        )
        phases.append(Stall(name, phase.name, phase.minutes, phase.reads, chances))
    return Calibration(sheet.calibration.steps, tuple(phases))


def marks_of(
    assembly: AssemblyFile,
    effects: dict[str, Effect],
    components: dict[str, Component],
    tables: Tables,
) -> dict[str, Mark]:
    """Return the marks of an assembly that this machine can show. Raises LibraryError for a state
    or kind unknown."""
    marks = {}
    for name, record in assembly.marks.items():
        if record.kind not in tables.marks.kinds:
            expected = one_of(tables.marks.kinds)
            raise misfit(assembly.assembly, f"marks.{name}.kind", record.kind, expected)
        if record.reads not in effects or record.at not in components:
            continue
        states = effects[record.reads].states
        if record.shows not in states[1:]:
            raise misfit(
                assembly.assembly,
                f"marks.{name}.shows",
                record.shows,
                one_of(states[1:]),
            )
        marks[name] = Mark(name, record, record.reads, states.index(record.shows), len(states))
    return marks


def _effect(where: str, key: str, name: str, effects: dict[str, Effect]) -> Effect:
    if name not in effects:
        raise misfit(where, key, name, "the id of an effect of this machine")
    return effects[name]


def _chances(
    where: str, key: str, spec: Chances, effect: Effect, *, tables: Tables, otherwise: float
) -> tuple[float, ...]:
    return placed(where, key, per_state, spec, effect.states, tables.words, otherwise)
