"""Checks from their records: each refusal names the key, what was found and what was expected."""

import pytest

from bottega.core.library.checks import (
    both,
    checks_of,
    plug_of,
    refuse_other_units,
    refuse_unknown_reads,
)
from bottega.core.library.errors import LibraryError
from bottega.core.library.records import Needs


def with_check(shelf, name, **changes):
    drain = shelf.assemblies["drain"]
    record = drain.checks[name].model_copy(update=changes)
    return drain.model_copy(update={"checks": {name: record}})


def problem_of(shelf, machine, name, **changes):
    with pytest.raises(LibraryError) as caught:
        checks_of(
            with_check(shelf, name, **changes),
            machine.effects,
            machine.components,
            machine.faults,
            tables=shelf.tables,
        )
    return caught.value.problems[0]


def test_a_check_takes_what_it_does_not_say_from_its_tool_and_its_place(shelf, f7):
    made = checks_of(
        shelf.assemblies["drain"], f7.effects, f7.components, f7.faults, tables=shelf.tables
    )
    for name, check in made.items():
        record, tool = shelf.assemblies["drain"].checks[name], shelf.tables.tools[check.tool]
        assert check.minutes == (record.minutes or tool.minutes)
        assert check.caution == (record.caution or tool.caution)
        reach = f7.components[record.at].reach if record.at else Needs()
        reach = plug_of(f7.components[record.plug]) if record.plug else reach
        assert set(check.needs.off) == set(reach.off) | set(record.needs.off)


@pytest.mark.parametrize(
    ("changes", "key", "found", "expected"),
    [
        ({"tool": "spoon"}, "checks.turn_rotor.tool", "'spoon'", "tray"),
        ({"component": "rocket", "at": None}, "checks.turn_rotor", "'rocket'", "a component"),
        ({"table": {}}, "checks.turn_rotor.table", "no row for", "every state"),
    ],
)
def test_what_does_not_fit_is_refused_by_its_key(shelf, f7, changes, key, found, expected):
    problem = problem_of(shelf, f7, "turn_rotor", **changes)
    assert (problem.file, problem.key) == ("drain.yaml", key)
    assert found in problem.found
    assert expected in problem.expected


def test_bands_must_name_outcomes_and_units_the_quantity(shelf, f7):
    measure = shelf.assemblies["drain"].checks["measure_pump_coil"].measure
    lost = measure.model_copy(update={"bands": {"low": "purple"}})
    problem = problem_of(shelf, f7, "measure_pump_coil", measure=lost)
    assert problem.key == "checks.measure_pump_coil.measure.bands.low"
    other = measure.model_copy(update={"quantity": "courage"})
    assert "'courage'" in problem_of(shelf, f7, "measure_pump_coil", measure=other).found
    window = f7.values["pump_coil_ohm"].model_copy(update={"unit": "V"})
    with pytest.raises(LibraryError, match=r"values.pump_coil_ohm.unit: found 'V', expected ohm"):
        refuse_other_units(
            {"measure_pump_coil": f7.checks["measure_pump_coil"]},
            {"pump_coil_ohm": window},
            {},
            "nembrio-f7",
            tables=shelf.tables,
        )


def test_a_misspelt_effect_is_answered_with_the_nearest(shelf, f7):
    assembly = with_check(shelf, "turn_rotor", reads="rotor_fell")
    with pytest.raises(LibraryError, match="nearest is 'rotor_feel'"):
        refuse_unknown_reads(assembly, set(f7.effects))


def test_two_needs_are_met_together():
    met = both(Needs(off=("a", "b"), power="off"), Needs(off=("b", "c"), water="out"))
    assert met.off == ("a", "b", "c")
    assert (met.power, met.water) == ("off", "out")
