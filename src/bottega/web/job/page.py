"""The job screen: title block, rail, drawing and ledger around the sheet of one station."""

from dataclasses import dataclass, replace
from typing import assert_never

from fastapi import Request

from bottega.app.answer import Answer
from bottega.app.errors import Unreadable
from bottega.app.job.ledger import LedgerRow, ledger, not_mentioned, superseded
from bottega.app.job.newer import Newer, newer_sheet
from bottega.app.job.spent import Spent, spent_on
from bottega.app.job.standing import breaking_of, unsafe_of
from bottega.app.job.variants import VariantChoice, another_by_serial, variants_of
from bottega.app.measure.reading import judged_otherwise
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.evidence import Finding
from bottega.core.diagnosis.words import check_of, finding_words
from bottega.core.job.file import StoredEvent, withdrawn_ids
from bottega.core.job.safety import waited_min
from bottega.core.job.stations import Stamp, Station, current_station, stations
from bottega.core.library.machine_type import Check
from bottega.core.machine.cautions import fallen, live_and_open
from bottega.core.machine.invariants import Broken
from bottega.web.call.sheet import call_sheet
from bottega.web.close.sheet import close_sheet
from bottega.web.decide.sheet import decide_sheet
from bottega.web.drawing.layers import DESK, PHONE, LayerStack, layers_of
from bottega.web.drawing.overlay import glyphs_of, way_to
from bottega.web.drawing.section import Drawing, draw
from bottega.web.fit.sheet import fit_sheet
from bottega.web.handover.sheet import handover_sheet
from bottega.web.kit.page import ErrorNote, Page
from bottega.web.open.sheet import open_sheet
from bottega.web.panel.sheet import panel_sheet
from bottega.web.proof.sheet import proof_sheet
from bottega.web.prove.sheet import StepSheet, prove_sheet
from bottega.web.safe.sheet import safe_sheet
from bottega.web.station.asked import TABS, Asked, Tab
from bottega.web.station.sheet import Desk, Lead, MakeSheet, Sheet

WEIGHED = 8
"""Faults the ledger may be weighed for; chosen, the rest is believed too little to ask."""
MOST_ROWS = 200
"""Entries of the ledger that are shown at once; chosen, five times those of a long job."""


@dataclass(frozen=True)
class WeighedFault:
    """A fault the ledger may be weighed for, with what was believed of it at the call."""

    fault: str
    chance: float


@dataclass(frozen=True)
class JobPage:
    """What the job screen gets: what surrounds the sheet, and the sheet."""

    page: Page
    answer: Answer
    asked: Asked
    address: str
    """Where the same can be seen again."""
    stamps: list[Stamp]
    stands: Station
    sheet: Sheet
    keep: str | None
    """The check chosen by hand, kept in the addresses of the page."""
    drawing: Drawing
    marking: bool
    layers: LayerStack | None
    layers_phone: LayerStack | None
    rows: list[LedgerRow]
    """A part of the ledger, newest first."""
    entries: int
    """How many entries the whole ledger has."""
    silence: float
    """What the customer did not mention weighs in all, in decibans."""
    weighed: str
    weigh_choices: list[WeighedFault]
    conflict: str
    odd: list[str]
    """What is left out of the reckoning, in words."""
    spent: Spent
    charge: str
    """none, held, unknown, or fallen: what of a stored charge is left by its own discharge."""
    unsafe: list[Broken]
    """What it breaks, as it stands, of what may never be."""
    breaks: dict[str, str]
    """By entry, why it would be refused today."""
    exposed: bool
    """Whether it is plugged in while something is off it."""
    newer: Newer | None
    other_variant: VariantChoice | None
    """The variant its serial says it is, where the job goes by another."""
    rejudge: list[Check]
    """Measurements whose reading was judged by another window than the present one."""
    tabs: dict[Tab, str]
    ask: LedgerRow | None
    """The weighty entry that is about to be taken back."""
    latest: LedgerRow | None
    """What was noted last and would be taken back first."""
    error: ErrorNote | None


@dataclass(frozen=True)
class UnreadablePage:
    """What the page of a job gets that cannot be worked out: the reason, and everything that is
    kept of it."""

    page: Page
    number: str
    reason: str
    events: list[StoredEvent]
    gone: set[str]
    """Ids of entries that some other entry withdraws."""


