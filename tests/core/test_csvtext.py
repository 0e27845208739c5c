"""Tables as text, from anywhere."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.csvtext import CsvError, lines_of

CELL = st.text(st.characters(exclude_categories=["C"]), min_size=1, max_size=8)
TABLE = st.lists(st.lists(CELL, min_size=1, max_size=4), max_size=6)


@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
def test_a_line_ends_as_any_system_ends_it(ends):
    text = ends.join(["code,shows", "", '3-2,"pump, stuck"'])
    assert list(lines_of(text, 9)) == [(1, ["code", "shows"]), (3, ["3-2", "pump, stuck"])]


@given(TABLE)
def test_what_was_written_is_read_again(table):
    written = io.StringIO()
    csv.writer(written).writerows(table)
    assert [cells for _, cells in lines_of(written.getvalue(), 9)] == table


def test_a_table_too_long_is_refused_at_its_first_line_too_many():
    assert len(list(lines_of("head\n1\n2", 2))) == 3
    with pytest.raises(CsvError, match="more than 2 lines"):
        list(lines_of("head\n1\n2\n3", 2))


def test_a_cell_without_end_is_refused_with_its_line():
    with pytest.raises(CsvError, match="line 2 cannot be read"):
        list(lines_of('head\n"' + "x" * 140_000, 9))
