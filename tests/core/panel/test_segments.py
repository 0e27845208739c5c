"""Displays of seven and fourteen bars: what they form, and what looks alike on them."""

import pytest

from bottega.core.panel.decoder import PanelError, decode_text
from bottega.core.panel.segments import GLYPHS, glyph, strays, unformed


@pytest.mark.parametrize(("segments", "bars"), [(7, "abcdefg"), (14, "abcdefghijklmn")])
def test_every_figure_is_made_of_bars_the_display_has(segments, bars):
    for character, lit in GLYPHS[segments].items():
        assert set(lit) <= set(bars), character
        assert "".join(sorted(lit)) == lit, character
    figures = [glyph(segments, str(n)) for n in range(10)]
    assert len(set(figures)) == 10
    assert glyph(segments, "8") == max(figures, key=len)


def test_figures_of_seven_bars_are_those_on_every_pocket_calculator():
    """Lit bars of nought to nine by count, as on any such display: 6 2 5 5 4 5 6 3 7 6."""
    assert [len(glyph(7, str(n))) for n in range(10)] == [6, 2, 5, 5, 4, 5, 6, 3, 7, 6]


def test_what_cannot_be_formed_and_what_looks_alike():
    assert unformed(7, "lumo") == "m"
    assert unformed(14, "lumo") == ""
    assert unformed(0, "ö?m") == ""
    assert strays(7, "5", "S") == 0
    assert strays(7, "8", "0") == 1
    assert strays(14, "O", "0") == 0
    assert strays(0, "a", "b") == 2


def test_a_display_is_read_by_what_it_looks_like(shelf):
    figures = shelf.machine("WD", "virgola-asciutta-7")
    assert decode_text(figures, "5 1").code.id == "51"
    assert decode_text(figures, "S1").code.id == "51", "an S looks like a five on it"
    with pytest.raises(PanelError, match="found 'm' in 'm1', expected what 7 bars a figure"):
        decode_text(figures, "m1")
    words = shelf.machine("FD", "calvessa-dritta-8")
    assert decode_text(words, "LUMO").code.id == "lumo"
    assert decode_text(words, "lumu").code is None
