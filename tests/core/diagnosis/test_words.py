"""Chances as they are said: in one form everywhere, and those of one question add to a hundred."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.diagnosis.words import percent, shares


@pytest.mark.parametrize(
    ("p", "said"), [(0, "0%"), (0.004, "<1%"), (0.5, "50%"), (0.996, ">99%"), (1, "100%")]
)
def test_no_chance_is_said_to_be_certain_that_is_not(p, said):
    assert percent(p) == said


@given(st.lists(st.floats(0.001, 1), min_size=1, max_size=7))
def test_the_answers_of_one_question_add_to_a_hundred(weights):
    chances = [weight / sum(weights) for weight in weights]
    said = shares(chances)
    figures = [0 if s == "<1%" else 100 if s == ">99%" else int(s.rstrip("%")) for s in said]
    assert sum(figures) == 100
    assert all(abs(f - p * 100) <= 1 for f, p in zip(figures, chances, strict=True))


def test_small_and_nearly_sure_are_not_said_to_be_none_and_certain():
    assert shares([0.996, 0.004]) == [">99%", "<1%"]
    assert shares([1 / 3, 2 / 3]) == ["33%", "67%"]
    assert shares([1.0, 0.0]) == ["100%", "0%"]
