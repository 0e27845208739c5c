"""The library on screen: its machines, each with parts, faults, checks, codes and values; questions put to it; its report."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.errors import BadValue, NotFound
from bottega.core.library.consistency import Pair, check_library, could_be, inseparable, stats, telling_checks
from bottega.core.library.errors import Problem
from bottega.core.library.key import Narrowed, UnknownTrait, narrow
from bottega.core.library.machine_type import Check, Fault, MachineType, Outcome
from bottega.core.library.shelf import Shelf, UnknownMachine
from bottega.web.drawing import Drawing, plain
from bottega.web.rendering import Page, render, workshop_of

router = APIRouter(prefix="/library", include_in_schema=False)
TELLING = 6


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
class Seen:
    """An observation and what it could be: fault, share of the cases."""

    check: Check
    outcome: Outcome
    could_be: list[tuple[Fault, float]]


@dataclass(frozen=True)
class MachinePage:
    """What a machine's page gets. ``known`` holds the telling checks of the fault asked for."""

    page: Page
    machine: MachineType
    drawing: Drawing
    link: str
    fault: Fault | None
    known: list[tuple[Check, float]]
    seen: Seen | None
    missing: list[Check]


@dataclass(frozen=True)
class KeyPage:
    """What the page that asks which archetype it is gets."""

    page: Page
    narrowed: Narrowed
    answers: dict[str, bool]
    names: dict[str, str]
    about: dict[str, str]
    drawings: dict[str, Drawing]
    asked: str


@dataclass(frozen=True)
class LibraryReport:
    """What the library's report gets."""

    page: Page
    problems: list[Problem]
    pairs: list[tuple[MachineType, Pair]]
    counts: dict[str, dict[str, int]]
    lacking: list[tuple[MachineType, list[Check]]]


@router.get("")
def library_page(request: Request) -> Response:
    """Show all machines."""
    cards = [_card(machine) for machine in workshop_of(request).shelf.machines()]
    return render(request, "library/page.html", LibraryPage(Page("Library", "library"), cards))


@router.get("/which")
def which_page(request: Request, seen: str = "") -> Response:
    """Narrow down which archetype a machine is, by traits seen (``front``) and not seen (``-front``)."""
    shelf = workshop_of(request).shelf
    answers = {word.removeprefix("-"): not word.startswith("-") for word in seen.split(",") if word}
    try:
        narrowed = narrow(shelf, answers)
    except UnknownTrait as error:
        raise BadValue(f"Not a trait: {error}.", "seen") from error
    context = KeyPage(
        page=Page("Which machine is it?", "library"),
        narrowed=narrowed,
        answers=answers,
        names={trait: record.name for trait, record in shelf.tables.traits.traits.items()},
        about={name: record.name for name, record in shelf.archetypes.items()},
        drawings={name: plain(shelf.machine(name)) for name in shelf.archetypes},
        asked=seen,
    )
    return render(request, "library/which.html", context)


@router.get("/report")
def report_page(request: Request) -> Response:
    """Show what the library lacks: problems, pairs repaired together, values without a sheet, counts."""
    shelf = workshop_of(request).shelf
    alone = [shelf.machine(name) for name in shelf.archetypes]
    sheets = [shelf.machine(record.archetype, name) for name, record in shelf.sheets.items()]
    context = LibraryReport(
        page=Page("Report on the library", "library"),
        problems=check_library(shelf),
        pairs=[(machine, pair) for machine in alone for pair in inseparable(machine)],
        counts=stats(shelf),
        lacking=[(machine, _guessed(machine)) for machine in sheets],
    )
    return render(request, "library/report.html", context)


@router.get("/{archetype}")
def archetype_page(request: Request, archetype: str, fault: str = "", seen: str = "") -> Response:
    """Show an archetype."""
    return _machine(request, archetype, None, fault, seen)


@router.get("/{archetype}/{sheet}")
def sheet_page(request: Request, archetype: str, sheet: str, fault: str = "", seen: str = "") -> Response:
    """Show a sheet."""
    return _machine(request, archetype, sheet, fault, seen)


def _machine(request: Request, archetype: str, sheet: str | None, fault: str, seen: str) -> Response:
    shelf: Shelf = workshop_of(request).shelf
    try:
        machine = shelf.machine(archetype, sheet)
    except UnknownMachine as error:
        raise NotFound(f"Not in the library: {error}.") from error
    if fault and fault not in machine.faults:
        raise NotFound(f"Found the fault '{fault}', expected one of {machine.title}.")
    known = [(machine.checks[c], share) for c, share in telling_checks(machine, fault)[:TELLING]] if fault else []
    context = MachinePage(
        page=Page(machine.title, "library"),
        machine=machine,
        drawing=plain(machine, {machine.faults[fault].component: "cross"} if fault else None),
        link=f"/library/{archetype}" + (f"/{sheet}" if sheet else ""),
        fault=machine.faults[fault] if fault else None,
        known=known,
        seen=_seen(machine, seen) if seen else None,
        missing=_missing(machine),
    )
    return render(request, "library/machine.html", context)


def _seen(machine: MachineType, seen: str) -> Seen:
    check_id, _, outcome_id = seen.partition(":")
    check = machine.checks.get(check_id)
    outcome = check.outcome(outcome_id) if check else None
    if check is None or outcome is None:
        raise NotFound(f"Found the observation '{seen}', expected a check and one of its outcomes.")
    return Seen(check, outcome, [(machine.faults[f], share) for f, share in could_be(machine, check_id, outcome_id)])


def _missing(machine: MachineType) -> list[Check]:
    """Return the measurements for which neither sheet nor plate gives a value, so that a generic window stands in."""
    measured = [check for check in machine.checks.values() if check.measure]
    return [c for c in measured if c.measure and c.measure.value not in machine.values and not c.measure.physics]


def _guessed(machine: MachineType) -> list[Check]:
    """Return the measurements whose generic window is no more than a guess: those a sheet would sharpen."""
    return [c for c in _missing(machine) if c.measure and c.measure.generic and c.measure.generic.grade == "guessed"]


def _card(machine: MachineType) -> Card:
    link = f"/library/{machine.archetype}" + (f"/{machine.sheet}" if machine.sheet else "")
    counts = f"{len(machine.faults)} faults, {len(machine.checks)} checks, {len(machine.codes)} codes"
    kind = f"sheet, {machine.archetype}" if machine.sheet else f"archetype {machine.archetype}"
    return Card(link, kind, machine.title[0].upper() + machine.title[1:], machine.about, counts, plain(machine))
