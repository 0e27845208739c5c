"""Check a library that loads: what is never read, never caused, never found, never told apart, out
of reach or in a circle."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter
from itertools import combinations

import numpy as np

from bottega.core.library.errors import Problem
from bottega.core.library.kinds import missing_of
from bottega.core.library.machine_type import AT_THE_MACHINE, MachineType
from bottega.core.library.records import Chances, GradedChance
from bottega.core.library.references import check_references, placed, unknown
from bottega.core.library.shelf import Shelf
from bottega.core.library.speaking import answers
from bottega.core.library.tables import KindTable

TOLD_APART = 0.3
"""Two faults are told apart when some check gives some outcome with chances this far apart."""
NOTICED_AT_MOST = 0.005
"""What is complained of is bad at most so often where nothing is wrong: more would be a fault the
library lacks, and machines that show it would be taken for sound; chosen, one in two hundred."""
PUT_BACK = re.compile(
    r"\b(off|loose|dirty|blocked|clogged|kinked|scaled|dry|slipped|unplugged|wet)\b"
)
"""By these words a fault is put right with what is there, before a new part."""
TOOLS_BY_HAND = {"clip", "cap", "pin", "union nut", "spring clip"}


@dataclass(frozen=True)
class AlikeFaults:
    """Two faults of one machine that no check tells apart; ``together`` when one repair ends
    both."""

    archetype: str
    first: str
    second: str
    together: bool


def check_library(shelf: Shelf) -> list[Problem]:
    """Return every problem of a library that loads, with file and line; an empty list when it is
    whole."""
    found = check_references(shelf)
    for archetype in shelf.archetypes:
        found += check_machine(shelf, archetype)
    for sheet, record in shelf.sheets.items():
        found += check_machine(shelf, record.archetype, sheet)
    for name, assembly in shelf.assemblies.items():
        owners = [m for m in shelf.machines() if name in shelf.archetypes[m.archetype].assemblies]
        for mark, mark_record in assembly.marks.items():
            if not any(mark in machine.marks for machine in owners):
                shows = f"a mark at '{mark_record.at}' that shows nothing"
                expected = "a component and an effect of one machine"
                found.append(placed(shelf, name, f"marks.{mark}", shows, expected))
        for effect in assembly.effects:
            if not any(effect in machine.effects for machine in owners):
                caused = "a fault that touches it"
                found.append(
                    placed(shelf, name, f"effects.{effect}", "an effect nothing causes", caused)
                )
    return list(dict.fromkeys(found))


def check_machine(shelf: Shelf, archetype: str, sheet: str | None = None) -> list[Problem]:
    """Return every problem of one machine type: of its archetype, and of its sheet when one is
    named."""
    machine = shelf.machine(archetype, sheet)
    home = sheet or archetype
    found = [placed(shelf, home, *problem) for problem in _of_machine(machine)]
    found += [placed(shelf, home, *problem) for problem in _of_kinds(machine, shelf.tables.kinds)]
    if sheet is not None:
        found += [placed(shelf, home, *problem) for problem in _of_sheet(shelf, machine)]
        known = set(check_machine(shelf, archetype)) if found else set()
        found = [problem for problem in found if problem not in known]
    return found


def inseparable(machine: MachineType) -> list[AlikeFaults]:
    """Return the pairs of faults that no check of the machine tells apart."""
    names = list(machine.faults)
    told = np.concatenate([answers(machine, c, *names) for c in machine.checks.values()], axis=1)
    pairs = []
    for i, j in combinations(range(len(names)), 2):
        if np.abs(told[i] - told[j]).max() < TOLD_APART:
            first, second = names[i], names[j]
            together = any(
                r.ends(first) > 0 and r.ends(second) > 0 for r in machine.repairs.values()
            )
            pairs.append(AlikeFaults(machine.archetype, first, second, together))
    return pairs


def stats(shelf: Shelf) -> dict[str, dict[str, int]]:
    """Return counts in total and per archetype: what of each kind is distinct in it."""
    per: dict[str, dict[str, set[str]]] = {}
    for name in shelf.archetypes:
        own = [m for m in shelf.machines() if m.archetype == name]
        per[name] = {
            "archetypes": {name},
            "sheets": {m.sheet for m in own if m.sheet},
            "assemblies": set(shelf.archetypes[name].assemblies),
            "components": set(own[0].components),
            "faults": set(own[0].faults),
            "effects": set(own[0].effects),
            "checks": set(own[0].checks),
            "measurements": {c.id for c in own[0].checks.values() if c.measure},
            "operations": {f"{name}:{op}" for op in own[0].operations},
            "service_steps": {f"{name}:{step}" for step in own[0].service},
            "codes": {f"{m.sheet}:{code}" for m in own for code in m.codes},
        }
    kinds = next(iter(per.values()), {})
    total = {kind: len(set().union(*(counts[kind] for counts in per.values()))) for kind in kinds}
    return {
        "total": total,
        **{name: {kind: len(ids) for kind, ids in counts.items()} for name, counts in per.items()},
    }


def _of_machine(machine: MachineType) -> Iterator[tuple[str, str, str]]:
    read = {check.effect for check in machine.checks.values()}
    for fault in machine.faults.values():
        if not read & set(fault.effects):
            yield (
                f"faults.{fault.id}",
                "a fault no check finds",
                "a check that reads one of its effects",
            )
        if not machine.repairs_of(fault.id):
            yield f"faults.{fault.id}", "a fault no repair ends", "a repair"
        elif PUT_BACK.search(fault.name) and not any(
            repair.do in AT_THE_MACHINE for repair in machine.repairs_of(fault.id)
        ):
            yield (
                f"faults.{fault.id}.repairs",
                f"“{fault.name}”, and a new part as its only cure",
                "what puts it right as it is: push on, tighten, clean",
            )
        if fault.component not in machine.components:
            yield f"faults.{fault.id}.component", f"'{fault.component}'", "the id of a component"
    for effect in machine.effects.values():
        told = [
            outcome
            for check in machine.checks.values()
            if check.effect == effect.id
            for outcome in check.outcomes
        ]
        for k, state in enumerate(effect.states[1:], start=1):
            if told and not any(outcome.chances[k] == max(outcome.chances) for outcome in told):
                yield (
                    f"effects.{effect.id}.states",
                    f"the state '{state}' that no outcome reports",
                    "an outcome for it",
                )
    for name in machine.noticeable:
        bad = 1 - machine.effects[name].background[0]
        if bad > NOTICED_AT_MOST + 1e-9:
            yield (
                f"effects.{name}.background",
                f"{bad:.3g} on a machine with nothing wrong, of what is complained of",
                f"at most {NOTICED_AT_MOST:g}",
            )
    for component in machine.components:
        if component not in machine.places:
            yield f"places.{component}", "a component without a place in the drawing", "x and y"
    yield from _operations(machine)
    for pair in inseparable(machine):
        if not pair.together:
            yield (
                f"faults.{pair.first}",
                f"not told apart from '{pair.second}'",
                "a check that tells them apart",
            )


def _of_kinds(machine: MachineType, kinds: KindTable) -> Iterator[tuple[str, str, str]]:
    """Yield what a component lacks of its kind; the data may hold the reason why it does."""
    for lack in missing_of(machine, kinds):
        found = f"nothing for: {lack.says} ({lack.demand})"
        expected = "a check that asks it, an effect under reads, or the reason under excused"
        yield f"components.{lack.component}.kind", found, expected


def _operations(machine: MachineType) -> Iterator[tuple[str, str, str]]:
    wanted = {op for check in machine.checks.values() for op in check.needs.off}
    wanted |= {op for component in machine.components.values() for op in component.reach.off}
    wanted |= {op for record in machine.operations.values() for op in record.after}
    for name in sorted(wanted - set(machine.operations)):
        yield f"operations.{name}", f"the unknown operation '{name}'", "one of the archetype's"
    yield from _own_ways(machine)
    for name in _circle(machine):
        expected = "one that does not wait for itself"
        yield f"operations.{name}.after", "an operation in a circle", expected
    for name, record in machine.operations.items():
        for fastener in record.fasteners:
            if record.tool == "none" and fastener.kind not in TOOLS_BY_HAND:
                found = f"a {fastener.kind} without a tool"
                yield f"operations.{name}.tool", found, "the tool that undoes it"


def _own_ways(machine: MachineType) -> Iterator[tuple[str, str, str]]:
    """Yield the parts without a way of their own out and in, and the operations on nobody's
    way."""
    known = set(machine.operations)
    for name, part in machine.parts.items():
        if not machine.out.get(name):
            yield f"out.{name}", "a part without its own way out", "the operations that take it out"
        if not part.fitting:
            yield f"components.{name}.part", "a part without its fitting", "how it goes in"
    for name, way in machine.out.items():
        for op in sorted(set(way) - known):
            yield f"out.{name}", f"the unknown operation '{op}'", "one of the archetype's"
    wanted = {op for way in machine.out.values() for op in way}
    wanted |= {op for check in machine.checks.values() for op in check.needs.off}
    wanted |= {op for component in machine.components.values() for op in component.reach.off}
    reached: set[str] = set()
    while wanted - reached:
        reached |= wanted
        wanted |= {op for name in reached & known for op in machine.operations[name].after}
        wanted |= {name for name in known if machine.operations[name].instead in reached}
    for name in sorted(known - reached):
        expected = "one that some part or check is reached by"
        yield f"operations.{name}", "an operation on nobody's way", expected
    for name, record in machine.operations.items():
        other = record.instead
        if other is not None and (other not in known or other == name):
            yield f"operations.{name}.instead", f"'{other}'", "another operation of the archetype"


def _odd_words(shelf: Shelf, chances: Chances) -> Iterator[tuple[str, str, str]]:
    """Yield the chances by name whose word no table has."""
    for name, value in chances.items():
        word = value.value if isinstance(value, GradedChance) else value
        if isinstance(word, str) and word not in shelf.tables.words:
            yield f"traits.{name}", f"'{word}'", "a word of tables/words.yaml"


def breaks_pages(shelf: Shelf, sheet: str) -> list[Problem]:
    """Return what of a sheet would break a page that many look at, whoever wrote it: such a sheet
    is set aside."""
    return [placed(shelf, sheet, *one) for one in _odd_words(shelf, shelf.sheet(sheet).traits)]


def _circle(machine: MachineType) -> list[str]:
    """Return the operations of a circle, each waiting for the next, or none."""
    order = TopologicalSorter({name: op.after for name, op in machine.operations.items()})
    try:
        order.prepare()
    except CycleError as error:
        circle: list[str] = error.args[1]
        return list(dict.fromkeys(circle))
    return []


def _of_sheet(shelf: Shelf, machine: MachineType) -> Iterator[tuple[str, str, str]]:
    record = shelf.sheets[machine.sheet or ""]
    yield from unknown("weights", record.weights, machine.faults, "a fault of this machine")
    alone = shelf.machine(machine.archetype)
    omit = record.omit
    yield from unknown("omit.components", omit.components, alone.components, "a component of it")
    yield from unknown("omit.faults", omit.faults, alone.faults, "a fault of it")
    yield from unknown("omit.checks", omit.checks, alone.checks, "a check of it")
    yield from unknown("omit.operations", omit.operations, alone.operations, "an operation of it")
    traits = shelf.tables.traits.traits
    yield from unknown("traits", record.traits, traits, "a trait of tables/traits.yaml")
    yield from _odd_words(shelf, record.traits)
    measured = [name for name, check in machine.checks.items() if check.measure]
    yield from unknown("terminals", record.terminals, measured, "a measurement of this machine")
    for name, programme in record.programmes.items():
        place, known = f"programmes.{name}.by_design", machine.complaints
        yield from unknown(place, programme.by_design, known, "a complaint of this machine")
    used = {check.measure.value for check in machine.checks.values() if check.measure}
    for name in machine.values:
        if name not in used:
            yield f"values.{name}", "a value no measurement uses", "the value key of a measurement"
    for name in machine.part_numbers:
        if name not in machine.parts:
            yield f"parts.{name}", "a part number for what has no part", "a component with a part"
    yield from unknown("curves", record.curves, used, "the value key of a measurement")
    shown: dict[object, str] = {}
    for code in machine.codes.values():
        key = code.record.text.lower() if code.record.text else code.record.show
        panel = machine.panel
        if panel and panel.kind != "display" and (why := panel.cannot_show(code.record.show)):
            yield f"codes.{code.id}.show", *why
        if panel and panel.kind == "display" and not code.record.text:
            yield f"codes.{code.id}.text", "nothing", "what the display shows"
        if key in shown:
            yield f"codes.{code.id}", f"shown like '{shown[key]}'", "a showing of its own"
        shown[key] = code.id
        if not any(check.effect == code.effect for check in machine.checks.values()):
            yield (
                f"codes.{code.id}.reads",
                "a code that leads to no check",
                "an effect some check reads",
            )
