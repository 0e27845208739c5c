"""What the job screen shows at each station, computed once per request."""

from dataclasses import dataclass, field, replace
from datetime import timedelta
from typing import Any
from urllib.parse import urlencode

from bottega.app.deciding import choices, not_known
from bottega.app.diagnosing import Answer, newer_sheet, questions
from bottega.app.explaining import Unlooked
from bottega.app.ledger import LedgerRow, describe, ledger, not_mentioned, superseded
from bottega.app.taking import Loading, loading
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.rounds import Round
from bottega.core.diagnosis.words import fault_title, finding_words
from bottega.core.job.complaint import by_phase
from bottega.core.job.proofs import STATIONS, Owed, Stamp, current_station, owed, stations
from bottega.core.job.state import Reach
from bottega.core.library.machine_type import Complaint, RepairOption
from bottega.core.library.records import Component, OperationRecord, SheetPart, Window
from bottega.core.library.tables import Quantity, Tool
from bottega.core.worth.quote import Option
from bottega.web.drawing import Drawing, draw
from bottega.web.overlay import Layer, glyphs_of, layers_of, way_to
from bottega.web.provepage import mark_values, part_values, prove_values
from bottega.web.rendering import ErrorNote, Page, percent

QUESTIONS = 3
WEIGHED = 8


@dataclass(frozen=True)
class JobPage:
    """What the job screen gets. Fields of stations that are not shown stay empty."""

    page: Page
    answer: Answer
    stamps: list[Stamp]
    station: str
    station_name: str
    stands: str
    sheet: str
    drawing: Drawing
    rows: list[LedgerRow]
    silence: float
    weighed: str
    conflict_words: str
    spent: float
    spent_money: float
    error: ErrorNote | None
    address: str
    """Where the same can be seen again."""
    newer: tuple[str, str] | None = None
    """A newer revision of the sheet, and what it would change."""
    step: Step | None = None
    chosen: bool = False
    keep: str = ""
    reason: str = ""
    runners: list[Step] = field(default_factory=list)
    found: list[Step] | None = None
    find: str = ""
    tool: Tool | None = None
    quantity: Quantity | None = None
    window: Window | None = None
    customary: str = ""
    """The expected window in US customary units, for a shop that works in them."""
    nothing_left: str = ""
    first_why: list[str] = field(default_factory=list)
    """Why the plan's own next step is first."""
    not_why: list[str] = field(default_factory=list)
    """Why a step chosen by hand is not."""
    round: Round | None = None
    view: str = "section"
    layers: tuple[Layer, ...] = ()
    weigh_choices: list[tuple[str, float]] = field(default_factory=list)
    marking: bool = False
    mark_at: str = ""
    mark_point: tuple[float, float] | None = None
    mark_parts: list[tuple[str, str]] = field(default_factory=list)
    mark_kinds: list[tuple[str, str, bool]] = field(default_factory=list)
    mark_ages: list[tuple[str, str]] = field(default_factory=list)
    phases: list[str] = field(default_factory=list)
    part: Component | None = None
    part_faults: list[tuple[str, float]] = field(default_factory=list)
    part_reasons: list[tuple[str, float]] = field(default_factory=list)
    part_unlooked: list[Unlooked] = field(default_factory=list)
    part_steps: list[Step] = field(default_factory=list)
    part_reach: list[Any] = field(default_factory=list)
    part_numbers: tuple[SheetPart, ...] = ()
    said_by_phase: list[tuple[str, list[str]]] = field(default_factory=list)
    phrases: list[tuple[str, list[Complaint]]] = field(default_factory=list)
    questions: list[Step] = field(default_factory=list)
    loading: Loading | None = None
    state_choices: list[tuple[str, str, list[tuple[str, str]]]] = field(default_factory=list)
    verdict: str = ""
    unknown: list[str] = field(default_factory=list)
    choices: list[Option] = field(default_factory=list)
    decided_words: str = ""
    target: RepairOption | None = None
    target_reach: Reach | None = None
    target_numbers: tuple[SheetPart, ...] = ()
    next_operation: OperationRecord | None = None
    blocked: list[str] = field(default_factory=list)
    debts: list[Owed] = field(default_factory=list)
    settled: bool = False
    advice: str = ""
    tomorrow: str = ""
    """The first day a cure can be looked at again."""


