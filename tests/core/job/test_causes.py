"""What made it fail, what it took with it, and cures nobody can explain."""

from datetime import date

import pytest
from tests.core.job.log import PUMP_OUT, Log, off

from bottega.core.job.causes import linked, unexplained
from bottega.core.job.events import CauseClosed, Checked, Decided, Recheck, Repaired, Waived
from bottega.core.job.proofs import owed


def cleared_pump(f7):
    """A job where an object was found in the pump and taken out."""
    log = Log(f7, power="off", water="out").do(*off("filter_flap", "filter_cap"))
    log.do(Checked(check="look_pump_chamber", outcome="object"))
    return log.do(
        Decided(choice="repair", repair="pump_object_in.remove"),
        Repaired(repair="pump_object_in.remove"),
    )


def debt(log, f7, name):
    return next(debt for debt in owed(log.job, f7) if debt.debt == name)


def test_an_object_found_does_not_end_the_search(f7):
    log = cleared_pump(f7)
    link = next(link for link in linked(log.job, f7) if link.fault == "impeller_broken")
    assert (link.of, link.side, link.check, link.settled) == (
        "pump_object_in",
        "consequence",
        "look_impeller",
        False,
    )
    log.do(Checked(check="look_impeller", outcome="whole"))
    assert debt(log, f7, ("follow", "impeller_broken")).settled


def test_what_is_found_broken_stays_owed_until_it_is_put_right(f7):
    log = cleared_pump(f7).do(Checked(check="look_impeller", outcome="broken"))
    assert "Found and not put right" in debt(log, f7, ("follow", "impeller_broken")).name
    assert not debt(log, f7, ("follow", "impeller_broken")).settled
    log.do(*PUMP_OUT, Repaired(repair="drain_pump.part"))
    assert ("follow", "impeller_broken") not in [d.debt for d in owed(log.job, f7)]


@pytest.mark.parametrize(
    "body",
    [
        CauseClosed(fault="impeller_broken", answer="turned it by hand, all blades there"),
        Waived(owed="follow", subject="impeller_broken", reason="new pump comes on Friday"),
    ],
)
def test_a_word_or_a_written_reason_settles_it_too(f7, body):
    assert debt(cleared_pump(f7).do(body), f7, ("follow", "impeller_broken")).settled


def test_the_cause_behind_a_finding_is_asked_for(f7):
    log = Log(f7, power="off", water="out").do(*off("filter_flap", "filter_cap"))
    log.do(
        Checked(check="look_impeller", outcome="broken"),
        Decided(choice="repair", repair="drain_pump.part"),
    )
    log.do(*PUMP_OUT, Repaired(repair="drain_pump.part"))
    assert [link.side for link in linked(log.job, f7) if link.fault == "pump_object_in"] in (
        [],
        ["cause"],
    )
    assert all(link.fault not in ("impeller_broken",) for link in linked(log.job, f7))


def test_a_cure_that_nobody_saw_work_wants_a_day_to_look_again(f7):
    log = Log(f7, power="off", water="out").do(*off("filter_flap", "filter_cap"))
    log.do(
        Decided(choice="repair", repair="filter_blocked.clean"),
        Repaired(repair="filter_blocked.clean"),
    )
    assert unexplained(log.job, f7) == ["filter_blocked.clean"]
    log.refused(
        Recheck(repair="filter_blocked.clean", why="unexplained", on=date(2031, 5, 14)),
        "expected one after",
    )
    log.refused(
        Recheck(repair="belt.part", why="temporary", on=date(2031, 6, 1)),
        "Found the repair 'belt.part'",
    )
    log.do(Recheck(repair="filter_blocked.clean", why="unexplained", on=date(2031, 6, 1)))
    assert debt(log, f7, ("recheck", "filter_blocked.clean")).settled
    assert log.job.rechecks["filter_blocked.clean"].on == date(2031, 6, 1)


def test_a_cure_whose_fault_was_seen_needs_none(f7):
    assert unexplained(cleared_pump(f7).job, f7) == []
