"""The sheet of the station *Open up*: the way to what was decided on, one operation after the
other."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.answer import Answer
from bottega.core.library.machine_type import RepairOption
from bottega.core.library.records import OperationRecord
from bottega.core.machine.reach import Reach
from bottega.web.job.sheet import Desk, Lead, Sheet


@dataclass(frozen=True)
class Target:
    """The repair decided on, and the way to it from how the machine stands."""

    repair: RepairOption
    reach: Reach

    @property
    def lead(self) -> Lead:
        """Return where it leads on the drawing."""
        return Lead(self.reach, self.repair.component)


@dataclass(frozen=True)
class OpenSheet(Sheet):
    """What the station *Open up* shows; ``target`` is None until a repair is decided on."""

    template: ClassVar[str] = "open/_sheet.html"
    target: Target | None
    operation: OperationRecord | None
    """The operation that comes next, if the next step is one."""

    @property
    def lead(self) -> Lead | None:
        """Return the way to the target."""
        return self.target.lead if self.target else None


def open_sheet(desk: Desk) -> OpenSheet:
    """Return the sheet of the station *Open up*."""
    target = target_of(desk.answer)
    first = next(iter(target.reach.steps), None) if target else None
    operations = desk.answer.machine.operations
    operation = operations[first.to] if first and first.kind == "operation" else None
    return OpenSheet(target, operation)


def target_of(answer: Answer) -> Target | None:
    """Return the repair decided on with the way to it; None when there is none, or the library has
    lost it."""
    decided, machine = answer.job.decided, answer.machine
    if decided is None or decided.repair not in machine.repairs:
        return None
    repair = machine.repairs[decided.repair]
    return Target(repair, answer.reaching.reach(answer.job.state, repair.needs))
