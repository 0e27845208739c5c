"""What was tapped, touched, written or recorded, before anything is noted: read, or refused in its
place."""

import pytest

from bottega.app.errors import BadValue, NotFound
from bottega.app.panel.heard import (
    bars_seen,
    hear_counts,
    hear_taps,
    lamps_seen,
    look_up,
    sheet_machine,
    written_heard,
)
from bottega.app.panel.record import hear_record
from bottega.app.workshop import open_workshop
from bottega.benchmark.panel import made_up


@pytest.fixture(scope="module")
def shop():
    return open_workshop(None)


@pytest.fixture(scope="module")
def slips(shop):
    return shop.shelf.tables.panel


@pytest.fixture(scope="module")
def striker(shop):
    return sheet_machine(shop, "nembrio-f7")


@pytest.fixture(scope="module")
def colours(striker):
    return made_up(striker, "flash_trains")


@pytest.fixture(scope="module")
def beeper(striker):
    return made_up(striker, "beeps")


def test_one_train_without_a_break_is_cut_where_the_first_lamp_begins_again(colours, slips):
    taps = "0:0:200 0:500:200 1:1500 0:4000 0:4500 1:5500"
    found = hear_taps(colours, taps, slips)
    assert found.rounds == ((2, 1), (2, 1))
    assert hear_taps(colours, "0:0 0:500 1:1500/0:0 0:480 1:1400", slips).rounds == found.rounds


def test_beeps_are_cut_by_their_pauses_or_by_whoever_taps(beeper, slips):
    one = "0:0 0:800 0:2800 0:3600 0:4400"
    assert hear_taps(beeper, one, slips).rounds == ((2, 3),)
    assert hear_taps(beeper, f"{one}/{one}", slips).rounds == ((2, 3), (2, 3))


def test_strokes_are_heard_by_how_long_they_are_held(striker, slips):
    found = hear_taps(striker, "0:0:1300 0:1900:300 0:4800:320 0:5700:310", slips)
    assert found.rounds == ((6, 2),)
    assert found.first.code.id == "6-2"


@pytest.mark.parametrize(
    ("taps", "said"),
    [
        ("0:0", "Found 1 in all, expected at least one for each of: red then green"),
        ("0:0 x", "Found 'x', expected a lamp and milliseconds"),
        ("0:0 1:2:3:4", "expected a lamp and milliseconds"),
        ("0:0 7:100", "Found lamp 8, expected 1 to 2"),
        ("0:9 1:3", "expected times that go on"),
        ("/".join(["0:0 1:100"] * 7), "Found 7 rounds, expected at most 6"),
        ("0:1 " * 12000, "Found more taps than a code has"),
        ("０:1 1:2", "expected a lamp and milliseconds"),
    ],
)
def test_taps_that_are_none_are_refused(colours, slips, taps, said):
    with pytest.raises(BadValue, match=said):
        hear_taps(colours, taps, slips)


RECORD = "time,lamp,on\n0.0,red,1\n0.3,red,0\n0.8,red,1\n1.1,red,0\n2.0,2,1\n2.2,2,0\n"


def test_a_lamps_record_is_read_at_the_edges(colours, striker, slips):
    found = hear_record(colours, RECORD, slips)
    assert found.rounds == ((2, 1),)
    lit_throughout = RECORD.replace("0.3,red,0\n", "")
    assert hear_record(colours, lit_throughout, slips).rounds == ((1, 1),)
    strokes = "time,lamp,on\n0,1,1\n1.3,1,0\n1.9,1,1\n2.2,1,0\n4.8,1,1\n5.1,1,0\n"
    assert hear_record(striker, strokes, slips).rounds == ((6, 1),)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "Found the columns nothing, expected time, lamp, on"),
        ("a,b\n1,2\n", "Found the columns 'a, b'"),
        (RECORD + "1.0,red,1\n", "Line 8: found 1 s after 2.2 s, out of order"),
        (RECORD + "3,blue,1\n", "Line 8: found 'blue' and '1', expected red or green"),
        (RECORD + "3,red,on\n", "found 'red' and 'on'"),
        (RECORD + "nan,red,1\n", "found the time 'nan', expected seconds"),
        (RECORD + "3\n", "Line 8: found ''"),
        ("time,lamp,on\n0,red,0\n", "Found 0 in all"),
        (RECORD + "3," + "a" * 200_000 + ",1\n", "Line 8 cannot be read: field larger"),
        ("time,lamp,on\n" + "1,red,0\n" * 20_001, "Found more than 20000 lines"),
    ],
)
def test_a_record_that_cannot_be_read_names_its_line(colours, slips, text, said):
    with pytest.raises(BadValue, match=said):
        hear_record(colours, text, slips)


def test_what_is_no_such_panel_is_said(shop, slips):
    timer = sheet_machine(shop, "pellandra-400")
    with pytest.raises(BadValue, match="has no sheet with a panel"):
        hear_taps(timer, "0:0 0:1", slips)
    with pytest.raises(BadValue, match="has no sheet with a panel"):
        hear_record(timer, RECORD, slips)
    lamps = sheet_machine(shop, "torvane-alta-10")
    with pytest.raises(BadValue, match="Found a rhythm, expected what this panel shows"):
        hear_taps(lamps, "0:0 0:1", slips)
    with pytest.raises(BadValue, match="Found counts, expected what"):
        hear_counts(lamps, [(1, 4)], slips)
    assert look_up(lamps, "1.4").code.id == "1.4"
    with pytest.raises(BadValue, match="expected whole numbers"):
        look_up(lamps, "lumo")
    with pytest.raises(NotFound, match="Found no sheet 'nobody', expected one of"):
        sheet_machine(shop, "nobody")


def test_what_is_touched_on_the_drawing_is_read_as_far_as_it_goes(shop, slips):
    words = sheet_machine(shop, "calvessa-dritta-8")
    lumo = "def/bcdef/bcefik/abcdef"
    assert bars_seen(words, lumo, slips).first.code.id == "lumo"
    assert bars_seen(words, "def/bcdef//", slips).first.code.id == "lumo", "two places not yet"
    with pytest.raises(BadValue, match="So far “l”; what is lit at place 2 is no character"):
        bars_seen(words, "def/abm", slips)
    ring = sheet_machine(shop, "torvane-alta-10")
    half = lamps_seen(ring, "00010000/????????", slips)
    assert half.first.code.id == "4.29"
    bar = sheet_machine(shop, "ostrel-linea-t")
    assert lamps_seen(bar, "0/4", slips).first.code.id == "low-4"
    assert len(lamps_seen(bar, "?/4", slips).readings) >= 2
    for wrong, said in (("0/x", "Found 'x'"), ("0/99", "Found 99"), ("0", "Found 1 pages")):
        with pytest.raises(BadValue, match=said):
            lamps_seen(bar, wrong, slips)


def test_a_written_line_gives_every_code_with_its_chance(shop, striker, slips):
    assert written_heard(striker, "2-1, 2-1, 2-2", slips).odd == (2,)
    pattern = sheet_machine(shop, "sestra-torre")
    code = next(iter(pattern.codes))
    assert written_heard(pattern, code, slips).first.code.id == code
    figures = sheet_machine(shop, "virgola-asciutta-7")
    with pytest.raises(BadValue, match="expected what 7 bars a figure can form"):
        written_heard(figures, "m1", slips)
