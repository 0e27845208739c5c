"""What cannot be done takes along what shares the reason, on every kind of machine."""

from dataclasses import replace

import pytest
from tests.core.job.log import Log

from bottega.core.job.aside import out_of_reach, shares
from bottega.core.job.events import SetAside
from bottega.core.machine.state import MachineState

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")


@pytest.fixture(params=KINDS)
def machine(request, shelf):
    return shelf.machine(request.param)


def taken(job, machine, check, why):
    return shares(job, machine, SetAside(check=check, why=why))


def test_a_missing_tool_takes_all_that_want_it_and_nothing_else(machine):
    job = Log(machine).job
    for check in machine.checks.values():
        same = {c.id for c in machine.checks.values() if c.tool == check.tool} - {check.id}
        expected = same if check.tool != "none" else set()
        assert taken(job, machine, check.id, "tool_missing") == expected


def test_no_access_takes_what_lies_behind_the_same_panel_until_it_is_off(machine):
    job = Log(machine).job
    for check in machine.checks.values():
        if not check.needs.off:
            continue
        behind = taken(job, machine, check.id, "no_access")
        for name in behind:
            assert set(machine.checks[name].needs.off) & set(check.needs.off)
        opened = replace(job, state=MachineState(power="off", off=check.needs.off))
        after = taken(opened, machine, check.id, "no_access")
        tipped = {c.id for c in machine.checks.values() if c.needs.posture == "tipped"}
        assert after <= tipped


@pytest.mark.parametrize("why", ["not_allowed", "too_dangerous"])
def test_what_goes_as_far_is_out_of_the_question_too(machine, why):
    job = Log(machine).job
    for check in machine.checks.values():
        for name in taken(job, machine, check.id, why):
            other = machine.checks[name]
            assert check.needs.power != "on" or other.needs.power == "on"
            assert not check.needs.off or other.needs.off
            assert check.needs.posture != "tipped" or other.needs.posture == "tipped"
            assert check.who != "qualified" or other.who == "qualified"


@pytest.mark.parametrize("why", ["not_now", "other"])
def test_a_reason_of_its_own_takes_nothing_along(f7, why):
    log = Log(f7).do(SetAside(check="turn_rotor", why=why, reason="later"))
    assert out_of_reach(log.job, f7) == {"turn_rotor"}
