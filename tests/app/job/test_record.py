"""Noting what happened: once, on top of what was seen, refused whole; readings judged here."""

import pytest
from tests.app.steps import WHO, note, prove_the_pump
from tests.conftest import new_id

from bottega.app.errors import BadValue, NotFound, Refused, Stale
from bottega.app.job.answer import diagnose
from bottega.app.job.ledger import ledger
from bottega.app.job.record import record, record_on, undo
from bottega.app.measure.reading import take_reading
from bottega.core.job.events import Noted


def test_an_event_sent_twice_is_stored_once(workshop, houseboat):
    before = diagnose(workshop, houseboat).seq
    same = new_id()
    for _ in range(3):
        answer = record(
            workshop, houseboat, Noted(text="wet shoes"), WHO, event_id=same, seen=before
        )
    assert answer.seq == before + 1


def test_a_stale_form_changes_nothing(workshop, houseboat):
    seen = diagnose(workshop, houseboat).seq
    note(workshop, houseboat, kind="noted", text="somebody else was here")
    with pytest.raises(Stale, match="one thing has been noted"):
        record(workshop, houseboat, Noted(text="late"), WHO, event_id=new_id(), seen=seen)
    assert diagnose(workshop, houseboat).seq == seen + 1


@pytest.mark.parametrize(
    ("raw", "error"),
    [
        ({"kind": "checked", "check": "turn_rotor", "outcome": "free"}, Refused),
        ({"kind": "checked", "check": "nothing", "outcome": "free"}, Refused),
        ({"kind": "exploded"}, BadValue),
        ({}, BadValue),
        ({"kind": "noted", "text": ""}, BadValue),
        ({"kind": "noted", "text": "x" * 3000}, BadValue),
        ({"kind": "noted", "text": "x", "extra": 1}, BadValue),
        ({"kind": "state_changed", "what": "charge", "to": "none", "measured_v": -4}, BadValue),
        ({"kind": "handed_over"}, Refused),
    ],
)
def test_what_is_refused_leaves_the_job_unchanged(workshop, houseboat, raw, error):
    before = diagnose(workshop, houseboat).seq
    with pytest.raises(error) as caught:
        note(workshop, houseboat, **raw)
    assert 400 <= caught.value.status < 500
    assert diagnose(workshop, houseboat).seq == before


def test_a_verdict_from_outside_is_judged_again(workshop, houseboat):
    prove_the_pump(workshop, houseboat)
    answer = diagnose(workshop, houseboat)
    honest = take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", "OL")
    forged = honest.model_copy(update={"outcome": "in band"})
    record(workshop, houseboat, forged, WHO, event_id=new_id())
    assert diagnose(workshop, houseboat).job.checked()[-1][1].outcome == "open"


def test_undo_takes_back_the_newest_and_stops_at_the_opening(workshop, houseboat):
    note(workshop, houseboat, kind="noted", text="one")
    answer = undo(workshop, houseboat, WHO, new_id())
    assert [r.withdrawn for r in ledger(answer)] == [False, False, True, False]
    undo(workshop, houseboat, WHO, new_id())
    with pytest.raises(Refused, match="nothing to withdraw"):
        undo(workshop, houseboat, WHO, new_id())


def test_an_unknown_job_is_not_found(workshop):
    with pytest.raises(NotFound, match="9999"):
        diagnose(workshop, "9999")


def test_the_same_form_sent_twice_at_once_is_kept_once(workshop, houseboat):
    """Both were read before either was kept."""
    before, same, wet = diagnose(workshop, houseboat), new_id(), Noted(text="wet shoes")
    first = record_on(workshop, before, wet, WHO, event_id=same, seen=before.seq)
    again = record_on(workshop, before, wet, WHO, event_id=same, seen=before.seq)
    assert (first.seq, again.seq) == (before.seq + 1, before.seq + 1)
    with pytest.raises(Refused, match="another entry"):
        record_on(workshop, before, Noted(text="dry"), WHO, event_id=same, seen=before.seq)
    with pytest.raises(Stale):
        record_on(workshop, before, Noted(text="dry"), WHO, event_id=new_id(), seen=before.seq)
    assert diagnose(workshop, houseboat).seq == before.seq + 1


def test_an_entry_reads_its_job_once_and_the_page_shows_the_answer_worked_out(
    workshop, houseboat, monkeypatch
):
    before, read = diagnose(workshop, houseboat), []
    monkeypatch.setattr(workshop.log, "read", read.append)
    after = record_on(workshop, before, Noted(text="wet shoes"), WHO, event_id=new_id())
    assert diagnose(workshop, houseboat) is after
    assert read == []
