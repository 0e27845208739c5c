"""Lamps, bars and characters nobody is quite sure of: all codes they may be, by Bayes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.panel.decoder import PanelError, decode, decode_text
from bottega.core.panel.encoder import lamps_for, shown
from bottega.core.panel.seen import seen, seen_sums, seen_text

STILL = ("SL", "sestra-torre"), ("TS", "torvane-alta-10"), ("TD", "ostrel-linea-t")


def test_every_code_of_lamps_bars_and_characters_comes_back(shelf):
    slips, read = shelf.tables.panel, 0
    for kind, sheet in (*STILL, ("FD", "calvessa-dritta-8"), ("WD", "virgola-asciutta-7")):
        machine = shelf.machine(kind, sheet)
        for code in machine.codes.values():
            showing = shown(machine.panel, code)
            if showing.text:
                assert decode_text(machine, showing.text).code == code
                found = seen_text(machine, showing.text, slips)
            else:
                assert decode(machine, code.record.show).code == code
                found = seen(machine, showing.lit, slips)
            assert found.first.code == code
            assert found.first.chance > 0.8
            read += 1
    assert read > 70


@given(data=st.data())
def test_one_unsure_lamp_leaves_the_code_among_the_readings(shelf, data):
    machine = shelf.machine(*data.draw(st.sampled_from(STILL)))
    code = data.draw(st.sampled_from(list(machine.codes.values())))
    pages = [list(page) for page in shown(machine.panel, code).lit]
    page = data.draw(st.integers(0, len(pages) - 1))
    lamp = data.draw(st.integers(0, len(pages[page]) - 1))
    pages[page][lamp] = None
    found = seen(machine, tuple(tuple(p) for p in pages), shelf.tables.panel)
    assert code in [reading.code for reading in found.readings]
    assert sum(reading.chance for reading in found.readings) <= 1 + 1e-9


def test_two_patterns_one_lamp_apart_are_weighed_by_the_slip(shelf):
    """Sestra's codes are three lamps apart: seen with one lamp wrong, the true one leads by far."""
    machine = shelf.machine("SL", "sestra-torre")
    shows = [code.record.show for code in machine.codes.values()]
    apart = min(
        sum(a != b for a, b in zip(x, y, strict=True))
        for n, x in enumerate(shows)
        for y in shows[:n]
    )
    assert apart == 3
    code = next(iter(machine.codes.values()))
    wrong = ((code.record.show[0] + 1) % 3, *code.record.show[1:])
    assert seen(machine, (wrong,), shelf.tables.panel).first.code == code


def test_a_page_nobody_has_looked_at_leaves_what_fits_the_other(shelf):
    machine = shelf.machine("TS", "torvane-alta-10")
    pages = (lamps_for(machine.panel, 13), (None,) * 8)
    found = seen(machine, pages, shelf.tables.panel)
    assert found.first.code.id == "13.23"
    assert seen_sums(machine, (13, 23), shelf.tables.panel).first.code.id == "13.23"
    near = seen_sums(machine, (13, 22), shelf.tables.panel)
    assert {"13.23"} <= {r.code.id for r in near.readings if r.code}


def test_a_sum_that_no_lamps_make_cannot_be_shown(shelf):
    panel = shelf.machine("TS", "torvane-alta-10").panel
    assert lamps_for(panel, 4) == (0, 0, 0, 1, 0, 0, 0, 0)
    with pytest.raises(PanelError, match="found the sum 37, expected one that lamps of"):
        lamps_for(panel, 37)


def test_a_character_nobody_read_leaves_those_that_fit(shelf):
    machine = shelf.machine("FD", "calvessa-dritta-8")
    found = seen_text(machine, "l?mo", shelf.tables.panel)
    assert found.first.code.id == "lumo"
    assert seen_text(machine, "lomo", shelf.tables.panel).first.code.id == "lumo"
    assert seen_text(machine, "qqqq", shelf.tables.panel).first.code is None


@pytest.mark.parametrize(
    ("sheet", "pages", "said"),
    [
        (("SL", "sestra-torre"), ((1, 0),), "found 2 lamps, expected 6"),
        (("SL", "sestra-torre"), ((3, 0, 0, 0, 0, 0),), "found 3, expected 0 to 2"),
        (("TS", "torvane-alta-10"), ((1,) * 8,), "found 1 pages of lamps, expected 2"),
        (("TD", "ostrel-linea-t"), ((0,), (11,)), "found 11, expected 0 to 10"),
        (("FB", "nembrio-f7"), ((1,),), "found lamps, expected what this panel shows"),
    ],
)
def test_lamps_this_panel_has_not_are_refused(shelf, sheet, pages, said):
    with pytest.raises(PanelError, match=said):
        seen(shelf.machine(*sheet), pages, shelf.tables.panel)
