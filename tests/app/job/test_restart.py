"""A server that stops in the middle of a proof: its clock goes on by the log."""

from datetime import UTC, datetime, timedelta

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event, parse_body, record
from bottega.app.workshop import open_workshop
from bottega.core.job.events import Repaired

BEGAN = datetime(2031, 5, 14, 9, 0, tzinfo=UTC)
WELL = {"kind": "proved", "proof": "leak_watch", "went": "well"}


def at(minutes):
    return lambda: BEGAN + timedelta(minutes=minutes)


def note(workshop, number, **raw):
    return record(workshop, number, parse_body(raw), "Ilaria Venn", event_id=new_id())


def watched(workshop):
    """Return a job on which a filter was cleaned and the leak watch begun."""
    stands = {"power": "on", "taps": "open", "water": "in", "door": "shut"}
    call = Call(machine="FB", age_years=6, place="Quay", **stands)
    number = open_job(workshop, call, Words("It leaks."), "Ilaria Venn", event_id=new_id()).number
    made = new_event(workshop, Repaired(repair="filter_blocked.clean"), "Ilaria Venn", new_id())
    workshop.log.append(number, made, workshop.log.seq(number))
    note(workshop, number, kind="proof_begun", proof="leak_watch")
    return number


def test_the_clock_of_a_proof_outlives_the_server(tmp_path):
    first = open_workshop(tmp_path, at(0))
    number = watched(first)
    with pytest.raises(Refused, match="of 10 minutes have passed"):
        note(first, number, **WELL)
    first.close()

    early = open_workshop(tmp_path, at(9))
    with pytest.raises(Refused, match="9 of 10 minutes have passed"):
        note(early, number, **WELL)
    early.close()

    late = open_workshop(tmp_path, at(10))
    note(late, number, **WELL)
    assert diagnose(late, number).job.proofs()["leak_watch"].went == "well"
    late.close()


def test_a_clock_set_back_gives_no_minute_away(tmp_path):
    workshop = open_workshop(tmp_path, at(30))
    number = watched(workshop)
    workshop.close()
    back = open_workshop(tmp_path, at(5))
    with pytest.raises(Refused, match="minutes have passed"):
        note(back, number, **WELL)
    back.close()
