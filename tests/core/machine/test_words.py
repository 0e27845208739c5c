"""Putting back is said the other way round."""

import pytest

from bottega.core.library.shelf import shipped_shelf
from bottega.core.machine.words import put_back_words, thing_of


@pytest.mark.parametrize(
    ("off", "back"),
    [
        ("Take the top off", "Put the top on"),
        ("Take the drain pump out by the front", "Put the drain pump in by the front"),
        ("Drive the rear bearing out", "Press the rear bearing in"),
        ("Part the tub halves", "Join the tub halves"),
        ("Take the band and fold the bellows inward", "Fold the bellows back and put the band on"),
        ("Open the flap at the lower front", "Shut the flap at the lower front"),
        ("Juggle the lid", "Put back: juggle the lid"),
    ],
)
def test_the_other_way_round(off, back):
    assert put_back_words(off) == back


def test_every_operation_of_the_library_can_be_said():
    shelf = shipped_shelf()
    for name in shelf.archetypes:
        for record in shelf.machine(name).operations.values():
            said = put_back_words(record.name)
            assert not said.startswith("Put back:"), record.name
            assert " off" not in said, said


@pytest.mark.parametrize(
    ("off", "thing"),
    [
        ("Take the sump hose off the tub", "sump hose"),
        ("Take the drain pump out by the front", "drain pump"),
        ("Take the front band and fold the bellows inward", "front band"),
        ("Unscrew the pump filter", "pump filter"),
        ("Lift the tub out through the front", "tub"),
        ("Part the tub halves", "tub halves"),
    ],
)
def test_what_is_taken_off(off, thing):
    assert thing_of(off) == thing
