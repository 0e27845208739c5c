"""A table as text: columns as wide as what stands in them."""

from collections.abc import Sequence


def columns(head: Sequence[str], rows: Sequence[Sequence[str]]) -> str:
    """Return a head and rows as lines, each column as wide as its widest cell."""
    every = [list(head), *(list(row) for row in rows)]
    widths = [max(len(row[n]) for row in every) for n in range(len(head))]
    lines = [
        "  ".join(cell.ljust(wide) for cell, wide in zip(row, widths, strict=True)).rstrip()
        for row in every
    ]
    return "\n".join([lines[0], "-" * len(lines[0]), *lines[1:]])
