"""The library on screen: its machines, each with parts, faults, checks, codes and values; questions
put to it; its report."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.errors import BadValue, NotFound
from bottega.app.panel.strange import Strange, strange_codes
from bottega.app.workshop import Quarantined, Workshop
from bottega.core.diagnosis.alone import after_check
from bottega.core.library.key import Narrowed, UnknownTrait, narrow
from bottega.core.library.lacks import Lacks, lacks_of, without_window
from bottega.core.library.machine_type import Check, Fault, MachineType, Outcome
from bottega.core.library.records import Window
from bottega.core.library.shelf import Shelf, UnknownMachine
from bottega.core.library.speaking import telling_checks
from bottega.web.drawing.section import Drawing, plain
from bottega.web.kit.page import Page, render, workshop_of
from bottega.web.panel.face import DrawnPanel, face_of

router = APIRouter(prefix="/library", include_in_schema=False)
TELLING = 6
"""Checks that tell a fault, listed; chosen."""
MAY_BE = 0.03
"""A sheet with less than this share is not named; chosen."""
TRAITS_ASKED = 6
"""Traits asked for at once; chosen to fit the screen."""


@dataclass(frozen=True)
class Card:
    """One machine of the library."""

    machine: MachineType
    kind: str
    counts: str
    drawing: Drawing


@dataclass(frozen=True)
class LibraryPage:
    """What the library page gets."""

    page: Page
    cards: list[Card]
    quarantine: list[Quarantined]
    """Sheets whose newest revision does not load any more."""


@dataclass(frozen=True)
class ObservedFaults:
    """An observation and what it could be: fault and its chance; ``sound`` that of nothing being
    wrong."""

    check: Check
    outcome: Outcome
    could_be: list[tuple[Fault, float]]
    sound: float
    age_years: float


@dataclass(frozen=True)
class Value:
    """An expected value of a machine; ``generic`` where a window of the archetype stands in for
    it."""

    name: str
    window: Window
    generic: bool


@dataclass(frozen=True)
class MachinePage:
    """What a machine's page gets. ``known`` holds the telling checks of the fault asked for."""

    page: Page
    machine: MachineType
    drawing: Drawing
    face: DrawnPanel | None
    strange: list[Strange]
    """What its panel showed in this shop and is in no table."""
    fault: Fault | None
    known: list[tuple[Check, float]]
    seen: ObservedFaults | None
    values: list[Value]


@dataclass(frozen=True)
class TraitQuestion:
    """A trait to look for next, and what is known with either answer, as the address wants it."""

    name: str
    yes: str
    no: str


@dataclass(frozen=True)
class KeyPage:
    """What the page that asks which archetype it is gets."""

    page: Page
    narrowed: Narrowed
    seen: list[tuple[str, bool]]
    """Traits looked for, by name, and whether they were there."""
    asked: list[TraitQuestion]
    """Traits to look for next, most telling first."""
    about: dict[str, str]
    models: list[tuple[MachineType, float]]
    """The machines with a sheet that it may be, likeliest first."""
    drawing: Drawing
    """Of the likeliest archetype."""


@dataclass(frozen=True)
class LibraryReport:
    """What the library's report gets."""

    page: Page
    lacks: Lacks


@router.get("")
def library_page(request: Request) -> Response:
    """Show all machines."""
    workshop = workshop_of(request)
    cards = [_card(machine) for machine in workshop.shelf.machines()]
    quarantine = list(workshop.quarantine.values())
    return render(request, "library/page.html", LibraryPage(Page("Library"), cards, quarantine))


