"""What the job screen shows at proving: the next sheet with its round and reasons, a part, a search, a mark."""

from dataclasses import replace
from typing import TYPE_CHECKING, Any, get_args

from bottega.app.diagnosing import Answer, prices, step_for
from bottega.app.errors import AppError
from bottega.app.explaining import Money, not_looked_at, why_first, why_not
from bottega.app.measuring import quantity_of, window_of
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.plan import Step
from bottega.core.diagnosis.rounds import round_of
from bottega.core.diagnosis.words import chance_words, fault_title, finding_words, step_reason
from bottega.core.job.findings import marks_at
from bottega.core.library.records import Phase, Window
from bottega.core.measure.reading import customary
from bottega.web.overlay import way_to
from bottega.web.rendering import money

if TYPE_CHECKING:
    from bottega.web.jobpage import Asked

RUNNERS = 4
REASONS = 6
PART_STEPS = 8


def prove_values(workshop: Workshop, answer: Answer, asked: "Asked") -> dict[str, Any]:
    """Return the next sheet: the step asked for or the plan's own, or the search, or that nothing is left."""
    if asked.find is not None:
        return {"found": find_steps(workshop, answer, asked.find), "find": asked.find}
    step = _chosen(workshop, answer, asked.check)
    chosen = step is not None
    if answer.job.handed_over and not chosen:
        return {"nothing_left": "The job is handed over. Withdraw the hand-over in the ledger to go on with it."}
    step = step or answer.plan.next
    if step is None:
        return {"nothing_left": _nothing_left(answer)}
    say = _money(workshop)
    values: dict[str, Any] = {
        "step": step,
        "chosen": chosen,
        "keep": f"?check={step.check.id}" if chosen else "",
        "reason": step_reason(answer.machine, step),
        "first_why": why_first(answer, step, say) if step == answer.plan.next else [],
        "not_why": why_not(answer, step, say),
        "round": round_of(
            answer.machine,
            answer.plan,
            answer.job.state,
            answer.reaching,
            prices(workshop.settings, answer.machine).rate_per_min,
            workshop.shelf.tables.engine.least_saving_eur,
            step,
        ),
        "runners": [s for s in answer.plan.steps if s.check.id != step.check.id][:RUNNERS],
        "tool": workshop.shelf.tables.tools[step.check.tool],
        "way": way_to(answer.machine, step.reach, step.check.component),
        "layer_reach": step.reach,
    }
    if step.check.measure:
        values["quantity"] = quantity_of(workshop, step.check)
        try:
            values["window"] = window_of(workshop, answer.job, answer.machine, step.check)
        except AppError:
            values["window"] = None
        values["customary"] = _customary(workshop, values["window"])
    return values


def part_values(workshop: Workshop, answer: Answer, asked: "Asked") -> dict[str, Any]:
    """Return a part's sheet: what it may have and why, what nobody has looked at, how to know, how to reach it."""
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
    reach = answer.reaching.reach(answer.job.state, machine.components[part].reach)
    return {
        "part": machine.components[part],
        "part_faults": faults,
        "part_reasons": reasons,
        "part_unlooked": not_looked_at(answer, faults[0][0]) if faults else [],
        "part_steps": [s for s in answer.plan.steps if s.check.component == part or s.check.effect in touched][
            :PART_STEPS
        ],
        "part_reach": list(reach.steps),
        "part_numbers": machine.part_numbers.get(part, ()),
        "way": way_to(machine, reach, part),
        "layer_reach": reach,
    }


def mark_values(workshop: Workshop, answer: Answer, asked: "Asked") -> dict[str, Any]:
    """Return the sheet on which something seen or heard is marked: the part tapped, kinds, phases, live or old."""
    machine, table = answer.machine, workshop.shelf.tables.marks
    at = asked.mark if asked.mark in machine.components else ""
    return {
        "mark_at": at,
        "mark_point": asked.point,
        "mark_parts": sorted(
            ((name, part.name) for name, part in machine.components.items()), key=lambda item: item[1]
        ),
        "mark_kinds": [(key, kind.name, bool(marks_at(machine, key, at))) for key, kind in table.kinds.items()],
        "mark_ages": [(key, age.name) for key, age in table.ages.items()],
        "phases": [phase for phase in get_args(Phase) if phase != "any"],
        "marking": True,
    }


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


def _money(workshop: Workshop) -> Money:
    settings = workshop.settings
    return lambda eur: money(eur * settings.per_eur, settings, digits=abs(eur) < 10)


def _customary(workshop: Workshop, window: Window | None) -> str:
    if window is None or workshop.settings.units != "us":
        return ""
    low, high = customary(window.low, window.unit), customary(window.high, window.unit)
    return f"{low[0]:.3g} to {high[0]:.3g} {high[1]}" if low and high else ""


def _chosen(workshop: Workshop, answer: Answer, check_id: str | None) -> Step | None:
    """Return the step of a check asked for with its outcomes; also of one done before or set aside, to be repeated."""
    if check_id not in answer.machine.checks:
        return None
    planned = next((step for step in answer.plan.steps if step.check.id == check_id), None)
    if planned and planned.outcomes:
        return planned
    shown = step_for(workshop, answer, check_id)
    return replace(planned, outcomes=shown.outcomes, parts_faults=shown.parts_faults) if planned else shown


def _nothing_left(answer: Answer) -> str:
    fault, chance = answer.ranking[0]
    if chance >= 0.5:
        return (
            f"{fault_title(answer.machine, fault)} stands at {chance:.0%}. "
            "No check left saves more than it costs; what is left to learn is cheaper to learn by the repair."
        )
    if answer.belief.healthy > 0.5:
        return f"That nothing is wrong with the machine stands at {answer.belief.healthy:.0%}. Show the evidence, and say so."
    return f"The likeliest fault stands at {chance_words(chance)}, and no check left is worth its cost. Refer it, or choose a check yourself."
