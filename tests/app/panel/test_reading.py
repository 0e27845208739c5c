"""What the panel showed, as typed."""

import pytest

from bottega.app.errors import BadValue
from bottega.app.panel.reading import read_panel


def test_flashes_typed_for_two_lamps(f7):
    two = {"amber_0": "3", "white_0": "2", "amber_1": "6", "white_1": "1", "result": "codes"}
    assert read_panel(f7, two).codes == ("3-2", "6-1")
    assert read_panel(f7, {"result": "none"}).result == "none"
    for fields, words in [
        ({"result": "codes"}, "No count"),
        ({"result": "codes", "amber_0": "3"}, "white flashes"),
        ({"result": "codes", "amber_0": "3", "white_0": "1"}, "One step away: .*3-2"),
        ({"result": "codes", "amber_0": "x", "white_0": "1"}, "whole number"),
        ({"result": "none", "amber_0": "3", "white_0": "2"}, "Empty them"),
        ({"result": "maybe"}, "expected codes, none or unreadable"),
    ]:
        with pytest.raises(BadValue, match=words):
            read_panel(f7, fields)
