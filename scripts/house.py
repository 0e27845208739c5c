"""Count what keeps the house readable, as a table: names that stand for several things, constants
of several values, bare numbers and string keys of the rig, modules with a test of their name.

Run it with ``python scripts/house.py``; ``--names`` lists what was counted.
"""

import ast
import re
import sys
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE, TESTS = ROOT / "src" / "bottega", ROOT / "tests"
PLAIN = {0, 1, 2, -1, 0.5, 100, 1000}
"""Numbers that say themselves: none, one, a pair, a half, and the steps of units."""


@dataclass(frozen=True)
class Row:
    """One line of the table: what is counted, the figure, the most wanted, the most there may be
    until then (so that nothing gets worse), and what was counted."""

    name: str
    figure: float
    wanted: float
    most: float
    counted: tuple[str, ...]


def table() -> list[Row]:
    """Return every row."""
    trees = {
        path.relative_to(SOURCE): ast.parse(path.read_text(encoding="utf-8"))
        for path in sorted(SOURCE.rglob("*.py"))
        if "versions" not in path.parts
    }
    rig = {path: tree for path, tree in trees.items() if path.parts[0] == "rig"}
    shared = _shared_classes(trees)
    classes = sum(len(places) for places in _classes(trees).values())
    lines = sum(len((SOURCE / path).read_text(encoding="utf-8").splitlines()) for path in rig)
    bare, keys = list(_bare(rig)), list(_keys(rig))
    named, modules = _tested(trees)
    many = _many_values(trees)
    return [
        Row("classes that share a name, in percent", 100 * len(shared) / classes, 2, 2, shared),
        Row("constants of several values in a package", len(many), 0, 0, many),
        Row(
            "bare numbers of the rig in 1,000 lines", 1000 * len(bare) / lines, 20, 20, tuple(bare)
        ),
        Row("string keys in the rig", len(keys), 0, 45, tuple(keys)),
        Row(
            "modules without a test of their name, in percent",
            100 * (1 - len(named) / len(modules)),
            20,
            20,
            tuple(sorted(modules - named)),
        ),
    ]


def _classes(trees: dict[Path, ast.Module]) -> dict[str, list[str]]:
    found = defaultdict(list)
    for path, tree in trees.items():
        for node in ast.walk(tree):
            if isinstance(node, ast.ClassDef):
                found[node.name].append(path.as_posix())
    return found


def _shared_classes(trees: dict[Path, ast.Module]) -> tuple[str, ...]:
    return tuple(
        f"{name}: {place}"
        for name, places in sorted(_classes(trees).items())
        if len(places) > 1
        for place in places
    )


def _many_values(trees: dict[Path, ast.Module]) -> tuple[str, ...]:
    """Return the names of constants that have several numbers inside one package."""
    values: dict[tuple[str, str], dict[float, str]] = defaultdict(dict)
    for path, tree in trees.items():
        for name, value in _constants(tree):
            values[path.parts[0], name][value] = path.as_posix()
    return tuple(
        f"{package}.{name}: " + ", ".join(f"{value:g} in {place}" for value, place in own.items())
        for (package, name), own in sorted(values.items())
        if len(own) > 1
    )


def _constants(tree: ast.Module) -> Iterator[tuple[str, float]]:
    for node in tree.body:
        if not isinstance(node, ast.Assign):
            continue
        for target in node.targets:
            pairs = (
                zip(target.elts, node.value.elts, strict=False)
                if isinstance(target, ast.Tuple) and isinstance(node.value, ast.Tuple)
                else [(target, node.value)]
            )
            for name, value in pairs:
                if isinstance(name, ast.Name) and name.id.isupper():
                    number = _number(value)
                    if number is not None:
                        yield name.id, number


def _number(node: ast.expr) -> float | None:
    try:
        value = ast.literal_eval(node)
    except ValueError:
        return None
    return value if isinstance(value, int | float) and not isinstance(value, bool) else None


def _bare(trees: dict[Path, ast.Module]) -> Iterator[str]:
    """Yield numbers within functions that have no name."""
    for path, tree in trees.items():
        for function in ast.walk(tree):
            if not isinstance(function, ast.FunctionDef):
                continue
            for node in ast.walk(function):
                number = _number(node) if isinstance(node, ast.Constant) else None
                if number is not None and number not in PLAIN:
                    yield f"{path.as_posix()}:{node.lineno} {number:g}"


def _keys(trees: dict[Path, ast.Module]) -> Iterator[str]:
    for path, tree in trees.items():
        for node in ast.walk(tree):
            if isinstance(node, ast.Subscript) and isinstance(
                node.slice, ast.Constant | ast.JoinedStr
            ):
                key = ast.unparse(node.slice)
                if not key.isdigit() and key[:1] in "'\"f":
                    yield f"{path.as_posix()}:{node.lineno} {key}"


def _tested(trees: dict[Path, ast.Module]) -> tuple[set[str], set[str]]:
    """Return the modules that have a test of their name anywhere, and all that have functions or
    classes."""
    tests = {path.stem.removeprefix("test_") for path in TESTS.rglob("test_*.py")}
    modules = {
        path.as_posix()
        for path, tree in trees.items()
        if any(isinstance(node, ast.FunctionDef | ast.ClassDef) for node in tree.body)
    }
    named = {one for one in modules if _may_be_called(one) & tests}
    return named, modules


def _may_be_called(module: str) -> set[str]:
    """Return the names a test of a module may have: its own, or with its package's before or
    after; a room's routes, page or sheet is tested by the room's name."""
    *packages, own = re.sub(r"\.py$", "", module).split("/")
    package = packages[-1] if packages else ""
    if own == "__init__":
        return {package}
    names = {own, f"{package}_{own}", f"{own}_{package}"}
    return names | {package} if own in ("routes", "page", "sheet") else names


def main() -> None:
    """Print the table."""
    for row in table():
        print(f"{row.name:50} {row.figure:8.1f}   wanted {row.wanted:g}, at most {row.most:g}")
        if "--names" in sys.argv:
            for one in row.counted:
                print(f"    {one}")


if __name__ == "__main__":
    main()
