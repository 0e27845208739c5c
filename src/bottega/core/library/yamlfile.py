"""Read one YAML file into plain data, remembering the line of every key. The library's only door to the disk."""

import io
from pathlib import Path
from typing import Any

from ruamel.yaml import YAML
from ruamel.yaml.error import MarkedYAMLError, YAMLError
from ruamel.yaml.nodes import MappingNode, Node, ScalarNode, SequenceNode

from bottega.core.library.errors import LibraryError

MAX_BYTES = 2_000_000
MAX_DEPTH = 20

Path_ = tuple[str | int, ...]


class Source:
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


def read_yaml(path: Path) -> Source:
    """Read a YAML file of at most 2 MB. Raises LibraryError with file and line when it cannot be used."""
    size = path.stat().st_size
    if size > MAX_BYTES:
        raise LibraryError.one(path.name, 0, "", f"{size} bytes", f"at most {MAX_BYTES} bytes")
    return parse_yaml(path.read_bytes(), path.name)


def parse_yaml(raw: bytes, file: str) -> Source:
    """Parse YAML bytes in UTF-8. Anchors, tags and duplicate keys are refused, since they hide what is meant."""
    if len(raw) > MAX_BYTES:
        raise LibraryError.one(file, 0, "", f"{len(raw)} bytes", f"at most {MAX_BYTES} bytes")
    try:
        text = raw.decode("utf-8-sig").replace("\r\n", "\n")
    except UnicodeDecodeError as error:
        raise LibraryError.one(file, 0, "", f"byte {raw[error.start]:#x} at {error.start}", "text in UTF-8") from error
    try:
        root = YAML(typ="safe").compose(io.StringIO(text))
    except MarkedYAMLError as error:
        line = error.problem_mark.line + 1 if error.problem_mark else 0
        raise LibraryError.one(file, line, "", error.problem or "broken YAML", "well-formed YAML") from error
    except (YAMLError, RecursionError) as error:
        raise LibraryError.one(file, 0, "", str(error).splitlines()[0], "well-formed YAML") from error
    if root is None:
        raise LibraryError.one(file, 0, "", "an empty file", "a mapping")
    lines: dict[Path_, int] = {}
    return Source(file, _plain(root, (), file, lines, set()), lines, text)


def written(text: str, path: Path_, value: Any) -> str:
    """Return YAML text with ``value`` set at a key path; missing parents are made, comments and order survive.

    A path that ends in a list appends to it. Raises LibraryError when a parent is neither a mapping nor a list.
    """
    yaml = YAML()
    yaml.width = 4096
    yaml.preserve_quotes = True
    data = yaml.load(text)
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
    out = io.StringIO()
    yaml.dump(data, out)
    return out.getvalue()


def _plain(node: Node, path: Path_, file: str, lines: dict[Path_, int], seen: set[int]) -> Any:
    line = node.start_mark.line + 1
    lines.setdefault(path, line)
    key = ".".join(str(part) for part in path)
    if id(node) in seen or node.anchor:
        raise LibraryError.one(file, line, key, "an anchor or alias", "the value written out")
    seen.add(id(node))
    if len(path) > MAX_DEPTH:
        raise LibraryError.one(file, line, key, f"nesting deeper than {MAX_DEPTH}", "a flatter structure")
    if isinstance(node, MappingNode):
        return _mapping(node, path, file, lines, seen)
    if isinstance(node, SequenceNode):
        return [_plain(child, (*path, i), file, lines, seen) for i, child in enumerate(node.value)]
    assert isinstance(node, ScalarNode)
    return _scalar(node, file, line, key)


def _mapping(node: MappingNode, path: Path_, file: str, lines: dict[Path_, int], seen: set[int]) -> dict[str, Any]:
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
        out[key] = _plain(value_node, (*path, key), file, lines, seen)
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
