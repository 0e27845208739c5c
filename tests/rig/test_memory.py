"""The codes a panel shows are those its board stored, as the sheet names them."""

from bottega.rig.asking import Bench
from bottega.rig.memory import MEANS, codes_shown
from bottega.rig.specimen import Specimen


def test_the_panel_shows_what_the_board_stored(f7):
    bench = Bench(Specimen(f7, "codes", {"tap_shut": 0.9, "element_open": 0.9}), "codes")
    assert "2-1" in codes_shown(bench, f7, "0")


def test_a_sound_machine_shows_none(f7):
    assert codes_shown(Bench(Specimen(f7, "sound"), "sound"), f7, "0") == []


def test_whatever_a_board_stores_has_a_code_on_some_sheet(shelf):
    known = {code.effect for machine in shelf.machines() for code in machine.codes.values()}
    for meaning, effects in MEANS.items():
        assert known & set(effects), meaning
