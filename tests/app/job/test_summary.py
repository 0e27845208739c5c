"""What the bench shows of a job, made whenever something is noted."""

from datetime import date

import pytest
from tests.conftest import new_id

from bottega.app.decide.verdict import verdict_of
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.job.summary import (
    LANES,
    good_readings,
    lane_of,
    made_now,
    put_right,
    refresh_stale,
    sheet_of,
    summary_of,
)
from bottega.core.job.events import Identified, Waiting


def note(workshop, number, body):
    return record(workshop, number, body, "Ilaria Venn", event_id=new_id())


def test_every_job_of_the_shop_stands_in_one_lane_with_what_its_page_says(shop):
    for number in shop.log.numbers():
        answer = diagnose(shop, number)
        sheet = sheet_of(summary_of(shop, answer))
        assert sheet.lane in LANES
        assert sheet.headline == verdict_of(answer, shop.settings.prove_at).title
        assert (sheet.lane in ("closed", "recheck")) is (answer.job.handed_over is not None)
        if answer.job.handed_over:
            assert sheet.marks == {}
            assert set(sheet.put_right) <= set(answer.job.faults_ended(answer.machine))


@pytest.mark.parametrize(("on", "lane"), [("part", "part"), ("customer", "customer")])
def test_what_a_job_waits_for_is_its_lane_until_it_waits_no_more(workshop, houseboat, on, lane):
    until = date(2031, 6, 1)
    answer = note(workshop, houseboat, Waiting(on=on, until=until, note="on the ferry"))
    assert lane_of(answer.job) == lane
    sheet = sheet_of(summary_of(workshop, answer))
    assert sheet.note == "on the ferry"
    assert sheet.until.startswith("2031-06-01")
    answer = note(workshop, houseboat, Waiting(on="nothing"))
    assert lane_of(answer.job) == "person"


def test_a_washer_is_found_by_its_keys_among_the_words(workshop, houseboat):
    answer = note(workshop, houseboat, Identified(label="W-77", serial=""))
    summary = summary_of(workshop, answer)
    assert "washer=w77;" in summary.words
    assert sheet_of(summary).washer == ("w77",)


def test_a_summary_made_from_the_log_is_the_one_that_was_kept(workshop, houseboat):
    note(workshop, houseboat, Waiting(on="part", note="x"))
    (kept,) = workshop.summaries.of([houseboat])
    assert made_now(workshop, houseboat).body == kept.body
    assert refresh_stale(workshop) == 0


def test_only_parts_nothing_was_done_to_leave_good_readings(shop):
    seen = 0
    for number in shop.log.numbers():
        answer = diagnose(shop, number)
        touched = {r.component for r in answer.job.repairs_made(answer.machine)}
        for check, amount in good_readings(answer.job, answer.machine):
            seen += 1
            assert answer.machine.checks[check].component not in touched
            assert amount >= 0
        assert set(put_right(answer.job, answer.machine)) <= set(answer.machine.faults)
    assert seen
