"""Summaries: kept beside the log, found stale when it moves on, drawn from in a fixed number of
statements."""

from datetime import UTC, datetime

import pytest
from tests.store.test_log import OPEN, event

from bottega.store.database import open_database
from bottega.store.log import EventLog
from bottega.store.summaries import Summaries
from bottega.store.summary import Summary


@pytest.fixture
def database():
    made = open_database(None)
    for n in range(1, 31):
        EventLog(made).create([event(n, OPEN)], f"{n:04d}")
    yield made
    made.close()


def summary(number, seq=1, lane="person", words="", *, closed=None, put_right=()):
    body = {"seq": seq, "put_right": list(put_right)}
    return Summary(number, seq, lane, "FB", closed, words, body)


def test_missing_and_old_ones_are_stale_and_an_older_one_never_replaces_a_newer(database):
    kept, log = Summaries(database), EventLog(database)
    assert len(kept.stale()) == 30
    assert kept.stale(2) == ["0030", "0029"]
    kept.keep(summary("0030"))
    assert "0030" not in kept.stale()
    log.append("0030", event(50), 1)
    assert kept.stale(1) == ["0030"]
    kept.keep(summary("0030", 2))
    kept.keep(summary("0030", 1))
    assert kept.of(["0030"])[0].seq == 2


def test_lanes_are_counted_and_read_page_by_page(database):
    kept = Summaries(database)
    for n in range(1, 31):
        kept.keep(summary(f"{n:04d}", lane="closed" if n % 3 else "part"))
    assert kept.lanes() == {"closed": 20, "part": 10}
    found = kept.in_lanes(["closed", "part"], 4)
    assert [s.number for s in found if s.lane == "part"] == ["0030", "0027", "0024", "0021"]
    assert len(found) == 8
    assert [s.number for s in kept.in_lanes(["part"], 4, 8)] == ["0006", "0003"]


def test_a_search_takes_every_word_as_it_is_typed(database):
    kept = Summaries(database)
    kept.keep(summary("0007", words="Nembrio F7 Houseboat 100%_sure"))
    kept.keep(summary("0008", words="Nembrio F9 Rowing club"))
    assert [s.number for s in kept.search(["nembrio"], 9)] == ["0008", "0007"]
    assert [s.number for s in kept.search(["NEMBRIO", "houseboat"], 9)] == ["0007"]
    assert [s.number for s in kept.search(["0008"], 9)] == ["0008"]
    assert [s.number for s in kept.search(["100%_"], 9)] == ["0007"]
    assert kept.search(["0%s"], 9) == []


def test_what_was_put_right_is_counted_by_kind_and_time(database):
    kept = Summaries(database)
    at = datetime(2031, 5, 14, tzinfo=UTC)
    kept.keep(summary("0001", closed=at, put_right=["rotor_slips", "belt_slips"]))
    kept.keep(summary("0002", closed=at, put_right=["rotor_slips"]))
    kept.keep(summary("0003", closed=at))
    kept.keep(summary("0004", put_right=["rotor_slips"]))
    closed, counts = kept.put_right_before(at.replace(day=15), "FB")
    assert (closed, dict(counts)) == (3, {"rotor_slips": 2, "belt_slips": 1})
    assert kept.put_right_before(at, "FB") == (0, {})
    assert kept.put_right_before(at.replace(day=15), "TS") == (0, {})
