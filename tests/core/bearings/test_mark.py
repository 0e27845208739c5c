"""Marks of bearings, whole and worn away, against the arithmetic of ISO 15."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.bearings.mark import (
    MarkError,
    bearings_of,
    by_size,
    code_of,
    mistaken_for,
    read_mark,
)
from bottega.core.library.shelf import shipped_shelf

TABLE = shipped_shelf().tables.bearings
ALL = bearings_of(TABLE)
HEIGHTS = {"68": 0.4, "69": 0.6, "60": 0.9, "62": 1.35, "63": 2.0}
"""How much higher than half its bore a section of each diameter series is: 8, 9, 0, 2, 3 rise."""


def test_the_bore_is_a_fifth_of_what_the_code_says():
    for bearing in ALL:
        code = code_of(bearing.bore_mm)
        if bearing.bore_mm >= 20 and "/" not in code:
            assert int(code) * 5 == bearing.bore_mm
    assert [code_of(bore) for bore in (10, 12, 15, 17)] == ["00", "01", "02", "03"]
    assert (code_of(8), code_of(22), code_of(28)) == ("8", "/22", "/28")


def test_diameter_series_rise_at_every_bore():
    for bore in TABLE.series["62"]:
        outsides = [
            TABLE.series[series][bore][0] for series in HEIGHTS if bore in TABLE.series[series]
        ]
        assert outsides == sorted(set(outsides)), bore
    for series, rows in TABLE.series.items():
        sections = [(outside - bore) / 2 for bore, (outside, _) in rows.items()]
        widths = [width for _, width in rows.values()]
        assert widths == sorted(widths), series
        assert all(0.3 < w / s < 2.1 for w, s in zip(widths, sections, strict=True)), series


@pytest.mark.parametrize(
    ("mark", "size"),
    [
        ("608", "8 x 22 x 7"),
        ("6000", "10 x 26 x 8"),
        ("6203", "17 x 40 x 12"),
        ("6204", "20 x 47 x 14"),
        ("6205", "25 x 52 x 15"),
        ("6206", "30 x 62 x 16"),
        ("6305", "25 x 62 x 17"),
        ("6306", "30 x 72 x 19"),
        ("6008", "40 x 68 x 15"),
        ("6810", "50 x 65 x 7"),
        ("6904", "20 x 37 x 9"),
        ("62/28", "28 x 58 x 16"),
    ],
)
def test_worked_examples_of_the_standard(mark, size):
    [bearing] = read_mark(TABLE, mark)
    assert (bearing.name, bearing.size) == (mark, size)


@given(st.sampled_from(ALL), st.sampled_from(["", "Z", "2Z", "RS", "2RS"]), st.data())
def test_whatever_is_worn_away_the_bearing_is_among_those_it_may_be(bearing, cover, data):
    mark = f"{bearing.name}{cover}C3"
    gone = data.draw(st.sets(st.integers(1, len(mark) - 1), max_size=3))
    worn = "".join("?" if n in gone else sign for n, sign in enumerate(mark))
    assert bearing.name in [one.name for one in read_mark(TABLE, worn)]


@pytest.mark.parametrize(
    ("typed", "marks"),
    [
        ("62?5-2RS C3", ["6205-2RS C3"]),
        ("6*5", ["6005", "6205", "6305", "6805", "6905"]),
        ("6306 zz", ["6306-2Z"]),
        ("?205", ["6205"]),
        ("6205 2?", ["6205-2Z"]),
        ("6205 2*", ["6205"]),
    ],
)
def test_a_mark_partly_worn_away(typed, marks):
    assert [bearing.mark for bearing in read_mark(TABLE, typed)] == marks


@pytest.mark.parametrize("typed", ["7204", "62x5", "", "6" * 40, "<b>", "6299"])
def test_a_mark_that_fits_nothing_says_what_was_expected(typed):
    with pytest.raises(MarkError, match=r"expected a mark|fits no bearing"):
        read_mark(TABLE, typed)


@given(st.sampled_from(ALL), st.floats(-0.09, 0.09), st.floats(-0.09, 0.09))
def test_a_caliper_finds_every_bearing_again(bearing, first, second):
    found = by_size(TABLE, bearing.bore_mm + first, bearing.outside_mm + second, bearing.width_mm)
    assert bearing.name in [one.name for one in found]


def test_no_bearing_of_such_a_size_names_the_nearest():
    with pytest.raises(MarkError, match="nearest is 6205, 25 x 52 x 15"):
        by_size(TABLE, 25, 52, 18)
    with pytest.raises(MarkError, match="no size"):
        by_size(TABLE, None, None, None)
    assert len(by_size(TABLE, 25, None, None)) == 5


def test_a_pair_of_the_same_bore_or_outside_is_warned_of():
    [bearing] = read_mark(TABLE, "6205")
    names = {other.name: what for other, what in mistaken_for(TABLE, bearing)}
    assert "12 wide" in names["6005"]
    assert "bore 20" in names["6304"]
    assert "6205" not in names
