"""What a revision of a sheet changed."""

from collections.abc import Iterator
from difflib import unified_diff
from typing import Any

from bottega.app.values import shown
from bottega.app.workshop import Workshop
from bottega.core.library.shelf import shipped_shelf


def last_change(workshop: Workshop, sheet: str) -> list[str]:
    """Return the lines of a sheet its last revision took away (-) and put in (+)."""
    revisions = workshop.sheets.of(sheet)
    if not revisions:
        return []
    source = shipped_shelf().sources.get(sheet)
    shipped = source.text if source else ""
    before = revisions[1].text if len(revisions) > 1 else shipped
    lines = unified_diff(before.splitlines(), revisions[0].text.splitlines(), n=0, lineterm="")
    return [line for line in lines if not line.startswith(("---", "+++", "@@"))]


VALUES_SAID = 3
"""Values of a change that are said in a message; chosen, more push it off a phone."""


def said_since(then: Any, now: Any) -> str:
    """Return in words which values of plain data are otherwise now, and what they are: the first of
    them, and how many more there are."""
    before, after = dict(_leaves(then, ())), dict(_leaves(now, ()))
    paths = [path for path in {**before, **after} if before.get(path) != after.get(path)]
    words = [f"{'.'.join(path)} is {shown(after.get(path))}" for path in paths[:VALUES_SAID]]
    more = len(paths) - VALUES_SAID
    return "; ".join([*words, f"{more} more values"] if more > 0 else words)


def _leaves(data: Any, path: tuple[str, ...]) -> Iterator[tuple[tuple[str, ...], Any]]:
    """Yield what stands in plain data, by its key path."""
    items = data.items() if isinstance(data, dict) else enumerate(data, start=1)
    for key, value in items:
        if isinstance(value, dict | list):
            yield from _leaves(value, (*path, str(key)))
        else:
            yield (*path, str(key)), value
