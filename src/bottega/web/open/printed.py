"""The sheet that is printed before a machine is opened: tools, consumables, people, floor, water,
the way there and back, and the trays."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.answer import Answer
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.app.strip.fitting import fitting_of
from bottega.app.strip.plan import decided_repair, plan_of, reach_by
from bottega.core.library.machine_type import RepairOption
from bottega.core.library.make_safe_record import Laying
from bottega.core.library.records import OperationRecord
from bottega.core.machine.reach import ReachStep
from bottega.core.machine.words import put_back_words
from bottega.core.strip.plan import StripWay, used_up
from bottega.web.kit.page import Page, render, workshop_of
from bottega.web.open.tray import Cell, tray_of

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class StripPage:
    """What the printed sheet gets."""

    page: Page
    answer: Answer
    repair: RepairOption
    way: StripWay
    steps: tuple[ReachStep, ...]
    back: list[tuple[str, OperationRecord]]
    """What goes back, in words, with its record."""
    tools: list[str]
    consumables: list[str]
    floor: str
    laying: list[Laying]
    """How it is laid down, the usual way first; empty where it stays upright."""
    cells: list[Cell]


@router.get("/jobs/{number}/strip")
def strip_page(request: Request, number: str) -> Response:
    """Show what is needed and what is done, to be printed. Raises NotFound before a repair is
    decided on."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    machine, repair = answer.machine, decided_repair(answer)
    if repair is None:
        raise NotFound("No repair is decided on yet; then its sheet stands here.")
    way = plan_of(workshop, answer, repair).best
    records = [machine.operations[name] for name in way.order]
    tools = dict.fromkeys(r.tool for r in records if r.tool != "none")
    tables = workshop.shelf.tables
    part = machine.parts.get(repair.component) if repair.do == "part" else None
    fitting = fitting_of(workshop, part).lines if part else ()
    context = StripPage(
        page=Page(f"Strip-down {number}"),
        answer=answer,
        repair=repair,
        way=way,
        steps=reach_by(workshop, answer, repair, way).steps,
        back=[
            (put_back_words(record.name), record)
            for record in (machine.operations[name] for name in way.back)
        ],
        tools=[tables.tools[name].name for name in tools],
        consumables=used_up(tables, records, fitting),
        floor=tables.strip.floor,
        laying=tables.make_safe.laid(machine.laid) if way.tips else [],
        cells=tray_of(machine, tuple(reversed(way.order))),
    )
    return render(request, "open/printed.html", context)
