"""Work out a formula from what was typed in the shop's units, and say what is known for it in a
job."""

from collections.abc import Mapping
from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.errors import BadValue, NotFound
from bottega.app.measure.reading import plate_of
from bottega.app.values import number
from bottega.app.workshop import Workshop
from bottega.core.library.formula_record import FormulaInput, FormulaRecord
from bottega.core.library.records import CurveRecord
from bottega.core.measure.formulas import FormulaError, Known, known_inputs, worked_out
from bottega.core.measure.level import column_pascal
from bottega.core.measure.thermistor import thermistor_curve
from bottega.core.measure.units import Amount, System, from_system, in_system
from bottega.core.shop import ShopSettings
from bottega.core.wording import sentence, upper_first


@dataclass(frozen=True)
class Field:
    """An input as it is asked: what stands in it, its unit, its range in that unit, and where a
    known figure is from."""

    id: str
    letter: str
    asks: FormulaInput
    text: str
    symbol: str
    least: float
    most: float
    source: str


@dataclass(frozen=True)
class FormulaResult:
    """An output as it is shown."""

    id: str
    name: str
    text: str
    symbol: str


@dataclass(frozen=True)
class Worked:
    """A formula with its inputs and, where all are there, what it gives; else what is wrong in
    which field. ``amounts`` are the outputs in their own units."""

    id: str
    record: FormulaRecord
    fields: list[Field]
    results: list[FormulaResult]
    amounts: dict[str, float]
    trouble: str = ""
    trouble_in: str = ""

    @property
    def letters(self) -> dict[str, str]:
        """Return the letter of every input, as the drawing shows it."""
        return {field.id: field.letter for field in self.fields}


def formula_of(workshop: Workshop, name: str) -> FormulaRecord:
    """Return a formula by its name. Raises NotFound."""
    record = workshop.shelf.tables.formulas.formulas.get(name)
    if record is None:
        raise NotFound(f"Found no formula '{name[:40]}', expected one of those at the bench.")
    return record


def work_out(
    workshop: Workshop, name: str, typed: Mapping[str, str], facts: Mapping[str, Known]
) -> Worked:
    """Return a formula with what was ``typed`` in the shop's units, else with what is known, else
    with what is usual; worked out as soon as nothing is missing. What is typed and cannot be is
    said in its field. Raises NotFound."""
    record, system = formula_of(workshop, name), workshop.settings.units
    known = known_inputs(record, facts)
    fields = [
        _field(key, n, asks, typed, known=known.get(key), system=system)
        for n, (key, asks) in enumerate(record.asks.items())
    ]
    if any(not field.text for field in fields):
        asked = next((f for f in fields if typed.get(f.id, "x").strip() == ""), None)
        trouble = f"Found nothing, expected the {asked.asks.name}." if asked else ""
        return Worked(name, record, fields, [], {}, trouble, asked.id if asked else "")
    try:
        given = {field.id: _given(field, typed, known, system) for field in fields}
        amounts = worked_out(name, record, given)
    except (FormulaError, BadValue) as error:
        words = str(error)
        return Worked(name, record, fields, [], {}, upper_first(words), error.field or "")
    return Worked(name, record, fields, _results(record, amounts, system), amounts)


def work_plainly(
    workshop: Workshop, name: str, typed: Mapping[str, str]
) -> tuple[FormulaRecord, dict[str, float]]:
    """Return a formula and what it gives, from inputs in its own units. Raises NotFound, BadValue
    naming the input."""
    record = formula_of(workshop, name)
    given = {key: number(typed[key], key) for key in record.asks if key in typed}
    try:
        return record, worked_out(name, record, given)
    except FormulaError as error:
        raise BadValue(sentence(error), error.field or name) from error


def _field(
    key: str,
    place: int,
    asks: FormulaInput,
    typed: Mapping[str, str],
    *,
    known: Known | None,
    system: System,
) -> Field:
    text, source = typed.get(key, ""), ""
    if key not in typed:
        amount = known.amount if known else asks.usual
        text = "" if amount is None else f"{in_system(amount, asks.unit, system).number:.5g}"
        source = known.source if known else ""
    least, most = (in_system(limit, asks.unit, system) for limit in (asks.least, asks.most))
    letter = chr(ord("A") + place)
    return Field(key, letter, asks, text, least.symbol, least.number, most.number, source)


def _given(
    field: Field, typed: Mapping[str, str], known: Mapping[str, Known], system: System
) -> float:
    if field.id not in typed and field.id in known:
        return known[field.id].amount
    amount = number(field.text, field.id, *sorted((field.least, field.most)))
    return from_system(amount, field.asks.unit, system)


def _results(
    record: FormulaRecord, amounts: Mapping[str, float], system: System
) -> list[FormulaResult]:
    found = []
    for key, gives in record.gives.items():
        amount = in_system(amounts[key], gives.unit, system)
        found.append(FormulaResult(key, gives.name, _text(amount, gives.unit), amount.symbol))
    return found


def _text(amount: Amount, unit: str) -> str:
    """Return a figure with the three digits it deserves."""
    if unit == "yes or no":
        return "yes" if amount.number >= 0.5 else "no"
    if amount.number in (float("inf"), float("-inf")):
        return "without end"
    return f"{float(f'{amount.number:.3g}'):,.10g}".replace(",", "\u2009")


def facts_of(settings: ShopSettings, answer: Answer | None) -> dict[str, Known]:
    """Return what is known for formulas: the shop's mains, and of a job its plate, the figures of
    its sheet, its age and its readings, the last of each."""
    facts = {
        "shop.mains_v": Known(settings.mains_v, "the shop's mains"),
        "shop.mains_hz": Known(settings.mains_hz, "the shop's mains"),
    }
    if answer is None:
        return facts
    job, machine = answer.job, answer.machine
    for key, value in plate_of(job, machine).model_dump().items():
        if isinstance(value, (int, float)):
            facts[f"plate.{key}"] = Known(float(value), "rating plate")
    for key, window in machine.values.items():
        facts[f"sheet.{key}"] = Known((window.low + window.high) / 2, window.source)
    for key, curve in machine.curves.items():
        facts |= {f"curve.{key}.{name}": known for name, known in _of_curve(curve).items()}
    if job.opened.age_years is not None:
        facts["job.age_years"] = Known(job.opened.age_years, "age of the machine")
    for _, body in job.checked():
        check = machine.checks.get(body.check)
        if check and check.measure and body.reading and body.reading.amount is not None:
            facts[f"reading.{check.measure.value}"] = Known(body.reading.amount, check.name)
    return facts


def _of_curve(curve: CurveRecord) -> dict[str, Known]:
    """Return the figures of a sheet's table that formulas ask for, through its ends."""
    (first, low), (last, high) = list(curve.points.items())[:: len(curve.points) - 1]
    if curve.thermistor:
        beta, r25 = thermistor_curve(low, first, high, last)
        return {"beta_k": Known(beta, curve.source), "r25_ohm": Known(r25, curve.source)}
    if curve.against == "millimeter":
        kilopascal = column_pascal(last - first) / 1000
        return {"per_kpa": Known((high - low) / kilopascal, curve.source)}
    return {}


def beside(workshop: Workshop, check: str) -> list[str]:
    """Return the formulas that stand beside a check, those its reading or answer comes
    from first."""
    table = workshop.shelf.tables.formulas.formulas
    tells = [name for name, record in table.items() if check in {*record.reads, *record.answers}]
    return tells + [name for name, record in table.items() if check in record.beside]
