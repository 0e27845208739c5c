"""What the job screen shows at each station, computed once per request."""

from dataclasses import dataclass, field
from typing import Any

from bottega.app.deciding import choices, not_known
from bottega.app.diagnosing import Answer, newer_sheet, questions, step_for
from bottega.app.errors import AppError
from bottega.app.ledger import LedgerRow, describe, ledger, not_mentioned
from bottega.app.measuring import quantity_of, window_of
from bottega.app.taking import Loading, loading
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.words import chance_words, fault_title, finding_words, step_reason
from bottega.core.job.complaint import by_phase
from bottega.core.job.proofs import STATIONS, Owed, Stamp, current_station, owed, stations
from bottega.core.job.state import Reach
from bottega.core.library.machine_type import Complaint, RepairOption
from bottega.core.library.records import Component, OperationRecord, SheetPart, Window
from bottega.core.library.tables import Quantity, Tool
from bottega.core.measure.reading import customary
from bottega.core.worth.quote import Option
from bottega.web.drawing import Drawing, draw
from bottega.web.rendering import ErrorNote, Page, percent

RUNNERS = 4
QUESTIONS = 3
REASONS = 6


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
    part: Component | None = None
    part_faults: list[tuple[str, float]] = field(default_factory=list)
    part_reasons: list[tuple[str, float]] = field(default_factory=list)
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


@dataclass(frozen=True)
class Asked:
    """What of a job was asked for: a station, and at proving a check, a part or a search."""

    station: str
    check: str | None = None
    part: str | None = None
    find: str | None = None


def job_page(workshop: Workshop, answer: Answer, asked: Asked, error: ErrorNote | None) -> JobPage:
    """Return everything the job screen shows."""
    job, machine = answer.job, answer.machine
    weighed = machine_fault(answer, asked.part) or answer.leading
    minutes = _spent(answer)
    values: dict[str, Any] = {
        "page": Page(f"{answer.number} {machine.title}", "job"),
        "answer": answer,
        "stamps": stations(job, machine),
        "station": asked.station,
        "station_name": dict(STATIONS)[asked.station],
        "stands": current_station(job, machine),
        "sheet": "part" if asked.station == "prove" and asked.part in machine.components else asked.station,
        "drawing": draw(answer),
        "rows": list(reversed(ledger(answer, weighed))),
        "silence": not_mentioned(answer.weights(weighed)),
        "weighed": weighed,
        "conflict_words": _conflict_words(answer),
        "spent": minutes,
        "spent_money": minutes * workshop.settings.rate_per_hour / 60,
        "error": error,
        "newer": newer_sheet(workshop, answer),
    }
    values.update(_STATION[values["sheet"]](workshop, answer, asked))
    return JobPage(**values)


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
    if odd is None:
        return ""
    check = answer.machine.checks.get(odd.source)
    words = finding_words(answer.machine, odd.source, odd.answer)
    return f"{check.name.lower()} ({words.lower()})" if check else words


def _prove(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    steps = {step.check.id: step for step in answer.plan.steps}
    if asked.find is not None:
        return {"found": find_steps(workshop, answer, asked.find), "find": asked.find}
    step = steps.get(asked.check or "") or _repeated(workshop, answer, asked.check)
    chosen = step is not None
    step = step or answer.plan.next
    if step is None:
        return {"nothing_left": _nothing_left(workshop, answer)}
    values: dict[str, Any] = {
        "step": step,
        "chosen": chosen,
        "keep": f"?check={step.check.id}" if chosen else "",
        "reason": step_reason(answer.machine, step),
        "runners": [s for s in answer.plan.steps if s.check.id != step.check.id][:RUNNERS],
        "tool": workshop.shelf.tables.tools[step.check.tool],
    }
    if step.check.measure:
        values["quantity"] = quantity_of(workshop, step.check)
        try:
            values["window"] = window_of(workshop, answer.job, answer.machine, step.check)
        except AppError:
            values["window"] = None
        values["customary"] = _customary(workshop, values["window"])
    return values


def _customary(workshop: Workshop, window: Window | None) -> str:
    if window is None or workshop.settings.units != "us":
        return ""
    low, high = customary(window.low, window.unit), customary(window.high, window.unit)
    return f"{low[0]:.3g} to {high[0]:.3g} {high[1]}" if low and high else ""


def _repeated(workshop: Workshop, answer: Answer, check_id: str | None) -> Step | None:
    """Return a step for a check that was done before or set aside, so that it can be repeated."""
    return step_for(workshop, answer, check_id) if check_id in answer.machine.checks else None


def find_steps(workshop: Workshop, answer: Answer, words: str) -> list[Step]:
    """Return the open checks that hold every word in name, part, tool, state or steps, best first."""
    wanted = words.lower().split()
    machine, tools = answer.machine, workshop.shelf.tables.tools
    found = []
    for step in answer.plan.steps:
        check = step.check
        part = machine.components[check.component]
        needs = " ".join(f"{k} {v}" for k, v in check.needs.model_dump().items() if v)
        text = f"{check.name} {part.name} {' '.join(part.aka)} {tools[check.tool].name} {needs} {' '.join(check.steps)}".lower()
        if all(word in text for word in wanted):
            found.append(step)
    return found


def _nothing_left(workshop: Workshop, answer: Answer) -> str:
    fault, chance = answer.ranking[0]
    if chance >= 0.5:
        return (
            f"{fault_title(answer.machine, fault)} stands at {chance:.0%}. "
            "No check left saves more than it costs; what is left to learn is cheaper to learn by the repair."
        )
    if answer.belief.healthy > 0.5:
        return f"That nothing is wrong with the machine stands at {answer.belief.healthy:.0%}. Show the evidence, and say so."
    return f"The likeliest fault stands at {chance_words(chance)}, and no check left is worth its cost. Refer it, or choose a check yourself."


def _part(workshop: Workshop, answer: Answer, asked: Asked) -> dict[str, Any]:
    machine, part = answer.machine, asked.part or ""
    faults = [(f, p) for f, p in answer.ranking if machine.faults[f].component == part]
    reasons = []
    if faults:
        found = sorted(answer.weights(faults[0][0]), key=lambda w: -abs(w.decibans))[:REASONS]
        reasons = [
            (finding_words(machine, w.finding.source, w.finding.answer), w.decibans)
            for w in found
            if abs(w.decibans) >= 0.5
        ]
    touched = {effect for f, _ in faults for effect in machine.faults[f].effects}
    return {
        "part": machine.components[part],
        "part_faults": faults,
        "part_reasons": reasons,
        "part_steps": [s for s in answer.plan.steps if s.check.component == part or s.check.effect in touched][:8],
        "part_reach": list(answer.reaching.reach(answer.job.state, machine.components[part].reach).steps),
        "part_numbers": machine.part_numbers.get(part, ()),
    }


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
    return {"target": target, "target_reach": reach, "target_numbers": numbers, "next_operation": operation}


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
    "prove": _prove,
    "part": _part,
    "decide": _decide,
    "open": _target,
    "fit": _target,
    "close": _close,
    "proof": _proof,
    "handover": _proof,
}
