"""A code as a panel shows it comes back as the same code."""

from bottega.core.panel.encoder import LONG_S, SHORT_S, shown, strokes_of
from bottega.core.panel.heard import heard
from bottega.core.panel.rhythm import counted


def test_every_code_that_takes_time_comes_back_from_what_is_shown(rhythmic, shelf):
    slips, read = shelf.tables.panel, 0
    for machine in rhythmic:
        for code in machine.codes.values():
            one = shown(machine.panel, code).taps
            counts = counted(machine.panel, [one] * 3)
            assert counts == (code.record.show,) * 3, (machine.sheet, code.id)
            found = heard(machine, counts, slips)
            assert found.first.code == code
            assert found.odd == ()
            read += 1
    assert read > 50


def test_a_figure_is_struck_like_a_clock(striker):
    """Five is one long stroke, six a long and a short one, nine a long and four short ones."""
    assert strokes_of(striker.panel, 4) == (False,) * 4
    assert strokes_of(striker.panel, 5) == (True,)
    assert strokes_of(striker.panel, 9) == (True, False, False, False, False)
    six_two = shown(striker.panel, striker.codes["6-2"]).taps
    assert [tap.held_s for tap in six_two] == [LONG_S, SHORT_S, SHORT_S, SHORT_S]
