"""What a code may mean before anybody has looked: as a job with that code alone reckons it."""

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.record import record
from bottega.app.panel.meaning import MOST_CAUSES, MOST_CHECKS, meaning_of
from bottega.core.diagnosis.alone import TOLD_FROM
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import PanelRead


@pytest.mark.parametrize("code", ["3-2", "2-4", "4-1"])
def test_the_causes_of_a_code_are_those_of_a_job_that_knows_no_more(workshop, f7, code):
    model = workshop.engine.model(f7)
    told = meaning_of(model, f7.codes[code], workshop.shelf.tables.engine)
    assert 0 < len(told.causes) <= MOST_CAUSES + 1
    assert [c.chance for c in told.causes[:MOST_CAUSES]] == sorted(
        (c.chance for c in told.causes[:MOST_CAUSES]), reverse=True
    )
    call = Call(machine="nembrio-f7", age_years=None, place="Quay", power="on", water="out")
    number = open_job(workshop, call, Words(""), "Ilaria Venn", event_id=new_id()).number
    read = PanelRead(result="codes", shown=(f7.codes[code].record.show,), codes=(code,))
    answer = record(workshop, number, read, "Ilaria Venn", event_id=new_id())
    leading = fault_title(answer.machine, answer.ranking[0][0])
    assert leading in [cause.name for cause in told.causes[:2]]


def test_the_cheapest_checks_of_what_the_board_watched_stand_beside_it(workshop, f7):
    model = workshop.engine.model(f7)
    for code in f7.codes.values():
        told = meaning_of(model, code, workshop.shelf.tables.engine)
        reading = [c for c in f7.checks.values() if c.effect == code.effect]
        assert len(told.checks) == min(MOST_CHECKS, len(reading))
        assert {c.effect for c in told.checks} <= {code.effect}
        most = max((c.minutes for c in told.checks), default=0)
        assert sum(c.minutes < most for c in reading) <= MOST_CHECKS
        sound = [c for c in told.causes if "Nothing wrong" in c.name]
        assert all(c.chance >= TOLD_FROM for c in sound)
