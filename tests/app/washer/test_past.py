"""The past of one washer: its jobs found by label or serial, whoever typed them how."""

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.washer.past import jobs_before, past_of, read_job
from bottega.core.job.events import Identified


def opened(workshop, label, serial, machine="nembrio-f7"):
    call = Call(machine=machine, age_years=7, place="Quay", power="off", water="out")
    number = open_job(workshop, call, Words("It hums."), "Ilaria Venn", event_id=new_id()).number
    if label or serial:
        body = Identified(label=label, serial=serial)
        record(workshop, number, body, "Ilaria Venn", event_id=new_id())
    return number


def test_jobs_that_know_only_one_mark_are_joined_by_those_that_know_both(workshop):
    by_label, both = opened(workshop, "W-9", ""), opened(workshop, "w 9", "AB 12")
    by_serial, other = opened(workshop, "", "ab-12"), opened(workshop, "W-10", "")
    past = past_of(workshop, "W9")
    assert [job.number for job in past.jobs] == [by_serial, both, by_label]
    assert (past.label, past.serial) == ("w 9", "ab-12")
    found = jobs_before(workshop, diagnose(workshop, by_serial))
    assert [job.number for job in found] == [both, by_label]
    assert jobs_before(workshop, diagnose(workshop, other)) == ()


def test_two_kinds_with_one_serial_are_two_washers(workshop):
    first = opened(workshop, "", "AB 12")
    opened(workshop, "", "AB 12", machine="pellandra-400")
    assert jobs_before(workshop, diagnose(workshop, first)) == ()


def test_a_washer_nobody_knows_is_not_found(workshop):
    with pytest.raises(NotFound, match="no washer 'W-404'"):
        past_of(workshop, "W-404")
    assert read_job(workshop, "9999") is None


def test_a_past_job_says_in_a_line_what_was_put_right_or_complained_of(shop):
    for number in shop.log.numbers():
        answer = diagnose(shop, number)
        for job in jobs_before(shop, answer):
            assert job.short
            assert job.number != number
