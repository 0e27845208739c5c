"""Read one YAML file into plain data, remembering the line of every key. The library's only door to
the disk."""

import io
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from ruamel.yaml import YAML
from ruamel.yaml.error import MarkedYAMLError, YAMLError
from ruamel.yaml.events import CollectionEndEvent, CollectionStartEvent, DocumentStartEvent
from ruamel.yaml.nodes import MappingNode, Node, ScalarNode, SequenceNode

from bottega.core.library.errors import LibraryError
from bottega.core.library.upcast import SHEET_VERSION, NewerSheet, upcasted_sheet

MAX_BYTES = 2_000_000
"""Bytes of a file; chosen, ten times the largest library file."""
MAX_DEPTH = 20
"""Levels of nesting; chosen, the library's own records have seven."""
SAFE_DEPTH = 200
"""Levels one line may look like; chosen, so that the parser is not given thousands on a line, over
which it takes its time."""
MAX_MARKS = 40_000
"""Line ends and commas of a text from outside, about one a value; chosen, so that reading it stays
near a second."""

Path_ = tuple[str | int, ...]


class YamlSource:
    """Plain data of one YAML file with the line number (from 1) at which each key path stands."""

    def __init__(self, file: str, data: Any, lines: dict[Path_, int], text: str = "") -> None:
        self.file = file
        self.data = data
        self.text = text
        self._lines = lines

    def line_of(self, path: Path_) -> int:
        """Return the line of a key path, or of its nearest known parent; 0 if nothing is known."""
        while path and path not in self._lines:
            path = path[:-1]
        return self._lines.get(path, 0)


def read_yaml(path: Path, name: str = "") -> YamlSource:
    """Read a YAML file of at most 2 MB, called ``name`` in messages, by default as on the disk.
    Raises LibraryError with file and line when it cannot be used."""
    size, name = path.stat().st_size, name or path.name
    if size > MAX_BYTES:
        raise LibraryError.one(name, 0, "", f"{size} bytes", f"at most {MAX_BYTES} bytes")
    return parse_yaml(path.read_bytes(), name)


def parse_yaml(raw: bytes, file: str, version: int = SHEET_VERSION) -> YamlSource:
    """Parse YAML bytes in UTF-8. Anchors, tags and duplicate keys are refused, since they hide what
    is meant.

    A text of an older ``version`` of sheets is made into one of today. Raises LibraryError.
    """
    text = _decoded(raw, file)
    with _refused(file):
        _check_events(text, file)
        root = YAML(typ="safe").compose(io.StringIO(text))
    if root is None:
        raise LibraryError.one(file, 0, "", "an empty file", "a mapping")
    lines: dict[Path_, int] = {}
    data = _plain(root, (), file, lines)
    if version != SHEET_VERSION and isinstance(data, dict):
        try:
            data = upcasted_sheet(data, version)
        except NewerSheet as error:
            raise LibraryError.one(file, 0, "", str(error), "a sheet this Bottega knows") from error
    return YamlSource(file, data, lines, text)


def documents(raw: bytes, file: str) -> list[str]:
    """Return the texts of a stream of YAML documents, comments and all. Raises LibraryError."""
    text = _decoded(raw, file)
    with _refused(file):
        starts = [
            event.start_mark.index
            for event in YAML(typ="safe").parse(io.StringIO(text))
            if isinstance(event, DocumentStartEvent) and event.explicit
        ]
    ends = [*starts, len(text)]
    parts = [text[: ends[0]], *(text[a + 3 : b] for a, b in zip(starts, ends[1:], strict=True))]
    return [part.strip("\n") + "\n" for part in parts if part.strip()]


@contextmanager
def _refused(file: str) -> Iterator[None]:
    """Turn what the parser complains of into LibraryError."""
    try:
        yield
    except MarkedYAMLError as error:
        line = error.problem_mark.line + 1 if error.problem_mark else 0
        found = error.problem or "broken YAML"
        raise LibraryError.one(file, line, "", found, "well-formed YAML") from error
    except (YAMLError, RecursionError, ValueError) as error:
        found = str(error).splitlines()[0]
        raise LibraryError.one(file, 0, "", found, "well-formed YAML") from error


def _check_events(text: str, file: str) -> None:
    """Refuse anchors, and a text nested too deep for what recurses over it. Its events come one by
    one, without recursion."""
    depth = 0
    for event in YAML(typ="safe").parse(io.StringIO(text)):
        line = event.start_mark.line + 1
        if getattr(event, "anchor", None):
            raise LibraryError.one(file, line, "", "an anchor or alias", "the value written out")
        if isinstance(event, CollectionStartEvent):
            depth += 1
        elif isinstance(event, CollectionEndEvent):
            depth -= 1
        if depth > MAX_DEPTH:
            raise LibraryError.one(
                file, line, "", f"nesting deeper than {MAX_DEPTH}", "a flatter structure"
            )


