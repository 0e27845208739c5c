"""A walk with the probes through several terminals: what can be measured by wire as the machine
stands, one after the other."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.measure.meter import by_wire
from bottega.app.measure.reading import take_reading
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked
from bottega.core.library.machine_type import Check
from bottega.core.measure.formulas import FormulaError, worked_out
from bottega.core.measure.reading import ReadingError, parse_reading
from bottega.core.wording import sentence


@dataclass(frozen=True)
class Stop:
    """One stop of a walk: the check, the points to touch one after the other, by name, and the
    quantity the meter is set to. Several where the reading is worked out of them by a formula."""

    check: Check
    probes: tuple[str, ...]
    quantity: str
    formula: str = ""


def stops(workshop: Workshop, answer: Answer) -> list[Stop]:
    """Return what can be measured by wire as the machine stands and was not yet, the plan's order
    first."""
    order = {step.check.id: n for n, step in enumerate(answer.plan.steps)}
    done, state = answer.job.done_now(), answer.job.state
    found = []
    for check in answer.machine.checks.values():
        if check.id in done or not state.meets(check.needs):
            continue
        stop = stop_of(workshop, check)
        if stop is not None:
            found.append(stop)
    return sorted(found, key=lambda stop: (order.get(stop.check.id, len(order)), stop.check.id))


def stop_of(workshop: Workshop, check: Check) -> Stop | None:
    """Return how a measurement is made by wire, or None where it is not."""
    if check.measure is None:
        return None
    if by_wire(workshop, check) is not None:
        return Stop(check, (check.measure.terminals,), check.measure.quantity)
    for name, formula in workshop.shelf.tables.formulas.formulas.items():
        units = {asks.unit for asks in formula.asks.values()}
        if check.id in formula.reads and units == {"ohm"}:
            return Stop(check, tuple(a.name for a in formula.asks.values()), "resistance", name)
    return None


def read_at(workshop: Workshop, answer: Answer, stop: Stop, typed: list[str]) -> Checked:
    """Return what was read at one stop, judged. Raises BadValue for what cannot be read."""
    if len(typed) != len(stop.probes):
        raise BadValue(f"Found {len(typed)} readings, expected {len(stop.probes)}.", "typed")
    text = _text(workshop, stop, typed)
    body = take_reading(workshop, answer.job, answer.machine, stop.check.id, text, by_wire=True)
    return body.model_copy(update={"note": f"from {', '.join(typed)}"}) if stop.formula else body


def _text(workshop: Workshop, stop: Stop, typed: list[str]) -> str:
    if not stop.formula:
        return typed[0]
    table = workshop.shelf.tables
    formula = table.formulas.formulas[stop.formula]
    try:
        readings = [parse_reading(text, table.quantities[stop.quantity]).amount for text in typed]
        if None in readings:
            raise BadValue("One is open: that is an answer of its own. Stop and say so.", "typed")
        given = {k: a for k, a in zip(formula.asks, readings, strict=True) if a is not None}
        found = worked_out(stop.formula, formula, given)
    except (ReadingError, FormulaError) as error:
        raise BadValue(sentence(error), "typed") from error
    return f"{found[formula.reads[stop.check.id]]:.6g}"
