"""How a job's machine stands by the table of what may never be."""

from tests.conftest import new_id

from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.job.standing import breaking_of, declares, law_of, unsafe_of
from bottega.core.job.events import StateChanged, TookOff


def note(workshop, number, body):
    return record(workshop, number, body, "Ilaria Venn", event_id=new_id())


def test_a_machine_that_stands_as_the_rules_let_it_breaks_nothing(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    assert unsafe_of(workshop, answer) == []
    assert breaking_of(workshop, answer) == {}
    assert law_of(workshop, answer).danger is (answer.danger is not None)


def test_only_a_check_that_lays_something_open_is_a_live_test_to_answer_for(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    assert answer.danger is None
    machine = answer.machine
    for check in machine.checks.values():
        opens = [name for name in check.needs.off if machine.operations[name].opens]
        if opens:
            assert declares(answer, check), check.id
        if not check.needs.off:
            assert not declares(answer, check), check.id


def test_what_follows_from_an_answer_is_worked_out_once(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    assert breaking_of(workshop, answer) is breaking_of(workshop, answer)
    after = note(workshop, houseboat, StateChanged(what="taps", to="shut"))
    assert breaking_of(workshop, after) is not breaking_of(workshop, answer)


def test_no_entry_the_rules_took_is_said_to_break_them(workshop, houseboat):
    for body in (
        StateChanged(what="taps", to="shut"),
        StateChanged(what="water", to="out"),
        TookOff(operation="filter_flap"),
    ):
        answer = note(workshop, houseboat, body)
        assert unsafe_of(workshop, answer) == []
        assert breaking_of(workshop, answer) == {}
