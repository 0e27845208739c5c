"""The library on screen: what machines it knows, and each with its parts, faults, checks, codes and values."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.errors import NotFound
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.web.drawing import Drawing, plain
from bottega.web.rendering import Page, render, workshop_of

router = APIRouter(prefix="/library", include_in_schema=False)


@dataclass(frozen=True)
class Card:
    """One machine of the library."""

    link: str
    kind: str
    title: str
    about: str
    counts: str
    drawing: Drawing


@dataclass(frozen=True)
class LibraryPage:
    """What the library page gets."""

    page: Page
    cards: list[Card]


@dataclass(frozen=True)
class MachinePage:
    """What a machine's page gets."""

    page: Page
    machine: MachineType
    drawing: Drawing


@router.get("")
def library_page(request: Request) -> Response:
    """Show all machines."""
    cards = [_card(machine) for machine in workshop_of(request).shelf.machines()]
    return render(request, "library/page.html", LibraryPage(Page("Library", "library"), cards))


@router.get("/{archetype}")
def archetype_page(request: Request, archetype: str) -> Response:
    """Show an archetype."""
    return _machine(request, archetype, None)


@router.get("/{archetype}/{sheet}")
def sheet_page(request: Request, archetype: str, sheet: str) -> Response:
    """Show a sheet."""
    return _machine(request, archetype, sheet)


def _machine(request: Request, archetype: str, sheet: str | None) -> Response:
    try:
        machine = workshop_of(request).machine(archetype, sheet)
    except UnknownMachine as error:
        raise NotFound(f"Not in the library: {error}.") from error
    return render(request, "library/machine.html", MachinePage(Page(machine.title, "library"), machine, plain(machine)))


def _card(machine: MachineType) -> Card:
    link = f"/library/{machine.archetype}" + (f"/{machine.sheet}" if machine.sheet else "")
    counts = f"{len(machine.faults)} faults, {len(machine.checks)} checks, {len(machine.codes)} codes"
    kind = f"sheet, {machine.archetype}" if machine.sheet else f"archetype {machine.archetype}"
    return Card(link, kind, machine.title[0].upper() + machine.title[1:], machine.about, counts, plain(machine))
