"""The shelf: all library files of a folder, validated, and the machine types made from them."""

from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel

from bottega.core.library.archetype import ArchetypeFile
from bottega.core.library.compiled import compiled
from bottega.core.library.errors import LibraryError, Problem
from bottega.core.library.kinds import with_kinds
from bottega.core.library.layers import Layering, both_omitted
from bottega.core.library.machine_type import MachineType
from bottega.core.library.recipe import RecipeFile
from bottega.core.library.records import AssemblyFile
from bottega.core.library.sheet import SheetFile
from bottega.core.library.tables import Tables, read_tables, validated
from bottega.core.library.wiring_record import WiringFile
from bottega.core.library.yamlfile import YamlSource, read_yaml

DATA = Path(__file__).parents[2] / "data"


class UnknownMachine(KeyError):
    """No archetype or sheet with this id; carries the nearest known one."""

    def __init__(self, wanted: str, known: list[str]) -> None:
        near = get_close_matches(wanted, known, n=1)
        hint = f", nearest is '{near[0]}'" if near else ""
        super().__init__(f"found '{wanted}', expected one of {', '.join(known)}{hint}")

    def __str__(self) -> str:
        return str(self.args[0])


File = TypeVar("File", bound=BaseModel)

Parts = dict[tuple[str, str], list[Any]]
"""What machine types are made of, by what it is and its id: each way it is found."""
SHARED = ("effects", "faults", "repairs", "checks", "complaints", "codes", "marks", "components")


def shared(machine: MachineType, parts: Parts) -> MachineType:
    """Return a machine type made of the ``parts`` that others are made of, wherever they are equal:
    nine in ten are."""
    same: dict[str, Any] = {}
    for what in SHARED:
        same[what] = {}
        for name, part in getattr(machine, what).items():
            known = parts.setdefault((what, name), [])
            if part not in known:
                known.append(part)
            same[what][name] = known[known.index(part)]
    return replace(machine, **same)


def refuse_circle(name: str, like: str, known: dict[str, Any], seen: tuple[str, ...]) -> None:
    """Raise LibraryError when what a record is like is not known, or is like it."""
    if like not in known or like in seen:
        expected = f"another of {', '.join(sorted(known))}, not in a circle"
        raise LibraryError.one(f"{name}.yaml", 0, "like", f"'{like}'", expected)


def laid_over(base: SheetFile, own: SheetFile) -> SheetFile:
    """Return a sheet with what it does not say taken from its ``base``: of tables and plate line by
    line, of notes all."""
    update: dict[str, Any] = {}
    for key in SheetFile.model_fields:
        below, above = getattr(base, key), getattr(own, key)
        if isinstance(below, dict):
            update[key] = {**below, **above}
        elif key == "calibration":
            update[key] = above if above.steps else below
        elif key in ("panel", "paper", "service") and not above:
            update[key] = below
    said = own.plate.model_dump(exclude_none=True)
    update["plate"] = base.plate.model_copy(update=said)
    update["notes"] = (*base.notes, *own.notes)
    update["omit"] = both_omitted(base.omit, own.omit)
    return own.model_copy(update=update)


