"""Taking a call: one job however often it is sent, and nothing at all of one that cannot be."""

import pytest
from tests.app.steps import WHO
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job, parse_call
from bottega.app.errors import BadValue


def test_a_job_opened_twice_is_one_job(workshop):
    same = new_id()
    opened = Call(machine="nembrio-f7", age_years=3, place="Quay")
    assert (
        open_job(workshop, parse_call(opened), Words("dead"), WHO, event_id=same).number
        == open_job(workshop, opened, Words("dead"), WHO, event_id=same).number
    )


@pytest.mark.parametrize(
    "opened",
    [
        {"machine": "ghost", "age_years": 1, "place": "x"},
        {"machine": "ZZ", "age_years": 1, "place": "x"},
        {"machine": "nembrio-f7", "age_years": 900, "place": "x"},
        {"machine": "", "age_years": 4, "place": "x"},
        {"machine": "nembrio-f7", "age_years": 3, "place": ""},
        {"machine": "FB", "age_years": 3, "place": "x", "plate": {"volts": 5000}},
    ],
)
def test_a_call_that_cannot_be_taken_opens_nothing(workshop, opened):
    with pytest.raises(BadValue):
        open_job(workshop, parse_call(opened), Words("dead"), WHO, event_id=new_id())
    assert workshop.log.numbers() == []
