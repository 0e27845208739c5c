"""The service run of a job: how each step went, and what may be called well."""

import pytest

from bottega.app.errors import BadValue, NotFound
from bottega.app.job.answer import diagnose
from bottega.app.service.run import fullest_l, steps_led, verdict
from bottega.core.library.vocabulary import INCONCLUSIVE


@pytest.fixture
def answer(workshop, houseboat):
    return diagnose(workshop, houseboat)


def plain(answer):
    """A step that is watched, not measured, with a pass band."""
    return next(
        led for led in steps_led(answer) if led.check.measure is None and led.step.low is not None
    )


def test_the_steps_stand_in_the_sheets_order_and_none_has_run(answer):
    led = steps_led(answer)
    assert [one.id for one in led] == list(answer.machine.service)
    assert not any(one.went or one.well or one.broken_off for one in led)


def test_a_step_that_went_well_within_its_time_is_noted_so(workshop, houseboat, answer):
    step = plain(answer)
    well = step.check.outcomes[0].id
    typed = {"outcome": well, "seconds": "10", "amount": f"{step.step.low:g}"}
    body = verdict(workshop, answer, step.id, typed)
    assert (body.step, body.outcome, body.seconds) == (step.id, well, 10)
    assert f"{step.step.low:g}" in body.note


@pytest.mark.parametrize("field", ["seconds", "amount"])
def test_what_took_too_long_or_is_out_of_its_band_is_not_well(workshop, answer, field):
    step = plain(answer)
    figures = {"seconds": step.step.timeout_s + 1, "amount": step.step.high * 2 + 1}
    typed = {"outcome": step.check.outcomes[0].id, field: f"{figures[field]:g}"}
    with pytest.raises(BadValue) as caught:
        verdict(workshop, answer, step.id, typed)
    assert caught.value.field == field
    badly = {**typed, "outcome": step.check.outcomes[-1].id}
    assert verdict(workshop, answer, step.id, badly).outcome == badly["outcome"]


def test_a_step_broken_off_is_neither_well_nor_a_finding(workshop, houseboat, answer):
    step = plain(answer)
    body = verdict(workshop, answer, step.id, {"outcome": INCONCLUSIVE, "note": " rang "})
    assert (body.outcome, body.note) == (INCONCLUSIVE, "rang")


def test_a_step_of_another_machine_is_not_found(workshop, answer):
    with pytest.raises(NotFound, match="'launch'"):
        verdict(workshop, answer, "launch", {})


def test_the_most_water_is_that_of_the_fullest_programme(f7, shelf):
    fills = [p.fill_l for p in f7.programmes.values() if p.fill_l]
    assert fullest_l(f7) == max(fills)
    assert fullest_l(shelf.machine("FB")) is None