@dataclass
class Shelf:
    """A whole library in memory. ``machine`` joins layers on demand and keeps the result."""

    tables: Tables
    assemblies: dict[str, AssemblyFile]
    archetypes: dict[str, ArchetypeFile]
    sheets: dict[str, SheetFile]
    sources: dict[str, YamlSource]
    recipes: dict[str, RecipeFile] = field(default_factory=dict)
    """By assembly."""
    wirings: dict[str, WiringFile] = field(default_factory=dict)
    """By assembly."""
    _made: dict[tuple[str, str | None], MachineType] = field(default_factory=dict)
    _parts: "Parts" = field(default_factory=dict)
    _tried: dict[str, "Shelf"] = field(default_factory=dict)
    """The shelf with the sheet that was tried last, by the sheet's text."""

    @cached_property
    def _layering(self) -> Layering:
        return Layering(
            self.tables,
            {effect for item in self.assemblies.values() for effect in item.effects},
            self.recipes,
            self.wirings,
        )

    def machine(self, archetype: str, sheet: str | None = None) -> MachineType:
        """Return the machine type of a sheet, or of an archetype alone. Raises UnknownMachine or
        LibraryError."""
        if sheet is not None and sheet not in self.sheets:
            raise UnknownMachine(sheet, sorted(self.sheets))
        if archetype not in self.archetypes:
            raise UnknownMachine(archetype, sorted(self.archetypes))
        if sheet is not None and self.sheets[sheet].archetype != archetype:
            raise UnknownMachine(
                f"{archetype}/{sheet}", [f"{self.sheets[sheet].archetype}/{sheet}"]
            )
        key = (archetype, sheet)
        if key not in self._made:
            self._made[key] = self._joined(archetype, sheet)
        return self._made[key]

    def archetype(self, name: str, seen: tuple[str, ...] = ()) -> ArchetypeFile:
        """Return an archetype with what it takes over from the one it is like. Raises LibraryError
        for a circle."""
        record = self.archetypes[name]
        if record.like is None:
            return record
        refuse_circle(name, record.like, self.archetypes, (*seen, name))
        base = self.archetype(record.like, (*seen, name))
        update = {
            key: {**getattr(base, key), **getattr(record, key)}
            for key in ("places", "openings", "reach", "operations", "out", "values")
        }
        own = {"hub": record.hub or base.hub, "laid": record.laid or base.laid}
        return record.model_copy(update={**update, **own})

    def sheet(self, name: str, seen: tuple[str, ...] = ()) -> SheetFile:
        """Return a sheet with what it takes over from the one it is like. Raises LibraryError for
        a circle, or one of another archetype."""
        record = self.sheets[name]
        if record.like is None:
            return record
        refuse_circle(name, record.like, self.sheets, (*seen, name))
        base = self.sheet(record.like, (*seen, name))
        if base.archetype != record.archetype:
            found = f"'{record.like}', a sheet of {base.archetype}"
            expected = f"a sheet of {record.archetype}"
            raise LibraryError.one(f"{name}.yaml", 0, "like", found, expected)
        return laid_over(base, record)

    def variants(self, name: str) -> list[SheetFile]:
        """Return the sheets of all variants of a sheet's model, itself among them, when there are
        several that say what tells them; else none."""
        root = self._root(name)
        alike = [record for other, record in self.sheets.items() if self._root(other) == root]
        told = [record for record in alike if record.variant]
        return told if len(told) > 1 else []

    def _root(self, name: str) -> str:
        """Return the sheet that a sheet is like in the end, itself when it is like none."""
        seen = name
        for _ in self.sheets:
            like = self.sheets[seen].like if seen in self.sheets else None
            if like is None:
                break
            seen = like
        return seen

    def _joined(self, archetype: str, sheet: str | None) -> MachineType:
        record = self.archetype(archetype)
        missing = [name for name in record.assemblies if name not in self.assemblies]
        if missing:
            known = ", ".join(sorted(self.assemblies))
            raise LibraryError.one(
                f"{archetype}.yaml", 0, "assemblies", f"'{missing[0]}'", f"one of {known}"
            )
        try:
            chosen = [self.assemblies[name] for name in record.assemblies]
            machine = self._layering.join(record, chosen, self.sheet(sheet) if sheet else None)
            return shared(machine, self._parts)
        except LibraryError as error:
            raise LibraryError([self._with_line(problem) for problem in error.problems]) from error

    def _with_line(self, problem: Problem) -> Problem:
        source = self.sources.get(problem.file.removesuffix(".yaml"))
        if source is None:
            return problem
        return Problem(
            source.file,
            source.line_of(tuple(problem.key.split("."))),
            problem.key,
            problem.found,
            problem.expected,
        )

    def with_sheet(self, source: YamlSource) -> "Shelf":
        """Return a shelf with one sheet added or replaced, joined and so proved to fit: what is
        saved is first tried. Raises LibraryError."""
        tried = self._tried.get(source.text)
        if tried is None:
            tried = self._with_sheet(source)
            self._tried.clear()
            self._tried[source.text] = tried
        return tried

    def _with_sheet(self, source: YamlSource) -> "Shelf":
        record = validated(SheetFile, source)
        if record.archetype not in self.archetypes:
            expected = f"one of {', '.join(sorted(self.archetypes))}"
            raise LibraryError.one(
                source.file,
                source.line_of(("archetype",)),
                "archetype",
                f"'{record.archetype}'",
                expected,
            )
        like = {name for name in self.sheets if record.sheet in (name, self._root(name))}
        made = {key: machine for key, machine in self._made.items() if key[1] not in like}
        shelf = replace(
            self,
            sheets={**self.sheets, record.sheet: record},
            sources={**self.sources, record.sheet: source},
            _made=made,
            _tried={},
        )
        for name in (record.sheet, *like):
            shelf.machine(shelf.sheets[name].archetype, name)
        return shelf

    def machines(self) -> list[MachineType]:
        """Return every archetype alone, then every sheet, each joined. Raises LibraryError."""
        alone = [self.machine(name) for name in self.archetypes]
        return alone + [self.machine(sheet.archetype, name) for name, sheet in self.sheets.items()]


