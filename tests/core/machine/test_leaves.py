"""A machine stands as a check leaves it."""

from dataclasses import replace

import pytest
from tests.core.job.log import Log

from bottega.core.job.events import Checked, StateChanged
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import as_left, refuse_harm
from bottega.core.machine.leaves import left_by
from bottega.core.machine.state import MachineState

HERE = MachineState(power="on", taps="open", water="out", door="shut")


@pytest.mark.parametrize(
    ("check", "outcome", "before", "left"),
    [
        ("watch_all", "to its end", HERE, {}),
        ("watch_all", "stops midway", HERE, {"water": "unknown"}),
        ("watch_all", "stops midway", replace(HERE, taps="shut"), {}),
        ("watch_emptying", "none", replace(HERE, water="in"), {"water": "unknown"}),
        ("watch_emptying", "normal", replace(HERE, water="in"), {"water": "out"}),
        ("look_bellows", "torn", replace(HERE, power="off"), {"door": "open"}),
        ("measure_element", "in band", replace(HERE, power="off"), {}),
    ],
)
def test_what_a_check_leaves(f7, check, outcome, before, left):
    assert left_by(f7.checks[check], outcome, before) == left


def test_a_check_never_leaves_what_it_needed_otherwise(shelf):
    """What it wants to be so is so when it is done, unless it lets water in or out."""
    for machine in shelf.machines():
        for check in machine.checks.values():
            for outcome in check.outcomes:
                left = left_by(check, outcome.id, HERE)
                assert set(left) <= {"water", "door"}
                if "water" in left and check.needs.water == "out":
                    assert {"fill", "pump"} & set(check.acts)


def test_after_a_run_that_stopped_nobody_tips_it_before_the_water_is_out(f7):
    log = Log(f7, power="on", water="out")
    ran = Checked(check="watch_all", outcome="stops midway", showed=("says_stops",))
    log.do(as_left(log.job, f7, ran), StateChanged(what="power", to="off"))
    assert log.job.state.water == "unknown"
    log.do(StateChanged(what="taps", to="shut"))
    tip = StateChanged(what="posture", to="tipped")
    with pytest.raises(JobRefusal, match="water"):
        refuse_harm(log.job, f7, tip, log.law)
    log.do(StateChanged(what="water", to="out"))
    refuse_harm(log.job, f7, tip, log.law)


def test_what_old_logs_do_not_say_is_not_made_up(f7):
    log = Log(f7, power="on", water="out")
    log.do(Checked(check="watch_all", outcome="stops midway", showed=("says_stops",)))
    assert log.job.state.water == "out"
