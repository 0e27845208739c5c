"""The sheet of the station *Fit*: the part to go in, its numbers, and what was put right so far."""

from dataclasses import dataclass
from datetime import timedelta
from typing import ClassVar

from bottega.app.strip.fitting import PartFitting, fitting_of
from bottega.app.strip.old_part import OldPart, looks_at, old_part_of
from bottega.core.job.events import Recheck
from bottega.core.job.recheck import again_after
from bottega.core.job.words import repair_name
from bottega.core.library.sheet import SheetPart
from bottega.web.fit.clock import Clock, clock_of
from bottega.web.open.sheet import Target, target_of
from bottega.web.station.sheet import Desk, Lead, Sheet


@dataclass(frozen=True)
class FitSheet(Sheet):
    """What the station *Fit* shows; ``target`` is None until a repair is decided on."""

    template: ClassVar[str] = "fit/_sheet.html"
    target: Target | None
    numbers: tuple[SheetPart, ...]
    hub: bool
    """Whether what goes in sits in a hub that is known."""
    fitting: PartFitting | None
    """How it goes in here, with what is replaced together with it and what is reused."""
    clock: Clock | None
    """How it is pressed on round, drawn."""
    in_hand: str
    """The check by which the old part is looked at on the bench; empty where there is none."""
    old_part: OldPart | None
    """The part that came out last, if nobody has looked at it yet."""
    works: list[tuple[str, str]]
    """What can be worked out for it, by name."""
    done: list[str]
    """What was put right so far, by name."""
    last: str
    """The last repair; empty when there is none."""
    recheck: Recheck | None
    """When the last repair is looked at again."""
    tomorrow: str
    """The first day a cure can be looked at again."""
    again: str
    """The day the last repair had better be looked at again if nobody can explain it."""

    @property
    def lead(self) -> Lead | None:
        """Return the way to the target."""
        return self.target.lead if self.target else None


def fit_sheet(desk: Desk) -> FitSheet:
    """Return the sheet of the station *Fit*."""
    target, machine, job = target_of(desk), desk.answer.machine, desk.answer.job
    part = target is not None and target.repair.do == "part"
    last = job.repairs[-1].repair if job.repairs else ""
    hub = machine.hub
    new = machine.parts.get(target.repair.component) if target and part else None
    fitting = fitting_of(desk.workshop, new) if new else None
    return FitSheet(
        target=target,
        hub=hub is not None and target is not None and target.repair.component == hub.component,
        numbers=machine.part_numbers.get(target.repair.component, ()) if target and part else (),
        fitting=fitting,
        clock=clock_of(fitting) if fitting else None,
        in_hand=_in_hand(desk, target) if target and part else "",
        old_part=old_part_of(desk.answer),
        works=fitting_works(desk, target) if target else [],
        done=[repair_name(machine, made.repair) for made in job.repairs],
        last=last,
        recheck=job.rechecks.get(last),
        tomorrow=tomorrow(desk),
        again=best_day(desk, last) if last in machine.repairs else tomorrow(desk),
    )


def _in_hand(desk: Desk, target: Target) -> str:
    check = looks_at(desk.answer.machine, target.repair.component)
    return check.id if check and check.id not in desk.answer.job.done_now() else ""


def fitting_works(desk: Desk, target: Target) -> list[tuple[str, str]]:
    """Return the formulas that stand at the fitting of a part, each with its name."""
    table = desk.workshop.shelf.tables.formulas.formulas
    part = target.repair.component
    return [(key, record.name) for key, record in table.items() if part in record.fitting]


def tomorrow(desk: Desk) -> str:
    """Return the day after today as a date field wants it."""
    return day_after(desk, 1)


def best_day(desk: Desk, repair: str) -> str:
    """Return the day a repair nobody can explain had better be looked at again."""
    engine = desk.workshop.shelf.tables.engine
    return day_after(desk, again_after(repair, desk.answer.machine, engine).days)


def day_after(desk: Desk, days: int) -> str:
    """Return the day so many days from today as a date field wants it."""
    return (desk.workshop.now().astimezone().date() + timedelta(days=days)).isoformat()
