"""One machine drawn by its seed: what acts when, what grows, and how alike two are."""

import pytest

from bottega.rig.faults import fault_table
from bottega.rig.parameters import parameters
from bottega.rig.specimen import Specimen


def test_what_comes_and_goes_is_there_as_often_as_it_says(f7):
    specimen = Specimen(f7, "1", {"flex_broken": 0.8})
    acts = sum("flex_broken" in specimen.acting(str(n)) for n in range(600))
    assert acts / 600 == pytest.approx(fault_table().faults["flex_broken"].comes.share, abs=0.06)
    assert specimen.acting("any", "flex") == {"flex_broken"}


def test_what_can_be_seen_of_it_stays(f7):
    specimen = Specimen(f7, "1", {"brushes_worn": 0.9})
    assert specimen.values(frozenset())["brush_mm"] < 9
    assert specimen.values(frozenset())["brush_ohm"] < 1


def test_days_of_use_make_it_worse(f7):
    specimen = Specimen(f7, "1", {"filter_blocked": 0.2})
    assert specimen.older(30).faults["filter_blocked"] == pytest.approx(0.5)
    assert specimen.older(1000).faults["filter_blocked"] == 1.0
    with pytest.raises(ValueError, match="-1 days"):
        specimen.older(-1)


def test_two_sound_machines_are_not_alike_and_the_same_seed_is(f7):
    assert Specimen(f7, "1").sound != Specimen(f7, "2").sound
    assert Specimen(f7, "1").sound == Specimen(f7, "1").sound


def test_every_parameter_is_a_typed_field_and_no_other_is(shelf):
    from scripts.rig_values import FILE, written

    assert FILE.read_text(encoding="utf-8") == written(), "run python scripts/rig_values.py"
    with pytest.raises(AttributeError):
        Specimen(shelf.machine("FB"), "1").sound["no_such_figure"]


def test_what_is_chosen_says_its_range():
    """A figure nobody can give a source for has a spread, unless it is there or not, or whole."""
    for name, figure in parameters("FB").items():
        if figure.source == "chosen for this rig" and figure.value not in (0, 1):
            assert figure.spread > 0, name
