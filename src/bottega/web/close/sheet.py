"""The sheet of the station *Close up*: what is off, in the order in which it goes back, tray by
tray."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.strip.plan import photos_of, tags_of, way_back
from bottega.core.job.proofs import Owed, before_closing, owed
from bottega.core.library.joint_record import JointKind
from bottega.core.library.records import OperationRecord
from bottega.core.machine.words import put_back_words
from bottega.core.strip.order import Order
from bottega.web.open.tray import Cell, tray_of
from bottega.web.station.sheet import Desk, Sheet


@dataclass(frozen=True)
class Back:
    """Something that is off: its operation, its id, the posture it wants, how it lay, how tight it
    goes, and whether something else has to go back before it."""

    id: str
    name: str
    operation: OperationRecord
    turned: str
    photo: str
    joints: list[tuple[str, JointKind]]
    blocked: bool


@dataclass(frozen=True)
class CloseSheet(Sheet):
    """What the station *Close up* shows, what goes back first at the top."""

    template: ClassVar[str] = "close/_sheet.html"
    back: list[Back]
    order: Order
    tray: list[Cell]
    tags: list[tuple[OperationRecord, str]]
    left: list[Owed]
    """Cells of the tray that are not empty though their things are back."""
    first: list[Owed]
    """What is to be proved while it is still open."""


def close_sheet(desk: Desk) -> CloseSheet:
    """Return the sheet of the station *Close up*."""
    answer = desk.answer
    off, operations = answer.job.state.off, answer.machine.operations
    order, photos = way_back(desk.workshop, answer), photos_of(answer)
    joints = desk.workshop.shelf.tables.joints
    back = []
    for step in order.steps:
        record = operations[step.item.id]
        kinds = dict.fromkeys(one.kind for one in record.fasteners)
        back.append(
            Back(
                step.item.id,
                put_back_words(record.name),
                record,
                step.posture if step.turned else "",
                photos.get(step.item.id, ""),
                [(kind, joints.of(kind)) for kind in kinds],
                bool(answer.reaching.blocking(step.item.id, off)),
            )
        )
    return CloseSheet(
        back=back,
        order=order,
        tray=tray_of(answer.machine, off),
        tags=tags_of(answer),
        left=[d for d in owed(answer.job, answer.machine) if d.kind == "tray" and not d.settled],
        first=before_closing(answer.job, answer.machine),
    )
