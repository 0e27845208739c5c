"""The sheet of the station *Open up*: the shortest way to what was decided on, one step after the
other, with its tray."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.answer import Answer
from bottega.app.strip.plan import decided_repair, is_made, plan_of, reach_by, soaking_of, tags_of
from bottega.app.strip.sight import in_sight
from bottega.core.library.joint_record import JointKind
from bottega.core.library.machine_type import Check, RepairOption
from bottega.core.library.make_safe_record import Laying
from bottega.core.library.records import OperationRecord
from bottega.core.machine.reach import Reach
from bottega.core.strip.plan import StripPlan
from bottega.core.wording import lower_first
from bottega.web.open.tray import Cell, tray_of
from bottega.web.station.sheet import Desk, Lead, Sheet


@dataclass(frozen=True)
class Target:
    """The repair decided on, the ways to it from how the machine stands, and the shortest as
    steps."""

    repair: RepairOption
    plan: StripPlan
    reach: Reach
    made: bool
    """Whether it was made since it was decided on: nothing is to be opened for it any more."""

    @property
    def lead(self) -> Lead:
        """Return where it leads on the drawing."""
        return Lead(self.reach, self.repair.component)


@dataclass(frozen=True)
class StuckWork:
    """What will not come off: its operation, in words after "Cannot", and whether no way
    round it is left."""

    operation: str
    name: str
    in_the_way: bool


@dataclass(frozen=True)
class OpenSheet(Sheet):
    """What the station *Open up* shows; ``target`` is None until a repair is decided on."""

    template: ClassVar[str] = "open/_sheet.html"
    target: Target | None
    operation: OperationRecord | None
    """The operation that comes next, if the next step is one."""
    joints: list[tuple[str, JointKind]]
    """The kinds of fastener it has, with what is tried when they are stuck."""
    tray: list[Cell]
    soaking: list[tuple[str, float]]
    """What soaks, with the minutes it has yet to."""
    stuck: list[StuckWork]
    sight: list[Check]
    """What the last thing taken off has laid open, to be answered in passing."""
    laying: list[Laying]
    """Ways to lay it down, where that comes next."""
    tags: list[tuple[OperationRecord, str]]
    error: str
    """Why what came off could not be noted."""

    @property
    def lead(self) -> Lead | None:
        """Return the way to the target."""
        return self.target.lead if self.target else None


def open_sheet(desk: Desk) -> OpenSheet:
    """Return the sheet of the station *Open up*."""
    target, answer = target_of(desk), desk.answer
    first = next(iter(target.reach.steps), None) if target else None
    operations = answer.machine.operations
    operation = operations[first.to] if first and first.what == "off" else None
    kinds = dict.fromkeys(one.kind for one in operation.fasteners) if operation else {}
    tables = desk.workshop.shelf.tables
    soaks = soaking_of(desk.workshop, answer).items()
    return OpenSheet(
        target=target,
        operation=operation,
        joints=[(kind, tables.joints.of(kind)) for kind in kinds],
        tray=tray_of(answer.machine, answer.job.state.off),
        soaking=[(operations[name].name, minutes) for name, minutes in soaks],
        stuck=_held(answer, target.plan) if target else [],
        sight=in_sight(answer) if target and not target.made else [],
        laying=tables.make_safe.laid(answer.machine.laid) if first and first.lays else [],
        tags=tags_of(answer),
        error=desk.error.message if desk.error else "",
    )


def _held(answer: Answer, plan: StripPlan) -> list[StuckWork]:
    operations = answer.machine.operations
    return [
        StuckWork(name, lower_first(operations[name].name), name in plan.blocked)
        for name in answer.job.stuck
        if name in operations
    ]


def target_of(desk: Desk) -> Target | None:
    """Return the repair decided on with the ways to it; None when there is none, or the library has
    lost it."""
    answer, repair = desk.answer, decided_repair(desk.answer)
    if repair is None:
        return None
    plan = plan_of(desk.workshop, answer, repair)
    made = is_made(answer)
    steps = Reach((), 0.0) if made else reach_by(desk.workshop, answer, repair, plan.best)
    return Target(repair, plan, steps, made)