def job_page(
    request: Request, workshop: Workshop, answer: Answer, asked: Asked, *, error: ErrorNote | None
) -> JobPage:
    """Return everything the job screen shows."""
    desk = Desk(workshop, answer, asked, error)
    sheet = make_sheet(asked.station)(desk)
    way = sheet.lead.reach if sheet.lead else None
    weighed = _weighed(answer, asked)
    chosen = isinstance(sheet, StepSheet) and sheet.chosen
    rows, last = ledger(answer, weighed, workshop.settings.units), answer.job.last_to_withdraw()
    return JobPage(
        page=Page(f"{answer.number} {answer.machine.title}"),
        answer=answer,
        asked=asked,
        address=asked.address(request, answer.number),
        stamps=stations(answer.job, answer.machine),
        stands=current_station(answer.job, answer.machine),
        sheet=sheet,
        keep=sheet.step.check.id if isinstance(sheet, StepSheet) and chosen else None,
        drawing=_drawing(answer, sheet.lead),
        marking=asked.station == "prove" and asked.mark is not None,
        layers=layers_of(answer, way, DESK) if asked.layers else None,
        layers_phone=layers_of(answer, way, PHONE) if asked.layers else None,
        rows=_part_of(rows, asked.before),
        entries=len(rows),
        tabs=TABS,
        ask=next((row for row in rows if row.weighty and row.event_id == asked.ask), None),
        silence=not_mentioned(answer.weights(weighed)),
        weighed=weighed,
        weigh_choices=_weigh_choices(answer, weighed),
        conflict=_conflict(answer),
        odd=[_named(answer, finding) for finding in answer.odd],
        spent=spent_on(answer, workshop.settings),
        charge=_charge(desk),
        unsafe=unsafe_of(workshop, answer),
        breaks=breaking_of(workshop, answer),
        exposed=live_and_open(answer.job.state),
        newer=newer_sheet(workshop, answer),
        other_variant=another_by_serial(variants_of(workshop, answer.machine, answer.job.serial)),
        rejudge=judged_otherwise(workshop, answer),
        latest=next((row for row in rows if last and row.event_id == last.id), None),
        error=error,
    )


def _part_of(rows: list[LedgerRow], before: int | None) -> list[LedgerRow]:
    """Return the newest rows of a ledger, or those before one of them, newest first."""
    last = len(rows) if before is None else min(before - 1, len(rows))
    return list(reversed(rows[max(0, last - MOST_ROWS) : last]))


def unreadable_page(workshop: Workshop, number: str, error: Unreadable) -> UnreadablePage:
    """Return what is shown of a job that cannot be worked out."""
    events = workshop.log.stored(number)
    page, gone = Page(f"{number} cannot be read"), withdrawn_ids(events)
    return UnreadablePage(page, number, str(error), events, gone)


def make_sheet(station: Station) -> MakeSheet:
    """Return what makes the sheet of a station."""
    match station:
        case "call":
            return call_sheet
        case "safe":
            return safe_sheet
        case "panel":
            return panel_sheet
        case "prove":
            return prove_sheet
        case "decide":
            return decide_sheet
        case "open":
            return open_sheet
        case "fit":
            return fit_sheet
        case "close":
            return close_sheet
        case "proof":
            return proof_sheet
        case "handover":
            return handover_sheet
        case _:
            assert_never(station)


def _charge(desk: Desk) -> str:
    charge = desk.answer.machine.charge
    state = desk.answer.job.state
    if state.charge == "none" or charge is None:
        return "none"
    if fallen(charge, waited_min(desk.answer.job, desk.workshop.now())):
        return "fallen"
    return state.charge


def _drawing(answer: Answer, lead: Lead | None) -> Drawing:
    way = way_to(answer.machine, lead.reach, lead.component) if lead else None
    return replace(draw(answer), way=way, glyphs=glyphs_of(answer))


def _weighed(answer: Answer, asked: Asked) -> str:
    """Return the fault the ledger is weighed for: the one asked for, that of the part shown, or the
    leading one."""
    if asked.weigh is not None and asked.weigh in answer.machine.faults:
        return asked.weigh
    own = [f for f, _ in answer.ranking if answer.machine.faults[f].component == asked.part]
    return own[0] if own else answer.leading


def _weigh_choices(answer: Answer, weighed: str) -> list[WeighedFault]:
    was = answer.belief.fault_was()
    top = sorted(was, key=lambda fault: (-was[fault], fault))[:WEIGHED]
    return [WeighedFault(fault, was[fault]) for fault in dict.fromkeys([weighed, *top])]


def _conflict(answer: Answer) -> str:
    """Return the finding that fits the others least, in words; empty when they fit, or when it was
    repeated since."""
    odd = answer.conflict.odd
    if odd is None or answer.job.handed_over or odd.event in superseded(answer.job):
        return ""
    return _named(answer, odd)


def _named(answer: Answer, finding: Finding) -> str:
    check, words = check_of(answer.machine, finding), finding_words(answer.machine, finding)
    return f"{check.name.lower()} ({words.lower()})" if check else words
