"""What the panel showed, as it was written down."""

import pytest
from tests.core.job.log import Log

from bottega.app.errors import BadValue
from bottega.app.panel.reading import read_panel
from bottega.core.job.events import EntryTried, PanelRead


@pytest.fixture
def job(f7):
    return Log(f7).job


def test_codes_are_kept_in_their_order_with_what_else_was_seen(shelf, f7, job):
    fields = {
        "seen_0": "3-2",
        "seen_1": " 6 1 ",
        "result": "codes",
        "order": "newest first",
        "stays": "1",
        "version": "17",
    }
    read = read_panel(shelf, job, f7, fields)
    assert read.codes == ("3-2", "6-1")
    assert read.shown == ((3, 2), (6, 1))
    assert (read.order, read.stays, read.version) == ("newest first", True, "17")
    assert read_panel(shelf, job, f7, {"result": "none"}).result == "none"


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"result": "codes"}, "No code is written down"),
        ({"result": "codes", "seen_0": "3"}, "found 1 counts, expected 2"),
        ({"result": "codes", "seen_0": "3-1"}, "One step away: .*3-2"),
        ({"result": "codes", "seen_0": "x"}, "whole numbers"),
        ({"result": "none", "seen_0": "3-2"}, "Empty them"),
        ({"result": "maybe"}, "expected codes, none or unreadable"),
        ({"result": "codes", "seen_0": "3-2", "order": "by mood"}, "another order"),
        ({"result": "codes", "seen_0": "lumo"}, "It is a code of Calvessa Dritta 8: is it that"),
        ({"result": "codes", "seen_0": "24"}, "It is a code of Virgola Asciutta 7"),
    ],
)
def test_what_is_no_reading_is_refused(shelf, f7, job, fields, words):
    with pytest.raises(BadValue, match=f"(?i){words}"):
        read_panel(shelf, job, f7, fields)


def test_what_is_in_no_table_is_kept_when_somebody_insists(shelf, f7, job):
    fields = {"seen_0": "9-9", "seen_1": "3-2", "result": "unknown"}
    read = read_panel(shelf, job, f7, fields)
    assert read.unlisted == ("9-9",)
    assert read.codes == ("3-2",)


def test_an_unread_panel_brings_the_attempts_that_failed(shelf, f7):
    log = Log(f7)
    for _ in range(3):
        log.do(EntryTried())
    assert log.job.entry_failed == 3
    assert read_panel(shelf, log.job, f7, {"result": "unreadable"}).attempts == 3
    log.do(EntryTried(listened=True))
    assert log.job.entry_failed == 0
    log.do(EntryTried())
    log.do(PanelRead(result="none"))
    assert log.job.entry_failed == 0
