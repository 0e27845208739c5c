"""Ids and words that name nothing: what is misspelt in one layer of the library and stands in no
other."""

from collections.abc import Iterable, Iterator
from difflib import get_close_matches

from bottega.core.library.archetype import ArchetypeFile
from bottega.core.library.errors import Problem
from bottega.core.library.records import AssemblyFile, Part
from bottega.core.library.shelf import Shelf

Finding = tuple[str, str, str]
"""Key path, what was found there, what was expected."""


def check_references(shelf: Shelf) -> list[Problem]:
    """Return every id and word of the library that names nothing, with file and line."""
    known = _Known(shelf)
    found = []
    for name, assembly in shelf.assemblies.items():
        found += [placed(shelf, name, *finding) for finding in known.of_assembly(assembly)]
    for name, archetype in shelf.archetypes.items():
        found += [placed(shelf, name, *finding) for finding in known.of_archetype(archetype)]
    for name, sheet in shelf.sheets.items():
        operations = {f"operations.{key}": record.tool for key, record in sheet.operations.items()}
        found += [placed(shelf, name, *finding) for finding in known.tools(operations)]
        order = known.schools("hub.order", sheet.hub.order if sheet.hub else ())
        found += [placed(shelf, name, *finding) for finding in order]
    return found


def unknown(key: str, names: Iterable[str], known: Iterable[str], what: str) -> Iterator[Finding]:
    """Yield a finding for every name that is not known, with the nearest one that is."""
    known = list(known)
    for name in names:
        if name not in known:
            near = get_close_matches(name, known, n=1)
            yield f"{key}.{name}", f"'{name}'", what + (f", nearest is '{near[0]}'" if near else "")


class _Known:
    """What can be named, over all layers."""

    def __init__(self, shelf: Shelf) -> None:
        assemblies = shelf.assemblies.values()
        self.shelf = shelf
        self.components = {name for a in assemblies for name in a.components}
        self.faults = {name for a in assemblies for name in a.faults}
        self.effects = {name for a in assemblies for name in a.effects}
        self.checks = {name for a in assemblies for name in a.checks}
        self.operations = {name for a in assemblies for name in a.operations}
        self.operations |= {name for a in shelf.archetypes.values() for name in a.operations}

    def of_assembly(self, assembly: AssemblyFile) -> Iterator[Finding]:
        """Yield what an assembly names that is nowhere."""
        for name, part in assembly.components.items():
            key = f"components.{name}.connects"
            yield from unknown(key, part.connects, self.components, "the id of a component")
            if part.part is not None:
                yield from self.fitting(f"components.{name}.part", part.part)
        for name, fault in assembly.faults.items():
            yield from unknown(
                f"faults.{name}.causes", fault.causes, self.faults, "the id of a fault"
            )
            others = [repair.of for repair in fault.repairs if repair.of]
            key = f"faults.{name}.repairs"
            yield from unknown(key, others, self.components, "the id of a component")
        for name, mark in assembly.marks.items():
            yield from unknown(
                f"marks.{name}.at", [mark.at], self.components, "the id of a component"
            )
        for name, code in assembly.codes.items():
            key = f"codes.{name}.reads"
            yield from unknown(key, [code.reads], self.effects, "the id of an effect")
        for name, detail in assembly.details.items():
            for spot, seen in detail.spots.items():
                key = f"details.{name}.spots.{spot}"
                yield from unknown(key, seen, self.faults, "the id of a fault")
        for name, plug in assembly.connectors.items():
            component, check = "the id of a component", "the id of a check"
            yield from unknown("connectors", [name], self.components, component)
            yield from unknown(f"connectors.{name}.pairs", plug.pairs, self.checks, check)
        for name, step in assembly.service.items():
            key = f"service.{name}.answers"
            yield from unknown(key, [step.answers], self.checks, "the id of a check")
        yield from self.tools({f"operations.{n}": o.tool for n, o in assembly.operations.items()})

    def fitting(self, key: str, part: Part) -> Iterator[Finding]:
        """Yield what the fitting of a part names that is nowhere."""
        yield from self.schools(f"{key}.fitting", part.fitting)
        yield from unknown(f"{key}.cheap", part.cheap, part.reused, "something it reuses")
        if part.clock is not None:
            yield from self.schools(f"{key}.clock.band", [f"{{{part.clock.band}}}"])

    def schools(self, key: str, lines: Iterable[str]) -> Iterator[Finding]:
        """Yield the places in lines of fitting that name no school."""
        table = self.shelf.tables.schools
        named = [name for line in lines for name in table.named(line)]
        yield from unknown(key, named, table.schools, "a disagreement of tables/schools.yaml")

    def of_archetype(self, archetype: ArchetypeFile) -> Iterator[Finding]:
        """Yield what an archetype names that is nowhere."""
        omit = archetype.omit
        component, operation = "the id of a component", "the id of an operation"
        yield from unknown("places", archetype.places, self.components, component)
        yield from unknown("reach", archetype.reach, self.components, component)
        yield from unknown("openings", archetype.openings, self.operations, operation)
        yield from unknown("omit.components", omit.components, self.components, component)
        yield from unknown("omit.faults", omit.faults, self.faults, "the id of a fault")
        yield from unknown("omit.checks", omit.checks, self.checks, "the id of a check")
        yield from unknown("omit.operations", omit.operations, self.operations, operation)
        yield from unknown("weights", archetype.weights, self.faults, "the id of a fault")
        traits = self.shelf.tables.traits.traits
        yield from unknown("traits", archetype.traits, traits, "a trait of tables/traits.yaml")
        laying = self.shelf.tables.make_safe.laying
        yield from unknown("laid", archetype.laid, laying, "a way of tables/make_safe.yaml")
        yield from self.schools("hub.order", archetype.hub.order if archetype.hub else ())
        words = [w for w in archetype.traits.values() if isinstance(w, str)]
        yield from unknown("traits", words, self.shelf.tables.words, "a word of tables/words.yaml")
        yield from self.tools({f"operations.{n}": o.tool for n, o in archetype.operations.items()})

    def tools(self, named: dict[str, str]) -> Iterator[Finding]:
        """Yield the tools that are in no table."""
        for key, tool in named.items():
            yield from unknown(
                f"{key}.tool", [tool], self.shelf.tables.tools, "a tool of tables/tools.yaml"
            )


def placed(shelf: Shelf, home: str, key: str, found: str, expected: str) -> Problem:
    """Return the problem with the file and line of the record it speaks of, in whatever layer that
    stands."""
    section, _, rest = key.partition(".")
    record = rest.partition(".")[0]
    layers = [home, *shelf.archetypes[home].assemblies] if home in shelf.archetypes else [home]
    for layer in layers:
        source = shelf.sources[layer]
        inside = source.data.get(section)
        if isinstance(inside, dict) and record in inside:
            return Problem(source.file, source.line_of(tuple(key.split("."))), key, found, expected)
    return Problem(shelf.sources[home].file, 0, key, found, expected)
