"""Values from outside: figures as people type them, and everything that only looks like one."""

from math import isfinite

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.app.errors import BadValue
from bottega.app.values import LONGEST_SHOWN, number, shown, whole


@given(st.floats(-1e6, 1e6))
def test_a_number_is_read_with_point_or_comma(value):
    text = f"{value:.6f}"
    assert number(text, "x") == pytest.approx(value, abs=1e-6)
    assert number(f" {text.replace('.', ',')} ", "x") == number(text, "x")


@given(st.text(max_size=40))
def test_no_text_gives_anything_but_a_finite_number_in_range_or_a_refusal(text):
    try:
        value = number(text, "visit_fee", 0, 100)
    except BadValue as error:
        value, refusal = 0, error
    else:
        refusal = None
    assert isfinite(value)
    assert 0 <= value <= 100
    assert refusal is None or (refusal.field, "visit fee" in str(refusal)) == ("visit_fee", True)


@pytest.mark.parametrize("text", ["nan", "inf", "-inf", "1e999", "9" * 400, "", "ten", "1_0 0"])
def test_what_is_no_number_is_refused(text):
    with pytest.raises(BadValue, match="expected a number from 0 to 5"):
        number(text, "x", 0, 5)


@pytest.mark.parametrize("text", ["²", "٣", "1.5", "-1", "+1", "", "9" * 5000, "1e3", "0x10"])
def test_what_is_no_plain_whole_number_is_refused(text):
    with pytest.raises(BadValue, match="a whole number from 0 to 999"):
        whole(text, "count", 0, 999)


@given(st.integers(0, 999))
def test_whole_numbers_in_range_are_read(value):
    assert whole(f" {value} ", "count", 0, 999) == value


def test_a_whole_number_out_of_range_is_refused_with_it():
    with pytest.raises(BadValue, match="Found 700 for count, expected 1 to 500"):
        whole("700", "count", 1, 500)


@given(st.text(max_size=200) | st.integers() | st.lists(st.text(max_size=9)))
def test_what_is_repeated_stands_on_one_short_line(value):
    text = shown(value)
    assert len(text) <= LONGEST_SHOWN
    assert "\n" not in text