@dataclass(frozen=True)
class Asked:
    """What of a job was asked for: a station; at proving a check, a part, a search or a mark (empty for no part yet);
    the fault the ledger weighs for; the drawing as a section or as layers."""

    station: str
    check: str | None = None
    part: str | None = None
    find: str | None = None
    mark: str | None = None
    point: tuple[float, float] | None = None
    """Where on the drawing was tapped for a mark, in its own units."""
    weigh: str | None = None
    view: str = "section"

    def address(self, number: str) -> str:
        """Return the address that shows the same again."""
        named = {"check": self.check, "part": self.part, "find": self.find, "mark": self.mark, "weigh": self.weigh}
        query = {key: value for key, value in named.items() if value is not None}
        if self.view != "section":
            query["view"] = self.view
        return f"/jobs/{number}/{self.station}" + (f"?{urlencode(query)}" if query else "")


def job_page(workshop: Workshop, answer: Answer, asked: Asked, error: ErrorNote | None) -> JobPage:
    """Return everything the job screen shows."""
    job, machine = answer.job, answer.machine
    weighed = asked.weigh if asked.weigh in machine.faults else machine_fault(answer, asked.part) or answer.leading
    minutes = _spent(answer)
    values: dict[str, Any] = {
        "page": Page(f"{answer.number} {machine.title}", "job"),
        "answer": answer,
        "stamps": stations(job, machine),
        "station": asked.station,
        "station_name": dict(STATIONS)[asked.station],
        "stands": current_station(job, machine),
        "sheet": _sheet(answer, asked),
        "view": "layers" if asked.view == "layers" else "section",
        "weigh_choices": _weigh_choices(answer, weighed),
        "rows": list(reversed(ledger(answer, weighed))),
        "silence": not_mentioned(answer.weights(weighed)),
        "weighed": weighed,
        "conflict_words": _conflict_words(answer),
        "spent": minutes,
        "spent_money": minutes * workshop.settings.rate_per_hour / 60,
        "error": error,
        "address": asked.address(answer.number),
        "tomorrow": (workshop.now().astimezone().date() + timedelta(days=1)).isoformat(),
        "newer": newer_sheet(workshop, answer),
    }
    values.update(_STATION[values["sheet"]](workshop, answer, asked))
    values["drawing"] = replace(draw(answer), way=values.pop("way", None), glyphs=glyphs_of(answer))
    reach = values.pop("layer_reach", None)
    if values["view"] == "layers":
        values["layers"] = layers_of(answer, reach)
    return JobPage(**values)


def _sheet(answer: Answer, asked: Asked) -> str:
    if asked.station == "prove" and asked.mark is not None:
        return "mark"
    return "part" if asked.station == "prove" and asked.part in answer.machine.components else asked.station


def _weigh_choices(answer: Answer, weighed: str) -> list[tuple[str, float]]:
    """Return the faults the ledger may be weighed for, with what was believed of each at the call."""
    was = answer.belief.fault_was()
    top = sorted(was, key=lambda fault: -was[fault])[:WEIGHED]
    return [(fault, was[fault]) for fault in dict.fromkeys([weighed, *top])]


def machine_fault(answer: Answer, part: str | None) -> str | None:
    """Return the likeliest fault of a part, or None."""
    own = [(p, f) for f, p in answer.ranking if answer.machine.faults[f].component == part]
    return max(own)[1] if own else None


def _spent(answer: Answer) -> float:
    """Return the minutes of the checks and repairs noted so far, from the library's times."""
    job, machine = answer.job, answer.machine
    total = sum(machine.checks[body.check].minutes for _, body in job.checked() if body.check in machine.checks)
    total += sum(machine.repairs[r.repair].minutes for r in job.repairs if r.repair in machine.repairs)
    kinds = [entry.event.body for entry in job.live]
    total += sum(machine.operations[b.operation].minutes for b in kinds if b.kind in ("took_off", "put_back"))
    return total


