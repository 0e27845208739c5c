"""What can be worked out at the bench without a job: every formula at one address."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.measure.formula import Worked, facts_of, work_out
from bottega.core.library.formula_record import FormulaRecord
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class FormulasPage:
    """What the page of all formulas gets: by group, in order, the name and record of each."""

    page: Page
    groups: list[tuple[str, list[tuple[str, FormulaRecord]]]]


@dataclass(frozen=True)
class FormulaPage:
    """What the page of one formula gets, and the others of its group."""

    page: Page
    work: Worked
    group: str
    others: list[tuple[str, FormulaRecord]]


@router.get("/measure")
def formulas_page(request: Request) -> Response:
    """Show what can be worked out."""
    table = workshop_of(request).shelf.tables.formulas
    groups = [
        (name, [(key, record) for key, record in table.formulas.items() if record.group == group])
        for group, name in table.groups.items()
    ]
    return render(request, "measure/formulas.html", FormulasPage(Page("At the bench"), groups))


@router.get("/measure/{name}")
def formula_page(request: Request, name: str) -> Response:
    """Show one formula, worked out from what was typed, in the shop's units."""
    workshop = workshop_of(request)
    typed = dict(request.query_params)
    work = work_out(workshop, name, typed, facts_of(workshop.settings, None))
    table = workshop.shelf.tables.formulas
    group = work.record.group
    others = [(k, r) for k, r in table.formulas.items() if r.group == group and k != name]
    context = FormulaPage(Page(work.record.name), work, table.groups[group], others)
    return render(request, "measure/formula.html", context)