def _decoded(raw: bytes, file: str) -> str:
    """Return the text of a file, refused where the parser could be hurt by it: too large, too deep,
    too much."""
    if len(raw) > MAX_BYTES:
        raise LibraryError.one(file, 0, "", f"{len(raw)} bytes", f"at most {MAX_BYTES} bytes")
    try:
        text = raw.decode("utf-8-sig").replace("\r\n", "\n")
    except UnicodeDecodeError as error:
        found = f"byte {raw[error.start]:#x} at {error.start}"
        raise LibraryError.one(file, 0, "", found, "text in UTF-8") from error
    marks = text.count("\n") + text.count(",")
    if marks > MAX_MARKS:
        raise LibraryError.one(file, 0, "", f"{marks} values or so", f"at most {MAX_MARKS}")
    for number, line in enumerate(text.split("\n"), start=1):
        if _may_nest(line) > SAFE_DEPTH:
            expected = f"nesting of at most {MAX_DEPTH}"
            raise LibraryError.one(file, number, "", "very deep nesting", expected)
    return text


def _may_nest(line: str) -> int:
    """Return how deep one line could nest at the most: its indent, its dashes and question marks,
    its brackets."""
    rest = line.lstrip(" ")
    return (
        len(line)
        - len(rest)
        + rest.count("- ")
        + rest.count("? ")
        + rest.count("[")
        + rest.count("{")
    )


def at_path(data: Any, path: Path_) -> Any:
    """Return what stands at a key path of plain data, None where nothing does."""
    for key in path:
        data = data.get(key) if isinstance(data, dict) else None
    return data


def written(text: str, *changes: tuple[Path_, Any]) -> str:
    """Return YAML text with values set at key paths; missing parents are made, comments and order
    survive.

    A path that ends in a list appends to it. Raises LibraryError when a parent is neither a mapping
    nor a list.
    """
    yaml = YAML()
    yaml.width = 4096
    yaml.preserve_quotes = True
    data = yaml.load(text)
    for path, value in changes:
        _set(data, path, value)
    out = io.StringIO()
    yaml.dump(data, out)
    return out.getvalue()


def _set(data: Any, path: Path_, value: Any) -> None:
    here = data
    for depth, key in enumerate(path[:-1]):
        if here.get(key) is None:
            here[key] = {}
        here = here[key]
        if not isinstance(here, dict):
            where = ".".join(str(part) for part in path[: depth + 1])
            raise LibraryError.one("sheet", 0, where, type(here).__name__, "a mapping")
    last = path[-1]
    if isinstance(here.get(last), list):
        here[last].append(value)
    else:
        here[last] = value


def _plain(node: Node, path: Path_, file: str, lines: dict[Path_, int]) -> Any:
    line = node.start_mark.line + 1
    lines.setdefault(path, line)
    key = ".".join(str(part) for part in path)
    if isinstance(node, MappingNode):
        return _mapping(node, path, file, lines)
    if isinstance(node, SequenceNode):
        return [_plain(child, (*path, i), file, lines) for i, child in enumerate(node.value)]
    assert isinstance(node, ScalarNode)
    return _scalar(node, file, line, key)


def _mapping(node: MappingNode, path: Path_, file: str, lines: dict[Path_, int]) -> dict[str, Any]:
    out: dict[str, Any] = {}
    for key_node, value_node in node.value:
        line = key_node.start_mark.line + 1
        where = ".".join(str(part) for part in path)
        if not isinstance(key_node, ScalarNode):
            raise LibraryError.one(file, line, where, "a key that is not a word", "a plain key")
        key = str(key_node.value)
        if key in out:
            raise LibraryError.one(file, line, where, f"the key '{key}' twice", "each key once")
        lines[(*path, key)] = line
        out[key] = _plain(value_node, (*path, key), file, lines)
    return out


def _scalar(node: ScalarNode, file: str, line: int, key: str) -> Any:
    tag, text = str(node.tag), str(node.value)
    kind = tag.rsplit(":", 1)[-1]
    if kind == "null":
        return None
    if kind == "bool":
        # YAML 1.2 knows only true and false; "on", "off", "yes" and "no" stay words.
        return text.lower() == "true" if text.lower() in ("true", "false") else text
    if kind in ("int", "float"):
        try:
            return int(text) if kind == "int" else float(text)
        except ValueError:
            return text
    if kind not in ("str", "timestamp"):
        raise LibraryError.one(file, line, key, f"the tag {tag}", "no tag")
    return text
