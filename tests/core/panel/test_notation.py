"""How a showing is written down: what is written is read again, and what is no showing is not."""

import pytest

from bottega.core.panel.decoder import PanelError
from bottega.core.panel.notation import parsed, written


def test_every_code_is_read_again_as_it_is_written(shelf, beeper, colours):
    for machine in [*(m for m in shelf.machines() if m.panel), beeper, colours]:
        for code in machine.codes.values():
            if machine.panel.kind != "display":
                assert parsed(machine.panel, written(machine.panel, code.record.show)) == (
                    code.record.show
                )
                if machine.panel.kind in ("lamp_pattern", "melody", "bar"):
                    assert written(machine.panel, code.record.show) == code.id


@pytest.mark.parametrize(
    ("kind", "sheet", "text", "shown"),
    [
        ("FB", "nembrio-f7", " 3 + 2", (3, 2)),
        ("FI", "quernia-compatta-5", "H L L h l", (1, 0, 0, 1, 0)),
        ("TD", "ostrel-linea-t", "High 7", (1, 7)),
        ("TD", "ostrel-linea-t", "l10", (0, 10)),
        ("SL", "sestra-torre", "O-* --o", (1, 0, 2, 0, 0, 1)),
        ("SL", "sestra-torre", "102001", (1, 0, 2, 0, 0, 1)),
        ("TS", "torvane-alta-10", "4, 17", (4, 17)),
        ("FD", "calvessa-dritta-8", " LUMO ", "lumo"),
    ],
)
def test_what_people_write_is_read(shelf, kind, sheet, text, shown):
    assert parsed(shelf.machine(kind, sheet).panel, text) == shown


@pytest.mark.parametrize(
    ("kind", "sheet", "text", "said"),
    [
        ("FB", "nembrio-f7", "three", "expected whole numbers: first figure then second"),
        ("FI", "quernia-compatta-5", "hxl", "expected a letter for each tone: l or h"),
        ("TD", "ostrel-linea-t", "7", "expected low or high and the length"),
        ("SL", "sestra-torre", "x", "expected - for a dark lamp"),
        ("FB", "nembrio-f7", "３-2", "expected whole numbers"),
    ],
)
def test_what_is_no_showing_is_refused(shelf, kind, sheet, text, said):
    with pytest.raises(PanelError, match=said):
        parsed(shelf.machine(kind, sheet).panel, text)
