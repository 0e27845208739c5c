"""Ids and words that name nothing are found, with the file, the line and the nearest that is
known."""

import pytest

from bottega.core.library.consistency import check_library
from bottega.core.library.errors import LibraryError
from bottega.core.library.shelf import read_shelf


def problems_after(folder, path, old, new):
    """Return what is found wrong once a text of a file is changed, and the line of the change."""
    file = folder / path
    text = file.read_text(encoding="utf-8")
    assert old in text, f"{path} has no '{old}' any more"
    file.write_text(text.replace(old, new, 1), encoding="utf-8")
    line = text[: text.index(old)].count("\n") + 1
    try:
        return check_library(read_shelf(folder)), line
    except LibraryError as error:
        return error.problems, line


@pytest.mark.parametrize(
    ("path", "old", "new", "nearest"),
    [
        ("assemblies/drain.yaml", "connects: [sump_hose", "connects: [sump_hoze", "sump_hose"),
        ("archetypes/FB.yaml", "\nopenings:\n", "\nopenings:\n  topp: {x: 1, y: 1}\n", "top"),
        (
            "archetypes/FB.yaml",
            "\nplaces:\n",
            "\nplaces:\n  drain_pumb: {x: 1, y: 1}\n",
            "drain_pump",
        ),
        ("assemblies/drain.yaml", "rotor: [rotor_slips]", "rotor: [rotor_slipz]", "rotor_slips"),
        ("archetypes/FB.yaml", "traits:\n  front: always", "traits:\n  frond: always", "front"),
        (
            "archetypes/FB.yaml",
            "\nvalues:",
            "\nweights: {rotor_slipps: 2}\nvalues:",
            "rotor_slips",
        ),
    ],
)
def test_what_names_nothing_is_found_with_its_line(folder, path, old, new, nearest):
    problems, line = problems_after(folder, path, old, new)
    assert problems
    assert problems[0].file == path.rpartition("/")[2]
    assert abs(problems[0].line - line) <= 2
    assert nearest in problems[0].found + problems[0].expected


@pytest.mark.parametrize(
    "operations",
    [
        "rear_panel: {name: x, minutes: 1, after: [rear_panel]}",
        "one: {name: x, minutes: 1, after: [two]}\n  two: {name: y, minutes: 1, after: [one]}",
    ],
    ids=["itself", "two"],
)
def test_a_circle_is_named(folder, operations):
    problems, _ = problems_after(
        folder, "sheets/nembrio-f7.yaml", "\nnotes:\n", f"\noperations:\n  {operations}\nnotes:\n"
    )
    assert "circle" in " ".join(str(problem) for problem in problems)


@pytest.mark.parametrize(
    ("said", "becomes", "found"),
    [
        ("{bellows}", "{belows}", "'belows'"),
        ("cheap: [the bands]", "cheap: [the hoops]", "'the hoops'"),
        ("band: band}", "band: bend}", "'bend'"),
    ],
)
def test_what_a_fitting_names_and_is_nowhere_is_said(folder, said, becomes, found):
    problems, line = problems_after(folder, "assemblies/gasket.yaml", said, becomes)

    places = [problem.line for problem in problems if problem.found == found]
    assert places
    assert all(line - 2 <= place <= line for place in places)
