"""What was tapped, counted or recorded, before anything is noted: read, or refused in its place."""

import pytest

from bottega.app.errors import BadValue, NotFound
from bottega.app.panel.heard import (
    figures,
    hear_counts,
    hear_record,
    hear_taps,
    look_up,
    sheet_machine,
)
from bottega.app.workshop import open_workshop


@pytest.fixture(scope="module")
def shop():
    return open_workshop(None)


@pytest.fixture(scope="module")
def engine(shop):
    return shop.shelf.tables.engine


@pytest.fixture(scope="module")
def amber(shop):
    return sheet_machine(shop, "nembrio-f7")


@pytest.fixture(scope="module")
def beeper(shop):
    return sheet_machine(shop, "quernia-compatta-5")


def test_one_train_without_a_break_is_cut_where_the_first_lamp_begins_again(amber, engine):
    taps = "0:0 0:500 1:1500 0:4000 0:4500 1:5500"
    found = hear_taps(amber, taps, engine)
    assert found.rounds == ((2, 1), (2, 1))
    assert found.first.code.id == "2-1"
    assert hear_taps(amber, "0:0 0:500 1:1500/0:0 0:480 1:1400", engine).rounds == found.rounds


def test_beeps_are_cut_by_their_pauses_or_by_whoever_taps(beeper, engine):
    one = "0:0 0:800 0:2800 0:3600 0:4400"
    assert hear_taps(beeper, one, engine).rounds == ((2, 3),)
    assert hear_taps(beeper, f"{one}/{one}", engine).rounds == ((2, 3), (2, 3))


@pytest.mark.parametrize(
    ("taps", "said"),
    [
        ("0:0", "Found 1 in all, expected at least one for each of: amber then white"),
        ("0:0 x", "Found 'x', expected a lamp and milliseconds"),
        ("0:0 7:100", "Found lamp 8, expected 1 to 2"),
        ("0:9 1:3", "expected times that go on"),
        ("/".join(["0:0 1:100"] * 7), "Found 7 rounds, expected at most 6"),
        ("0:1 " * 9000, "Found more taps than a code has"),
        ("０:1 1:2", "expected a lamp and milliseconds"),
    ],
)
def test_taps_that_are_none_are_refused(amber, engine, taps, said):
    with pytest.raises(BadValue, match=said):
        hear_taps(amber, taps, engine)


RECORD = "time,lamp,on\n0.0,amber,1\n0.3,amber,0\n0.8,amber,1\n1.1,amber,0\n2.0,2,1\n2.2,2,0\n"


def test_a_lamps_record_is_read_at_the_edges(amber, engine):
    found = hear_record(amber, RECORD, engine)
    assert found.rounds == ((2, 1),)
    assert found.first.code.id == "2-1"
    lit_throughout = RECORD.replace("0.3,amber,0\n", "")
    assert hear_record(amber, lit_throughout, engine).rounds == ((1, 1),)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "Found the columns nothing, expected time, lamp, on"),
        ("a,b\n1,2\n", "Found the columns a, b"),
        (RECORD + "1.0,amber,1\n", "Line 8: found 1 s after 2.2 s, out of order"),
        (RECORD + "3,green,1\n", "Line 8: found 'green' and '1', expected amber or white"),
        (RECORD + "3,amber,on\n", "found 'amber' and 'on'"),
        (RECORD + "nan,amber,1\n", "found the time 'nan', expected seconds"),
        (RECORD + "3\n", "Line 8: found 'None'"),
        ("time,lamp,on\n0,amber,0\n", "Found 0 in all"),
        (RECORD + "3," + "a" * 200_000 + ",1\n", "Line 8 cannot be read: field larger"),
        ("time,lamp,on\n" + "1,amber,0\n" * 20_001, "Found more than 20000 lines"),
    ],
)
def test_a_record_that_cannot_be_read_names_its_line(amber, engine, text, said):
    with pytest.raises(BadValue, match=said):
        hear_record(amber, text, engine)


def test_what_is_no_such_panel_is_said(shop, engine):
    timer = sheet_machine(shop, "pellandra-400")
    with pytest.raises(BadValue, match="has no sheet with a panel"):
        hear_taps(timer, "0:0 0:1", engine)
    with pytest.raises(BadValue, match="has no sheet with a panel"):
        hear_record(timer, RECORD, engine)
    lamps = sheet_machine(shop, "torvane-alta-10")
    with pytest.raises(BadValue, match="Found a rhythm, expected what this panel shows"):
        hear_taps(lamps, "0:0 0:1", engine)
    with pytest.raises(BadValue, match="Found counts, expected what"):
        hear_counts(lamps, [(1, 4)], engine)
    assert look_up(lamps, (1, 4)).code.id == "1.4"
    with pytest.raises(BadValue, match="Found the text"):
        look_up(lamps, "1.4")
    with pytest.raises(NotFound, match="Found no sheet 'nobody', expected one of"):
        sheet_machine(shop, "nobody")


def test_figures_are_typed_apart_or_together():
    assert figures("2-1", "-") == (2, 1)
    assert figures(" 00110 ", "") == (0, 0, 1, 1, 0)
    with pytest.raises(BadValue, match="Found '2-', expected whole numbers"):
        figures("2-", "-")