@router.get("/which")
def which_page(request: Request, seen: str = "") -> Response:
    """Narrow down which archetype a machine is, by traits seen (``front``) and not seen
    (``-front``)."""
    shelf = workshop_of(request).shelf
    answers = {word.removeprefix("-"): not word.startswith("-") for word in seen.split(",") if word}
    try:
        narrowed = narrow(shelf, answers)
    except UnknownTrait as error:
        raise BadValue(f"Not a trait: {error}.", "seen") from error
    so_far = f"{seen}," if seen else ""
    names = shelf.tables.traits.traits
    questions = () if narrowed.settled else narrowed.questions[:TRAITS_ASKED]
    models = [
        (shelf.machine(shelf.sheets[sheet].archetype, sheet), share)
        for sheet, share in narrowed.sheets
        if share >= MAY_BE and answers
    ]
    context = KeyPage(
        page=Page("Which machine is it?"),
        narrowed=narrowed,
        seen=[(names[trait].name, present) for trait, present in answers.items()],
        asked=[
            TraitQuestion(q.name, f"{so_far}{q.trait}", f"{so_far}-{q.trait}") for q in questions
        ],
        about={name: record.name for name, record in shelf.archetypes.items()},
        models=models,
        drawing=plain(shelf.machine(narrowed.archetypes[0][0])),
    )
    return render(request, "library/which.html", context)


@router.get("/report")
def library_report(request: Request) -> Response:
    """Show what the library lacks: problems, pairs repaired together, values without a sheet,
    counts."""
    workshop = workshop_of(request)
    lacks = workshop.lacks.get(workshop.edition, lambda: lacks_of(workshop.shelf))
    context = LibraryReport(Page("Report on the library"), lacks)
    return render(request, "library/report.html", context)


@router.get("/{archetype}")
def archetype_page(
    request: Request, archetype: str, fault: str = "", check: str = "", outcome: str = ""
) -> Response:
    """Show an archetype."""
    return _machine(request, archetype, None, fault, check=check, outcome=outcome)


@router.get("/{archetype}/{sheet}")
def sheet_page(
    request: Request,
    archetype: str,
    sheet: str,
    fault: str = "",
    check: str = "",
    outcome: str = "",
) -> Response:
    """Show a sheet."""
    return _machine(request, archetype, sheet, fault, check=check, outcome=outcome)


def _machine(
    request: Request, archetype: str, sheet: str | None, fault: str, *, check: str, outcome: str
) -> Response:
    shelf: Shelf = workshop_of(request).shelf
    try:
        machine = shelf.machine(archetype, sheet)
    except UnknownMachine as error:
        raise NotFound(f"Not in the library: {error}.") from error
    if fault and fault not in machine.faults:
        raise NotFound(f"Found the fault '{fault}', expected one of {machine.title}.")
    known = (
        [(machine.checks[c], share) for c, share in telling_checks(machine, fault)[:TELLING]]
        if fault
        else []
    )
    context = MachinePage(
        page=Page(machine.title),
        machine=machine,
        drawing=plain(machine, {machine.faults[fault].component: "cross"} if fault else None),
        face=face_of(machine.panel) if machine.panel else None,
        strange=strange_codes(workshop_of(request), machine),
        fault=machine.faults[fault] if fault else None,
        known=known,
        seen=_seen(workshop_of(request), machine, check, outcome) if check else None,
        values=_values(machine),
    )
    return render(request, "library/machine.html", context)


def _seen(
    workshop: Workshop, machine: MachineType, check_id: str, outcome_id: str
) -> ObservedFaults:
    check = machine.checks.get(check_id)
    outcome = check.outcome(outcome_id) if check else None
    if check is None or outcome is None:
        raise NotFound("Found no such observation, expected a check and one of its outcomes.")
    engine = workshop.shelf.tables.engine
    alone = after_check(workshop.engine.model(machine), check, outcome_id, engine)
    likely = [(machine.faults[name], chance) for name, chance in alone.faults]
    return ObservedFaults(check, outcome, likely, alone.sound, engine.reference_age_years)


def _values(machine: MachineType) -> list[Value]:
    known = [Value(_plain(name), window, False) for name, window in machine.values.items()]
    measures = [check.measure for check in without_window(machine) if check.measure]
    return known + [Value(_plain(m.value), m.generic, True) for m in measures if m.generic]


def _plain(name: str) -> str:
    return name.replace("_", " ")


def _card(machine: MachineType) -> Card:
    faults, checks, codes = len(machine.faults), len(machine.checks), len(machine.codes)
    counts = f"{faults} faults, {checks} checks, {codes} codes"
    kind = f"sheet, {machine.archetype}" if machine.sheet else f"archetype {machine.archetype}"
    return Card(machine, kind, counts, plain(machine))
