"""Variants of a model: a sheet that is like another holds what differs; and what programmes are
meant to do."""

import pytest

from bottega.core.library.consistency import check_library
from bottega.core.library.errors import LibraryError
from bottega.core.library.programmes import meant
from bottega.core.library.sheet import SheetFile
from bottega.core.library.shelf import laid_over
from bottega.core.library.yamlfile import parse_yaml

FIRST, LATER = "nembrio-f7", "nembrio-f7-white"


@pytest.fixture
def later(shelf):
    return shelf.machine("FB", LATER)


def written(shelf, **own):
    record = {"sheet": "made", "maker": "Nembrio", "model": "F7", "archetype": "FB", **own}
    text = "\n".join(f"{key}: {value}" for key, value in record.items())
    return shelf.with_sheet(parse_yaml(text.encode(), "made.yaml"))


def test_what_differs_is_its_own_and_everything_else_the_firsts(f7, later):
    assert later.values["pump_coil_ohm"].high < f7.values["pump_coil_ohm"].low
    assert later.values["valve_coil_ohm"] == f7.values["valve_coil_ohm"]
    assert list(later.codes) == list(f7.codes)
    assert later.panel == f7.panel
    assert "valve_hot_open" in f7.faults
    assert "valve_hot_open" not in later.faults
    assert "measure_hot_coil" not in later.checks
    pump = "measure_pump_coil"
    assert later.checks[pump].measure.terminals != f7.checks[pump].measure.terminals
    assert later.operations["rear_panel"].fasteners[0].head == "star"
    assert later.part_numbers["drain_pump"] != f7.part_numbers["drain_pump"]
    assert later.part_numbers["belt"] == f7.part_numbers["belt"]
    assert later.title != f7.title
    assert set(later.notes) >= set(f7.notes)


def test_both_are_variants_of_one_model_and_a_model_alone_has_none(shelf):
    for sheet in (FIRST, LATER):
        assert {record.sheet for record in shelf.variants(sheet)} == {FIRST, LATER}
    assert shelf.variants("nembrio-f9") == []


def test_a_plate_is_laid_over_line_by_line():
    base = SheetFile(
        sheet="a", maker="M", model="A", archetype="FB", plate={"volts": 230, "hertz": 50}
    )
    own = SheetFile(sheet="b", maker="M", model="A", archetype="FB", like="a", plate={"hertz": 60})
    plate = laid_over(base, own).plate
    assert (plate.volts, plate.hertz) == (230, 60)


def test_a_change_of_the_first_is_one_of_the_later(shelf):
    text = shelf.sources[FIRST].text.replace("low: 3500", "low: 3400")
    changed = shelf.with_sheet(parse_yaml(text.encode(), f"{FIRST}.yaml"))
    assert changed.machine("FB", LATER).values["valve_coil_ohm"].low == 3400
    assert changed.machine("FB", LATER).revision != shelf.machine("FB", LATER).revision
    assert changed.machine("FD", "calvessa-dritta-8") is shelf.machine("FD", "calvessa-dritta-8")


@pytest.mark.parametrize(
    ("own", "found"),
    [
        ({"like": "nothing"}, "found 'nothing'"),
        ({"like": "made"}, "not in a circle"),
        ({"like": "calvessa-dritta-8"}, "a sheet of FD"),
    ],
)
def test_what_it_cannot_be_like_is_refused_with_its_place(shelf, own, found):
    with pytest.raises(LibraryError, match=found):
        written(shelf, **own)


def test_what_it_names_and_the_machine_has_not_is_reported(shelf):
    own = {
        "like": FIRST,
        "omit": "{faults: [flat_tyre]}",
        "terminals": "{look_filter: the two ends}",
        "programmes": "{short: {name: Short, by_design: {says_nothing: It hums a tune.}}}",
    }
    found = [problem.found for problem in check_library(written(shelf, **own))]
    assert {"'flat_tyre'", "'look_filter'", "'says_nothing'"} <= set(found)


def test_a_complaint_is_by_design_where_a_programme_says_so(f7):
    found = meant(f7, ("says_long_wash", "says_floor_wet", "no longer known"))
    assert {item.says for item in found} == {f7.complaints["says_long_wash"].record.says}
    assert all(item.because for item in found)
    assert meant(f7, ()) == []
