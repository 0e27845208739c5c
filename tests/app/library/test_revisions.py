"""What a revision of a sheet changed, in lines and in words."""

from bottega.app.library.parts import add_part
from bottega.app.library.revisions import VALUES_SAID, last_change, said_since

SHEET = "pellandra-400"


def test_the_last_change_alone_is_shown(workshop):
    assert last_change(workshop, SHEET) == []
    for number in ("PE-1", "PE-2"):
        part = {"component": "drain_pump", "number": number, "price": "31"}
        add_part(workshop, SHEET, part, "Ilaria")
    lines = last_change(workshop, SHEET)
    assert any(line.startswith("+") and "PE-2" in line for line in lines)
    assert not any(line.startswith("+") and "PE-1" in line for line in lines)
    assert all(line[0] in "+-" for line in lines)


def test_values_that_changed_are_said_and_the_rest_counted():
    then = {"a": 1, "b": {"c": [1, 2]}, "same": True}
    assert said_since(then, then) == ""
    assert said_since(then, {**then, "a": 2}) == "a is 2"
    many = {name: n for n, name in enumerate("vwxyz")}
    told = said_since({}, many)
    assert told.endswith(f"{len(many) - VALUES_SAID} more values")
    assert "b.c.2 is 3" in said_since(then, {**then, "b": {"c": [1, 3]}})
