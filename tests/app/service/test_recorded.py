"""A record of a run held against the plate: figures reckoned by hand."""

from dataclasses import replace

import pytest

from bottega.app.job.answer import diagnose
from bottega.app.measure.reading import plate_of
from bottega.app.service.recorded import OTHERS_W, bands_of, sums
from bottega.app.service.run import steps_led
from bottega.core.measure.physics import TOLERANCE_ELEMENT
from bottega.core.measure.trace import Shows, Switched


@pytest.fixture
def answer(workshop, houseboat):
    return diagnose(workshop, houseboat)


def shows(**given):
    blank = dict.fromkeys(Shows.__dataclass_fields__)
    return Shows(**{**blank, "switched": (), **given})


def test_a_load_of_the_plates_watts_agrees_and_half_of_them_does_not(answer):
    heater = plate_of(answer.job, answer.machine).heater_w
    assert heater
    for share, agrees in ((1.0, True), (0.5, False), (1.5, False)):
        on = Switched(at_s=60.0, before_w=80.0, after_w=80.0 + share * heater)
        (load, most) = sums(answer, shows(switched=(on,), most_w=on.after_w))
        assert load.found_w == pytest.approx(share * heater)
        assert load.agrees is agrees
        assert most.low_w == pytest.approx(80 + TOLERANCE_ELEMENT[0] * heater)


def test_without_a_load_switched_on_there_is_no_sum(answer):
    assert sums(answer, shows(most_w=2000.0)) == []
    off = Switched(at_s=60.0, before_w=2000.0, after_w=80.0)
    assert sums(answer, shows(switched=(off,), most_w=2000.0)) == []


def test_a_step_that_heats_is_held_against_the_plate(answer):
    heater = plate_of(answer.job, answer.machine).heater_w
    heats = next((led for led in steps_led(answer) if led.step.runs == "heat"), None)
    assert heats is not None
    low, high = bands_of(answer, heats)["watts"]
    assert low < heater < high - OTHERS_W
    assert bands_of(answer, None) == {}
    step = heats.step.model_copy(update={"runs": "spin", "low": 1.0, "high": 2.0, "unit": "liter"})
    assert bands_of(answer, replace(heats, step=step)) == {"level_l": (1.0, 2.0)}