def _conflict_words(answer: Answer) -> str:
    odd = answer.conflict.odd
    if odd is None or answer.job.handed_over or odd.id.partition(":")[0] in superseded(answer.job):
        return ""
    check = answer.machine.checks.get(odd.source)
    words = finding_words(answer.machine, odd.source, odd.answer)
    return f"{check.name.lower()} ({words.lower()})" if check else words


def _call(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    machine, complaint = answer.machine, answer.job.complaint
    grouped: dict[str, list[str]] = {}
    for name in complaint.said if complaint else ():
        if name in machine.complaints:
            record = machine.complaints[name].record
            grouped.setdefault(record.phase, []).append(record.says)
    return {
        "said_by_phase": list(grouped.items()),
        "phrases": by_phase(machine),
        "questions": questions(answer)[:QUESTIONS],
        "loading": loading(workshop, answer),
    }


def _safe(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    state, changes = answer.job.state, workshop.shelf.tables.changes
    words = {"none": "gone", "held": "may be held", "in": "in the tub", "out": "out", "unknown": "not known"}
    offered = []
    for what in ("power", "taps", "water", "charge", "drum", "posture"):
        now_is = getattr(state, what)
        others = [(to, change.name) for to, change in changes[what].items() if to != now_is]
        offered.append((what, words.get(now_is, now_is), others))
    return {"state_choices": offered}


def _decide(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    fault, chance = answer.ranking[0]
    if answer.belief.healthy >= chance:
        verdict = f"Nothing wrong with the machine, {percent(answer.belief.healthy)}"
    else:
        verdict = f"{fault_title(answer.machine, fault)}, {percent(chance)}"
    needed = workshop.settings.prove_at
    unknown = not_known(answer)
    if chance < needed and workshop.settings.school == "prove_first":
        unknown.insert(0, f"Under this shop's school a part is fitted from {needed:.0%} on; this is not proved yet.")
    decided = describe(answer.machine, answer.job.decided)[0].removeprefix("Decided: ") if answer.job.decided else ""
    return {"verdict": verdict, "unknown": unknown, "choices": choices(workshop, answer), "decided_words": decided}


def _target(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    decided, machine = answer.job.decided, answer.machine
    if decided is None or decided.repair is None:
        return {}
    target = machine.repairs[decided.repair]
    reach = answer.reaching.reach(answer.job.state, target.needs)
    first = next((step for step in reach.steps), None)
    operation = machine.operations[first.to] if first and first.kind == "operation" else None
    numbers = machine.part_numbers.get(target.component, ()) if target.do == "part" else ()
    return {
        "target": target,
        "target_reach": reach,
        "target_numbers": numbers,
        "next_operation": operation,
        "way": way_to(machine, reach, target.component),
        "layer_reach": reach,
    }


def _close(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    off = answer.job.state.off
    return {"blocked": [op for op in off if answer.reaching.blocking(op, off)]}


def _proof(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    debts = owed(answer.job, answer.machine)
    return {"debts": debts, "settled": all(debt.settled for debt in debts), "advice": _advice(answer)}


def _advice(answer: Answer) -> str:
    """Return advice that follows the cause, to be put right by whoever hands over."""
    severity = answer.machine.faults[answer.leading].component
    by_part = {
        "drain_pump": "Empty pockets; open and clean the pump filter every month.",
        "pump_filter": "Open and clean the pump filter every month.",
        "inlet_valve": "Look at the inlet screens and hoses every half year.",
        "element": "Hard water: descale, and dose for your water's hardness.",
        "bellows": "Empty pockets; wipe the folds dry and leave the door ajar.",
        "damper": "Do not overload it; one heavy piece alone shakes it most.",
        "use": "Dose by the line on the pack for your water.",
    }
    return by_part.get(severity, "Look at hoses for bulges and rust every half year; clean screens and filter.")


_STATION = {
    "call": _call,
    "safe": _safe,
    "panel": lambda workshop, answer, asked: {},
    "prove": prove_values,
    "part": part_values,
    "mark": mark_values,
    "decide": _decide,
    "open": _target,
    "fit": _target,
    "close": _close,
    "proof": _proof,
    "handover": _proof,
}