def read_shelf(folder: Path = DATA) -> Shelf:
    """Read and validate a whole library folder. Raises LibraryError with every broken file's
    problems."""
    problems: list[Problem] = []
    sources: dict[str, YamlSource] = {}

    def read(sub: str, kind: type[File], id_key: str, prefix: str = "") -> dict[str, File]:
        """Return the files of a folder by their ids; what is broken joins the problems."""
        files: dict[str, File] = {}
        for path in sorted((folder / sub).glob("*.yaml")):
            try:
                source = read_yaml(path, f"{prefix}{path.name}")
                record = validated(kind, source)
            except LibraryError as error:
                problems.extend(error.problems)
            else:
                name = getattr(record, id_key)
                files[name], sources[f"{prefix}{name}"] = record, source
        return files

    assemblies = read("assemblies", AssemblyFile, "assembly")
    archetypes = read("archetypes", ArchetypeFile, "archetype")
    sheets = read("sheets", SheetFile, "sheet")
    recipes = read("on_rig", RecipeFile, "assembly", "on_rig/")
    wirings = read("wiring", WiringFile, "assembly", "wiring/")
    if problems:
        raise LibraryError(problems)
    tables = read_tables(folder / "tables")
    effects = {name: e for a in assemblies.values() for name, e in a.effects.items()}
    assemblies = {name: with_kinds(a, tables.kinds, effects) for name, a in assemblies.items()}
    shelf = Shelf(tables, assemblies, archetypes, sheets, sources, recipes, wirings)
    for name, file in recipes.items():
        refuse_recipes_of_nothing(name, file, assemblies.get(name), sources[f"on_rig/{name}"])
    for name, wired in wirings.items():
        refuse_wiring_of_nothing(name, wired, assemblies, sources[f"wiring/{name}"])
    shelf.machines()
    return shelf


def refuse_wiring_of_nothing(
    name: str, file: WiringFile, assemblies: dict[str, AssemblyFile], source: YamlSource
) -> None:
    """Raise LibraryError when a conductor belongs to a component that no assembly has, or its file
    to no assembly."""
    if name not in assemblies:
        raise LibraryError.one(source.file, 1, "", f"'{name}'", "the name of an assembly")
    known = {part for assembly in assemblies.values() for part in assembly.components}
    for key, way in file.ways.items():
        for owner in set(way.of) - known:
            near = get_close_matches(owner, known, n=1)
            expected = f"a component, nearest is '{near[0]}'" if near else "a component"
            line = source.line_of(("ways", key, "of"))
            raise LibraryError.one(source.file, line, f"ways.{key}.of", f"'{owner}'", expected)


def refuse_recipes_of_nothing(
    name: str, file: RecipeFile, assembly: AssemblyFile | None, source: YamlSource
) -> None:
    """Raise LibraryError when a recipe belongs to no effect and no check of the assembly ``name``,
    or its file to no assembly."""
    if assembly is None:
        raise LibraryError.one(source.file, 1, "", f"'{name}'", "the name of an assembly")
    for kind, given, known in (
        ("effects", file.effects, assembly.effects),
        ("checks", file.checks, assembly.checks),
    ):
        for key in given.keys() - known.keys():
            line, expected = source.line_of((kind, key)), f"one of {kind} of {name}.yaml"
            raise LibraryError.one(source.file, line, f"{kind}.{key}", f"'{key}'", expected)


@lru_cache(maxsize=1)
def shipped_shelf() -> Shelf:
    """Return the library that comes with Bottega, read once."""
    return compiled(DATA, lambda: read_shelf(DATA))
