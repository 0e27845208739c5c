"""Formulas of the bench, against worked examples of textbooks, standards and other formulas for the
same."""

from inspect import signature
from math import inf, nan

import pytest
from tests.core.measure.worked import out

from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.formulas import FORMULAS, FormulaError, Known, known_inputs, worked_out

SHELF = shipped_shelf()
TABLE = SHELF.tables.formulas.formulas


USUAL = {"volts": 230.0, "ohm": 100.0, "total_w": 2000.0, "watts": 2000.0, "to_c": 40.0,
         "first_c": 20.0, "second_c": 50.0, "second_ohm": 11.0,
         "first_ohm": 12.0, "standpipe_mm": 800.0, "millimetres": 100.0,
         "idle_v": 230.0, "loaded_v": 224.0, "last_mm": 2.0, "rpm": 1400.0, "hertz": 50.0,
         "millilitres": 50.0, "seconds": 60.0, "now_mm": 20.0, "litres": 10.0,
         "cold_seconds": 30.0, "hot_seconds": 30.0}  # fmt: skip


@pytest.mark.parametrize("name", sorted(FORMULAS))
def test_every_formula_is_written_as_it_works(name: str) -> None:
    """The record's inputs are the function's, in its order, and the function has a docstring."""
    record, work = TABLE[name], FORMULAS[name]
    assert list(record.asks) == list(signature(work).parameters)
    assert work.__doc__
    usual = {key: USUAL.get(key, 5.0) if asks.usual is None else asks.usual
             for key, asks in record.asks.items()}  # fmt: skip
    assert set(worked_out(name, record, usual)) == set(record.gives)


@pytest.mark.parametrize("name", sorted(FORMULAS))
@pytest.mark.parametrize("wrong", [nan, inf, -1e9, 1e15])
def test_what_cannot_be_is_refused_in_its_field(name: str, wrong: float) -> None:
    record = TABLE[name]
    for key in record.asks:
        given = {k: asks.most for k, asks in record.asks.items()} | {key: wrong}
        with pytest.raises(FormulaError) as caught:
            worked_out(name, record, given)
        assert caught.value.field == key


def test_figures_that_contradict_each_other_are_refused():
    for name, figures in {
        "warming": (10, 200, 15, 40, 300),
        "heating_watts": (100, 200),
        "thermistor_curve": (10000, 25, 9000, 25.5),
        "swing_by_heights": (5, 40, 1),
        "brush_left": (20, 36, 10, 8, 4),
        "voltage_drop": (224, 230),
        "drain_head": (100, 850, 2, 19, 15),
        "sensor_level": (44000, 0, 43000),
        "run_on_tally": (2, 3),
    }.items():
        with pytest.raises(FormulaError) as caught:
            out(name, *figures)
        assert caught.value.field == "", name


def test_inputs_are_known_from_the_first_place_that_has_them():
    record = TABLE["power_at_mains"]
    facts = {
        "shop.mains_v": Known(230, "shop"),
        "reading.mains_v": Known(221, "socket"),
        "reading.element_ohm": Known(1e9, "open"),
    }
    assert known_inputs(record, facts) == {"volts": Known(221, "socket")}


def test_every_formula_has_its_place_beside_a_check_or_a_fitting_of_some_machine():
    machines = [SHELF.machine(name) for name in SHELF.archetypes]
    checks = {check for machine in machines for check in machine.checks}
    parts = {part for machine in machines for part in machine.parts}
    for name, record in TABLE.items():
        places = {*record.beside, *record.reads, *record.answers}
        assert places or record.fitting, name
        assert places <= checks, f"{name}: {sorted(places - checks)}"
        assert set(record.fitting) <= parts, f"{name}: {sorted(set(record.fitting) - parts)}"


def test_what_a_formula_reads_has_the_unit_of_the_check():
    for name, record in TABLE.items():
        for archetype in SHELF.archetypes:
            machine = SHELF.machine(archetype)
            for check, output in record.reads.items():
                if check in machine.checks:
                    measure = machine.checks[check].measure
                    unit = SHELF.tables.quantities[measure.quantity].unit
                    assert record.gives[output].unit in (unit, "dimensionless"), name


def test_what_a_formula_answers_are_outcomes_of_the_check():
    for name, record in TABLE.items():
        for archetype in SHELF.archetypes:
            machine = SHELF.machine(archetype)
            for check, answered in record.answers.items():
                if check in machine.checks:
                    known = {outcome.id for outcome in machine.checks[check].outcomes}
                    assert set(answered.from_) <= known, name


@pytest.mark.parametrize(
    ("name", "amount", "outcome"),
    [
        ("run_on_tally", 0, "shuts"),
        ("run_on_tally", 12.5, "runs on"),
        ("detents", 0, "free"),
        ("detents", 2, "steps"),
        ("clicks", 0, "silent"),
        ("clicks", 1, "one click"),
        ("clicks", 2, "clicks again and again"),
        ("effective_watts", -3, "none"),
        ("effective_watts", 40, "slow"),
        ("effective_watts", 95, "normal"),
    ],
)
def test_a_figure_answers_by_where_it_lies(name, amount, outcome):
    assert next(iter(TABLE[name].answers.values())).outcome(amount) == outcome
