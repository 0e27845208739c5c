"""What hangs on the figures that were chosen in the rig's code."""

from bottega.benchmark.chosen import CHOSEN_WITHIN, chosen, drawn, hangs_on_chosen, redrawn
from bottega.rig import board, wet


def test_what_its_docstring_calls_chosen_is_found_and_what_comes_from_a_source_is_not():
    figures = chosen()
    assert figures["FILL_LIMIT_S"] == board.FILL_LIMIT_S
    assert figures["PULLS_IN"] == wet.PULLS_IN
    assert "STEP_S" not in figures


def test_a_draw_moves_every_figure_within_its_range_and_is_the_same_again():
    before, after = chosen(), drawn("1")
    assert after == drawn("1") != drawn("2")
    assert after.keys() == before.keys()
    assert all(
        abs(after[name] - before[name]) <= CHOSEN_WITHIN * abs(before[name]) for name in after
    )


def test_drawn_figures_are_those_the_rig_works_with_and_go_with_the_draw():
    was = board.FILL_LIMIT_S
    with redrawn({"FILL_LIMIT_S": 1.0}):
        assert board.FILL_LIMIT_S == 1.0
    assert was == board.FILL_LIMIT_S


def test_a_limit_too_short_to_fill_changes_what_is_told(monkeypatch):
    monkeypatch.setattr("bottega.benchmark.chosen.injectable", lambda known: ["tap_shut"])
    as_chosen = hangs_on_chosen("FB", 1, 1, lambda line: None)
    monkeypatch.setattr("bottega.benchmark.chosen.drawn", lambda seed: {"FILL_LIMIT_S": 1.0})
    hurried = hangs_on_chosen("FB", 1, 1, lambda line: None)
    assert (as_chosen.ended, hurried.ended) == (1, 0)
    assert as_chosen.kept_share > 0.8
