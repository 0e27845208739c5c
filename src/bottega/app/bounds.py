"""Bounds of JSON that comes from outside, held before it is read: what has a million items, or lies
a thousand deep, is refused by its letters alone."""

import json
import re
from typing import Any

from bottega.app.errors import BadValue

MOST_DEEP = 40
"""Brackets within each other; chosen, four times what a job needs."""
_BRACKETS = re.compile(rb"[\[\]{}]")
_TEXT = re.compile(rb'"(?:[^"\\]++|\\.)*+(?:"|\\?\Z)', re.DOTALL)
"""A text of JSON, or what is left of one that is cut: so that a search goes on behind it."""


def refuse_unbounded(raw: bytes, most: int, field: str) -> None:
    """Raise BadValue for JSON of more than ``most`` items, or too deep."""
    raw = _TEXT.sub(b"", raw)
    items = raw.count(b",") + raw.count(b"[") + raw.count(b"{")
    if items > most:
        raise BadValue(f"Found {items} items, expected at most {most}.", field)
    deep = 0
    for bracket in _BRACKETS.findall(raw):
        deep += 1 if bracket in b"[{" else -1
        if deep > MOST_DEEP:
            raise BadValue(f"Found more than {MOST_DEEP} brackets within each other.", field)


def json_of(raw: bytes, most: int, field: str, expected: str) -> Any:
    """Return plain data from JSON within bounds. Raises BadValue saying what was ``expected``."""
    refuse_unbounded(raw, most, field)
    try:
        return json.loads(raw.decode())
    except ValueError as error:
        where = f" at line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise BadValue(
            f"The file is cut or is not JSON{where}; expected {expected}.", field
        ) from error
