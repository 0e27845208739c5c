"""Readings as typed."""

from dataclasses import replace

import pytest

from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose
from bottega.app.measure.reading import HANDED_OVER, take_reading, window_of
from bottega.core.gear import Instrument


@pytest.mark.parametrize("typed", ["", "abc", "12 V", "-1", "1e99"])
def test_a_reading_that_cannot_be_is_refused(workshop, houseboat, typed):
    answer = diagnose(workshop, houseboat)
    with pytest.raises(BadValue) as caught:
        take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", typed)
    assert caught.value.field == "reading"
    with pytest.raises(BadValue, match="outcomes, not by a reading"):
        take_reading(workshop, answer.job, answer.machine, "turn_rotor", "3")


def test_watts_typed_for_amps_are_no_current(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    with pytest.raises(BadValue, match="expected 0 to 100 A"):
        take_reading(workshop, answer.job, answer.machine, "clamp_heating", "1900", sure=False)


def test_five_good_readings_of_the_shop_come_before_the_generic_window(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    machine = answer.machine
    check = next(
        c
        for c in machine.checks.values()
        if c.measure and c.measure.value not in machine.values and not c.measure.physics
        and c.measure.generic and c.measure.quantity == "frequency" and not c.measure.side
    )  # fmt: skip
    generic = window_of(workshop, answer.job, machine, check)
    assert (generic.low, generic.high) == (check.measure.generic.low, check.measure.generic.high)
    middle = (generic.low + generic.high) / 2
    good = [middle * (1 + n / 200) for n in range(5)]
    key = (machine.archetype, machine.sheet or "", workshop.summaries.closed(HANDED_OVER))
    workshop.own_readings.clear()
    workshop.own_readings.keep(key, {check.id: good[:4]})
    assert window_of(workshop, answer.job, machine, check) == generic
    workshop.own_readings.clear()
    workshop.own_readings.keep(key, {check.id: good})
    own = window_of(workshop, answer.job, machine, check)
    assert (own.grade, own.low > generic.low) == ("measured", True)
    workshop.own_readings.clear()


def test_the_readings_of_jobs_handed_over_are_gathered(workshop):
    """What the demo's closed jobs measured and found sound is there by the check."""
    for archetype in workshop.shelf.archetypes:
        for sheet in ("", *workshop.shelf.sheets):
            for check, amounts in workshop.summaries.good_readings(archetype, sheet).items():
                assert amounts
                assert check in workshop.shelf.machine(archetype, sheet or None).checks


def test_a_reading_keeps_where_with_what_and_how_it_was_taken(workshop, houseboat):
    """And the instrument's own accuracy decides how soft a limit is."""
    answer = diagnose(workshop, houseboat)
    high = answer.machine.values["pump_coil_ohm"].high

    def taken(accuracy, by_wire=True):
        gear = (Instrument("Brown meter", ("resistance",), accuracy),)
        workshop.change_settings(lambda kept: replace(kept, gear=gear))
        asked = (answer.job, answer.machine, "measure_pump_coil", f"{high * 1.02:g}")
        return take_reading(workshop, *asked, by_wire=by_wire).reading

    coarse, fine, typed = taken(0.05), taken(0.002), taken(0.002, by_wire=False)
    workshop.change_settings(lambda kept: replace(kept, gear=()))
    assert coarse.borderline
    assert not fine.borderline
    assert (fine.instrument, fine.terminals != "") == ("Brown meter", True)
    assert typed.instrument == ""
    """Nobody knows with what a typed figure was read."""
    assert "230 V 50 Hz" in fine.conditions
