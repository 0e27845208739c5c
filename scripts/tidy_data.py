"""Write the YAML of ``data/`` in one spelling: what fits into a line stands in a line, what does
not is a block, lines are wrapped, and a record's keys stand in the order of its class. Quotes stand
where a reader of either version of YAML needs them.

Run it with ``python scripts/tidy_data.py``; ``--check`` changes nothing and fails where a file is
spelt otherwise.
"""

import io
import re
import sys
from itertools import accumulate, groupby
from pathlib import Path
from textwrap import wrap
from typing import Any

from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq
from ruamel.yaml.scalarstring import DoubleQuotedScalarString, FoldedScalarString

from bottega.core.library import records

ROOT = Path(__file__).parents[1]
DATA = ROOT / "src" / "bottega" / "data"
WIDTH = 100
"""Columns of a line, as in the code."""
SHORT = 32
"""Columns of the longest item of a list whose items stand side by side over several lines."""
STEP = 2
"""Columns a level is set in."""
FLOWING = re.compile(r"[^\W_][^\n:#{}\[\],\"]*(?<! )")
"""Texts that need no quotes inside brackets."""
STANDING = re.compile(r"[^\W_](?:[^\n:#]|:(?=\S)|(?<! )#)*(?<! )")
"""Texts that need no quotes in a line of their own."""
KINDS = {
    "components": records.Component,
    "effects": records.EffectRecord,
    "faults": records.FaultRecord,
    "checks": records.CheckRecord,
    "complaints": records.ComplaintRecord,
    "marks": records.MarkRecord,
    "operations": records.OperationRecord,
    "service": records.ServiceStep,
}
"""By the key of a file, the class of the records under it."""
FIRST = ("name", "component", "reads", "at", "plug")
"""Keys that stand first in a record, whatever its class."""
SAID_OTHERWISE = re.compile(
    r"(?i)y|n|yes|no|on|off|true|false|null|[-+.\d][-+.\d_:xoe]*|\d+(\.\d*)?(e[-+]?\d+)?"
)
"""Texts that one of YAML's versions takes for something else."""


def tidied(text: str) -> str:
    """Return a file's text in the one spelling. Raises YAMLError where the text cannot be read."""
    yaml = _yaml()
    data = yaml.load(_with_comments_filled(text))
    for key, value in data.items():
        if key in KINDS and isinstance(value, CommentedMap):
            _set_in_order(value, [*dict.fromkeys((*FIRST, *KINDS[key].model_fields))])
        data[key] = _laid_out(value, indent=0, before=len(str(key)) + 2)
    stream = io.StringIO()
    yaml.dump(data, stream)
    return "\n".join(line.rstrip() for line in stream.getvalue().splitlines()) + "\n"


def _set_in_order(records: CommentedMap, order: list[str]) -> None:
    for record in records.values():
        if isinstance(record, CommentedMap):
            for key in sorted(record, key=lambda key: order.index(key) if key in order else 0):
                record.move_to_end(key)


def _with_comments_filled(text: str) -> str:
    """Return a text with its comments wrapped; a comment's lines are one paragraph."""
    lines: list[str] = []
    for said, group in groupby(text.splitlines(), key=lambda line: line.lstrip().startswith("#")):
        if not said:
            lines += group
            continue
        first, *rest = list(group)
        start = first[: first.index("#")] + "# "
        words = " ".join(line.lstrip("# ") for line in (first, *rest))
        lines += wrap(words, WIDTH, initial_indent=start, subsequent_indent=start)
    return "\n".join(lines) + "\n"


def _yaml() -> YAML:
    """Return a reader and writer that keeps comments and the spelling of numbers."""
    yaml = YAML(typ="rt")
    yaml.width = WIDTH - 1  # a comma may follow
    yaml.indent(mapping=STEP, sequence=STEP + 2, offset=STEP)
    return yaml


def _laid_out(value: Any, *, indent: int, before: int) -> Any:
    """Return a value with its style chosen, where ``before`` columns stand before it in its line
    and its parent is set in by ``indent``."""
    if isinstance(value, str):
        return _standing(value, indent, before)
    if before + len(_in_a_line(value)) <= WIDTH and not _has_comments(value):
        return _flowing(value)
    if isinstance(value, CommentedSeq):
        return _list(value, indent)
    if isinstance(value, CommentedMap):
        value.fa.set_block_style()
        for key, item in value.items():
            start = indent + STEP + len(_in_a_line(key)) + 2
            value[key] = _laid_out(item, indent=indent + STEP, before=start)
    return value


def _standing(text: str, indent: int, before: int) -> str:
    """Return a text that stands in a line of its own, or over several."""
    room = WIDTH - before
    if len(text) <= room and _is_plain(text, STANDING):
        return str(text)
    if len(text) + 2 <= room:
        return DoubleQuotedScalarString(text)
    folded = FoldedScalarString(text)
    lines = wrap(text, WIDTH - indent - STEP, break_long_words=False, break_on_hyphens=False)
    ends = list(accumulate(len(line) + 1 for line in lines))
    folded.fold_pos = [end - 1 for end in ends[:-1]]
    return folded


def _list(value: CommentedSeq, indent: int) -> CommentedSeq:
    """Return a list too long for a line: short texts side by side, else an item a line."""
    if all(not isinstance(item, list | dict) and len(_in_a_line(item)) <= SHORT for item in value):
        return _flowing(value)
    value.fa.set_block_style()
    for place, item in enumerate(value):
        start = indent + STEP + 2
        value[place] = _laid_out(item, indent=start - STEP, before=start)
    return value


def _flowing(value: Any) -> Any:
    if isinstance(value, CommentedMap):
        value.fa.set_flow_style()
        for key, item in value.items():
            value[key] = _flowing(item)
    elif isinstance(value, CommentedSeq):
        value.fa.set_flow_style()
        for place, item in enumerate(value):
            value[place] = _flowing(item)
    elif isinstance(value, str):
        return str(value) if _is_plain(value, FLOWING) else DoubleQuotedScalarString(value)
    return value


def _is_plain(text: str, need: re.Pattern[str]) -> bool:
    return bool(need.fullmatch(text)) and not SAID_OTHERWISE.fullmatch(text)


def _in_a_line(value: Any) -> str:
    """Return a value as it stands in a line."""
    if isinstance(value, CommentedMap):
        inner = ", ".join(f"{_in_a_line(k)}: {_in_a_line(item)}" for k, item in value.items())
        return f"{{{inner}}}"
    if isinstance(value, CommentedSeq):
        return f"[{', '.join(_in_a_line(item) for item in value)}]"
    if isinstance(value, str):
        return value if _is_plain(value, FLOWING) else f'"{value}"'
    return str(value)


def _has_comments(value: Any) -> bool:
    if not isinstance(value, CommentedMap | CommentedSeq):
        return False
    inner = value.values() if isinstance(value, CommentedMap) else value
    return bool(value.ca.items) or any(_has_comments(item) for item in inner)


def files() -> list[Path]:
    """Return the files held to the spelling."""
    return sorted(DATA.rglob("*.yaml"))


def main() -> None:
    """Write the files anew, or say which are spelt otherwise."""
    otherwise = [path for path in files() if tidied(path.read_text()) != path.read_text()]
    if "--check" not in sys.argv:
        for path in otherwise:
            path.write_text(tidied(path.read_text()))
        return
    if otherwise:
        names = ", ".join(str(path.relative_to(ROOT)) for path in otherwise)
        sys.exit(f"Spelt otherwise: {names}. Run: python scripts/tidy_data.py")


if __name__ == "__main__":
    main()
