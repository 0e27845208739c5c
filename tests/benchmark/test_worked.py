"""The worked examples: what was found by hand is what the rig finds."""

import pytest

from bottega.benchmark.worked import EXAMPLES


@pytest.mark.parametrize("example", EXAMPLES, ids=lambda one: one.name)
def test_the_rig_finds_what_was_found_by_hand(example):
    assert example.found() == pytest.approx(example.by_hand, rel=example.within), example.source


def test_there_are_examples_of_every_subsystem_each_with_its_source():
    assert len(EXAMPLES) >= 40
    assert len({example.name for example in EXAMPLES}) == len(EXAMPLES)
    assert all(example.source and 0 < example.within <= 0.03 for example in EXAMPLES)
