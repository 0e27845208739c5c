"""The sheet of the station *Close up*: what is off, and in which order it goes back."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.core.job.proofs import Owed, before_closing
from bottega.core.library.records import OperationRecord
from bottega.web.job.sheet import Desk, Sheet


@dataclass(frozen=True)
class Back:
    """Something that is off: its operation, its id, and whether something else has to go back
    before it."""

    id: str
    operation: OperationRecord
    blocked: bool


@dataclass(frozen=True)
class CloseSheet(Sheet):
    """What the station *Close up* shows, what goes back first at the top."""

    template: ClassVar[str] = "close/_sheet.html"
    back: list[Back]
    first: list[Owed]
    """What is to be proved while it is still open."""


def close_sheet(desk: Desk) -> CloseSheet:
    """Return the sheet of the station *Close up*."""
    answer = desk.answer
    off, operations = answer.job.state.off, answer.machine.operations
    return CloseSheet(
        back=[
            Back(op, operations[op], bool(answer.reaching.blocking(op, off)))
            for op in reversed(off)
            if op in operations
        ],
        first=before_closing(answer.job, answer.machine),
    )
