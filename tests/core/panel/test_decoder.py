"""Exact readings: encode then decode gives the same; what is in no table says what is near."""

import pytest

from bottega.core.panel.decoder import PanelError, decode


def test_every_code_decodes_to_itself(f7):
    for code in f7.codes.values():
        assert decode(f7, code.record.show).code is code


def test_a_miscount_names_its_neighbours(f7, player):
    decoded = decode(f7, (3, 1))
    assert decoded.code is None
    assert "3-2" in [code.id for code in decoded.near]
    assert "6-1" in [code.id for code in decode(f7, (2, 1)).near] or decode(f7, (2, 1)).code
    assert "hhhll" in [code.id for code in decode(player, (1, 1, 1, 0)).near]


@pytest.mark.parametrize(
    ("shown", "message"),
    [((3,), "expected 2"), ((0, 2), "0 first figure"), ((3, 12), "12 second figure")],
)
def test_impossible_counts_are_refused(f7, shown, message):
    with pytest.raises(PanelError, match=message):
        decode(f7, shown)


def test_a_machine_without_sheet_has_no_code_table(shelf):
    with pytest.raises(PanelError, match="no sheet"):
        decode(shelf.machine("FB"), (3, 2))
