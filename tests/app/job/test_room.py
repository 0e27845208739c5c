"""A job takes no entry more than its file brings back, and can always be ended."""

import pytest
from tests.app.steps import note
from tests.conftest import Clock

from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import AppError, Refused
from bottega.app.job import room
from bottega.app.job.answer import diagnose
from bottega.app.job.bundle import bundle
from bottega.app.job.file import export_job, import_job
from bottega.app.job.record import undo
from bottega.app.job.room import written
from bottega.app.workshop import open_workshop

ODD = 'Knocks, "drips", é\\ü\n[{,' * 50
WHO = "Ilaria Venn"


def noted(workshop, number, i):
    note(workshop, number, kind="noted", text=ODD)


def noted_shortly(workshop, number, i):
    note(workshop, number, kind="noted", text="x")


def noted_and_taken_back(workshop, number, i):
    note(workshop, number, kind="noted", text="x")
    undo(workshop, number, WHO, f"back-{number}-{i:05d}")


def fill_up(workshop, number, fill):
    for i in range(100):
        fill(workshop, number, i)


@pytest.mark.parametrize("fill", [noted, noted_shortly, noted_and_taken_back])
def test_a_job_filled_to_the_brim_comes_back(workshop, houseboat, monkeypatch, fill):
    for name, value in (("JOB_BYTES", 60_000), ("EVENTS", 70), ("FOLDED", 900)):
        monkeypatch.setattr(room, f"MOST_{name}", value)
    monkeypatch.setattr(room, "LETTERS_SURE", 0)
    with pytest.raises(Refused, match="The job is full"):
        fill_up(workshop, houseboat, fill)
    before = diagnose(workshop, houseboat)
    assert before.seq > 30
    file = export_job(workshop, houseboat)
    for raw in (written(file), bundle(workshop, file), file.model_dump_json().encode()):
        other = open_workshop(None, Clock())
        assert import_job(other, raw).seq == before.seq
        other.close()


def test_the_last_entries_of_a_full_job_can_still_be_taken_back(workshop, houseboat, monkeypatch):
    monkeypatch.setattr(room, "MOST_EVENTS", 40)
    monkeypatch.setattr(room, "LETTERS_SURE", 0)
    with pytest.raises(Refused, match="expected at most 38"):
        fill_up(workshop, houseboat, noted_shortly)
    seq = diagnose(workshop, houseboat).seq
    assert undo(workshop, houseboat, WHO, "back-from-the-brim").seq == seq + 1


def test_one_entry_larger_than_a_job_is_refused(workshop, houseboat):
    note(workshop, houseboat, kind="state_changed", what="power", to="on")
    seq, shown = diagnose(workshop, houseboat).seq, [[10**400] * 250] * 20
    with pytest.raises(Refused, match="The job is full"):
        note(workshop, houseboat, kind="panel_read", result="codes", unlisted=["9-9"], shown=shown)
    assert diagnose(workshop, houseboat).seq == seq


def test_a_call_larger_than_a_job_is_refused(workshop):
    call = Call(machine="FB", place="Quay", history=["x" * 2000] * 1000)
    with pytest.raises(AppError):
        open_job(workshop, call, Words("It hums"), WHO, event_id="larger-than-a-job")
    assert not workshop.log.has_jobs()


def test_nothing_is_counted_only_where_it_is_sure(shop, workshop, houseboat):
    """What is written of a job takes at most four times its bodies' letters and 400 bytes an
    event, over the demo's jobs and notes of odd letters."""
    for _ in range(20):
        note(workshop, houseboat, kind="noted", text=ODD)
    for there in (shop, workshop):
        for number in there.log.numbers():
            count, letters = there.log.size(number)
            assert len(written(export_job(there, number))) < 300 + 4 * letters + 400 * count
    most = 300 + 4 * room.LETTERS_SURE + 400 * room.EVENTS_SURE
    assert most < room.MOST_JOB_BYTES * (1 - room.KEPT_FREE)
    assert room.EVENTS_SURE**2 / 2 < room.MOST_FOLDED


def test_a_file_that_would_not_go_out_again_is_not_taken_in(workshop, houseboat, monkeypatch):
    """Compact JSON is shorter than what is handed out."""
    for i in range(40):
        noted(workshop, houseboat, i)
    file = export_job(workshop, houseboat)
    compact = file.model_dump_json().encode()
    monkeypatch.setattr(room, "MOST_JOB_BYTES", len(compact) + 100)
    other = open_workshop(None, Clock())
    with pytest.raises(Exception, match=f"Found {len(written(file))} bytes"):
        import_job(other, compact)
    assert not other.log.has_jobs()
    other.close()
