"""Whether what was written down is a code of another model: sheets are mixed up easily."""

from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf

MOST_NAMED = 3


def elsewhere(shelf: Shelf, machine: MachineType, line: str) -> str:
    """Return a sentence that names the models of which a line is a code, or nothing."""
    wanted = line.strip().lower()
    titles = [
        sheet.title
        for name, sheet in shelf.sheets.items()
        if name != machine.sheet and wanted in {code.lower() for code in sheet.codes}
    ]
    if not titles:
        return ""
    return f" It is a code of {', '.join(titles[:MOST_NAMED])}: is it that machine?"
