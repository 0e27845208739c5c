"""What a command would do to the machine: refused with the row, the reason and the way out."""

import pytest
from tests.core.job.log import CLOSE, DRAIN, SHUT, TIPPED, UNPLUG, off, to_repair

from bottega.core.job.events import PutBack, Repaired, StateChanged, Temporary
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import declared, refuse_act, refuse_harm, waited_min


def row_of(log, body):
    with pytest.raises(JobRefusal) as caught:
        refuse_act(log.job, log.machine, body, log.law)
    return caught.value.field


def test_the_row_that_would_be_broken_is_named(log):
    assert row_of(log, TIPPED) == "plugged_tipped"
    log.do(UNPLUG)
    assert row_of(log, TIPPED) == "tipped_full"
    log.do(DRAIN)
    assert row_of(log, TIPPED) == "tipped_taps"
    log.do(SHUT)
    refuse_act(log.job, log.machine, TIPPED, log.law)


def test_a_lock_kept_from_its_work_has_to_be_called_that(log):
    log.do(UNPLUG)
    for words in ("the lid switch bridged", "a JUMPER on the lock"):
        with pytest.raises(JobRefusal, match="Tick that it does"):
            refuse_harm(log.job, log.machine, Temporary(what=words), log.law)
    refuse_harm(log.job, log.machine, Temporary(what="a jug under the pump"), log.law)


def test_no_more_is_left_over_than_held_it(log):
    log.do(UNPLUG, DRAIN, *off("filter_flap"))
    there = sum(f.count for f in log.machine.operations["filter_flap"].fasteners)
    back = PutBack(operation="filter_flap", left=there + 1)
    with pytest.raises(JobRefusal, match=f"Found {there + 1} left over"):
        refuse_harm(log.job, log.machine, back, log.law)


def test_a_part_is_not_fitted_over_the_old_one(log):
    log.do(UNPLUG, DRAIN)
    with pytest.raises(JobRefusal, match="The old one is not out yet"):
        refuse_harm(log.job, log.machine, Repaired(repair="drain_pump.part"), log.law)


def test_plugging_in_is_declared_by_somebody_who_says_he_may(log):
    log.do(UNPLUG, DRAIN, *off("rear_panel"))
    plug = StateChanged(what="power", to="on", for_check="measure_slip")
    assert not declared(log.job, log.machine, plug)
    assert not declared(log.job, log.machine, plug.model_copy(update={"ticked": True}))
    signed = plug.model_copy(update={"ticked": True, "qualified": "Pia"})
    assert declared(log.job, log.machine, signed)
    refuse_act(log.job, log.machine, signed, log.law)


def test_minutes_are_counted_from_the_plug_by_the_log(log):
    log.do(UNPLUG)
    at = log.now
    assert waited_min(log.job, at) == pytest.approx(15)
    assert waited_min(log.job, at, typed=60) == pytest.approx(15)
    assert waited_min(log.job, None) == 0


def test_a_repair_made_by_the_rules_is_made(log):
    to_repair(log).do(*CLOSE)
    assert log.job.repairs
