"""Readings as typed."""

import pytest

from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose
from bottega.app.measure.reading import take_reading


@pytest.mark.parametrize("typed", ["", "abc", "12 V", "-1", "1e99"])
def test_a_reading_that_cannot_be_is_refused(workshop, houseboat, typed):
    answer = diagnose(workshop, houseboat)
    with pytest.raises(BadValue) as caught:
        take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", typed)
    assert caught.value.field == "reading"
    with pytest.raises(BadValue, match="outcomes, not by a reading"):
        take_reading(workshop, answer.job, answer.machine, "turn_rotor", "3")
