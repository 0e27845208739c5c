"""What a revision of a sheet changed."""

from difflib import unified_diff

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
