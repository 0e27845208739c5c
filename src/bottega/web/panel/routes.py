"""The panel of a sheet without a job: tap along or type, and see what it may mean."""

from fastapi import APIRouter, Request, Response

from bottega.app.errors import BadValue, NotFound
from bottega.app.panel.heard import figures, look_up, sheet_machine
from bottega.core.library.sheet import PanelRecord
from bottega.web.kit.page import Page, render, workshop_of
from bottega.web.panel.heard import (
    HeardPage,
    decoded_lines,
    hearing,
    pad_of,
    reading_lines,
    round_lines,
)

router = APIRouter(include_in_schema=False)
ASKS = {
    "display": "what the display shows",
    "lamp_pattern": "1 for each lit lamp, 0 for a dark one, from the left",
    "lamp_weights": "the sum of each page, with a comma",
}


@router.get("/panel/{sheet}")
def panel_page(
    request: Request, sheet: str, rhythm: str = "", shown: str = "", fill: bool = False
) -> Response:
    """Show what a panel may mean: of the rhythm tapped so far, or of what was typed."""
    workshop = workshop_of(request)
    machine = sheet_machine(workshop, sheet)
    panel = machine.panel
    if panel is None:
        raise NotFound(f"{machine.title} shows no codes: its sheet has no panel.")
    trouble, advice, rounds, readings = "", "", [], []
    try:
        if rhythm:
            found, advice = hearing(machine, rhythm, workshop.shelf.tables.engine)
            rounds, readings = round_lines(found), reading_lines(found)
        elif shown:
            readings = decoded_lines(look_up(machine, _typed(panel, shown)))
    except BadValue as error:
        trouble = str(error)
    context = HeardPage(
        page=Page(f"What {machine.title} shows"),
        sheet_id=sheet,
        panel=panel,
        pad=pad_of(panel),
        asks=ASKS.get(panel.kind, ""),
        shown=shown,
        trouble=trouble,
        fill=fill,
        rounds=rounds,
        readings=readings,
        advice=advice,
        codes=list(machine.codes.values()),
    )
    return render(request, "panel/heard.html", context)


def _typed(panel: PanelRecord, shown: str) -> tuple[int, ...] | str:
    if panel.kind == "display":
        return shown
    return figures(shown, "," if panel.kind == "lamp_weights" else "")
