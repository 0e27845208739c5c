"""Sent twice is kept once; another thing under the same id is refused, and both are shown."""

from dataclasses import replace

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record, undo
from bottega.app.measure.reading import take_reading
from bottega.core.job.events import Checked, Noted, StateChanged

CALL = Call(machine="nembrio-f7", place="Houseboat", age_years=7)
WORDS = Words(text="It hums and does not drain.")


def reading(workshop, number, typed):
    answer = diagnose(workshop, number)
    return take_reading(workshop, answer.job, answer.machine, "measure_standpipe", typed)


def test_a_reading_of_another_figure_is_not_taken_for_the_first(workshop, houseboat):
    one = new_id()
    record(workshop, houseboat, reading(workshop, houseboat, "900"), "Ida", event_id=one)
    record(workshop, houseboat, reading(workshop, houseboat, "900"), "Ida", event_id=one)
    seq = workshop.log.seq(houseboat)
    with pytest.raises(Refused, match=r"Kept is: typed '900.*This form says: typed '400"):
        record(workshop, houseboat, reading(workshop, houseboat, "400"), "Ida", event_id=one)
    assert workshop.log.seq(houseboat) == seq
    assert diagnose(workshop, houseboat).job.checked()[-1][1].reading.amount == 900


def test_another_answer_to_a_check_is_refused(workshop, houseboat):
    one = new_id()
    first, second = diagnose(workshop, houseboat).machine.checks["ask_draining"].outcomes[:2]
    body = Checked(check="ask_draining", outcome=first.id)
    for _ in range(2):
        record(workshop, houseboat, body, "Ida", event_id=one)
    with pytest.raises(Refused, match="outcome"):
        record(
            workshop,
            houseboat,
            Checked(check="ask_draining", outcome=second.id),
            "Ida",
            event_id=one,
        )


def test_a_note_and_a_change_of_state_under_one_id(workshop, houseboat):
    one = new_id()
    record(workshop, houseboat, Noted(text="a scratch"), "Ida", event_id=one)
    for other in (Noted(text="two scratches"), StateChanged(what="power", to="off")):
        with pytest.raises(Refused, match="a scratch"):
            record(workshop, houseboat, other, "Ida", event_id=one)
    with pytest.raises(Refused, match="a scratch"):
        undo(workshop, houseboat, "Ida", one)


def test_a_withdrawal_sent_twice_withdraws_once(workshop, houseboat):
    record(workshop, houseboat, Noted(text="one"), "Ida", event_id=new_id())
    record(workshop, houseboat, Noted(text="two"), "Ida", event_id=new_id())
    again = new_id()
    for _ in range(2):
        undo(workshop, houseboat, "Ida", again)
    left = [entry.body for entry in diagnose(workshop, houseboat).job.live]
    assert Noted(text="one") in left
    assert Noted(text="two") not in left


def test_a_whole_call_sent_twice_is_one_job_and_another_call_is_none(workshop):
    one = new_id()
    number = open_job(workshop, CALL, WORDS, "Ida", event_id=one).number
    assert open_job(workshop, CALL, WORDS, "Ida", event_id=one).number == number
    others = [
        (CALL.model_copy(update={"customer": "the warden"}), WORDS),
        (CALL.model_copy(update={"machine": "calvessa-dritta-8"}), WORDS),
        (CALL.model_copy(update={"power": "off"}), WORDS),
        (CALL, replace(WORDS, text="It leaks.")),
        (CALL, Words()),
    ]
    for call, words in others:
        with pytest.raises(Refused, match="Kept is: "):
            open_job(workshop, call, words, "Ida", event_id=one)
    assert workshop.log.numbers() == [number]
