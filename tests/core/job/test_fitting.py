"""What goes in: the old part out first, and a number that is this machine's own or was compared."""

import pytest
from tests.core.job.log import Log

from bottega.core.job.events import Decided, Repaired, Waiting
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import refuse_harm
from bottega.core.job.way import command_of
from bottega.core.machine.reach import Reaching

PUMP = "drain_pump.part"


@pytest.fixture
def log(f7, shelf):
    """A front loader with its pump in the tray."""
    log = Log(f7, power="off", water="out")
    way = Reaching(f7, shelf.tables).reach(log.job.state, f7.repairs[PUMP].way)
    return log.do(*(command_of(step, measured_v=0) for step in way.steps))


def fit(log, number, **more):
    body = Repaired(repair=PUMP, part_number=number, **more)
    refuse_harm(log.job, log.machine, body, log.law)


@pytest.mark.parametrize("number", ["NB-4410", "nb-4402", ""])
def test_its_own_number_goes_in_and_one_that_is_ordered_no_more(log, number):
    fit(log, number)


@pytest.mark.parametrize("number", ["NB-4410-2", "XX-1"])
def test_another_number_goes_in_only_when_it_was_compared(log, number):
    with pytest.raises(JobRefusal, match="expected NB-4410, this machine's own"):
        fit(log, number)
    fit(log, number, compared=True)


def test_only_what_has_a_plug_has_its_plug_compared(shelf):
    rods = shelf.machine("TS")
    assert rods.compared_of("rods") == "fixing and size"
    assert rods.compared_of("belt") == "fixing and size"
    assert rods.compared_of("drain_pump") == "plug, fixing and size"


def test_nothing_goes_in_while_the_old_one_is_in(f7):
    with pytest.raises(JobRefusal, match="not out yet"):
        fit(Log(f7, power="off", water="out"), "NB-4410")


def test_a_job_waits_no_longer_for_what_was_fitted_or_answered(log):
    log.do(Waiting(on="part", note="the pump"))
    log.do(Repaired(repair=PUMP, part_number="NB-4410"))
    assert log.job.waiting is None
    log.do(Waiting(on="customer"), Decided(choice="refer"))
    assert log.job.waiting is None
    log.do(Waiting(on="part"), Decided(choice="refer"))
    assert log.job.waiting is not None
