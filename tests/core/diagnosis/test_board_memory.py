"""What a panel that lets nobody in, a calibration, and a code under a former name say."""

import pytest
from tests.core.job.log import RUN_WELL, Log
from tests.engine import model_of

from bottega.core.diagnosis.board_memory import unread
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import (
    Checked,
    CodesCleared,
    EntryTried,
    PanelRead,
    Proved,
)
from bottega.core.job.kinds import told
from bottega.core.job.refusal import JobRefusal


@pytest.fixture
def f9(shelf):
    return shelf.machine("FB", "nembrio-f9")


def findings(log, machine, shelf):
    return evidence_of(log.job, machine, shelf.tables).findings


def chances(log, machine, shelf):
    evidence = evidence_of(log.job, machine, shelf.tables)
    model = model_of(machine)
    return infer(model, prior(model, 7, shelf.tables.engine), evidence).fault_now()


def test_more_attempts_speak_more_for_a_bad_panel(f7, shelf):
    """By hand: a good panel fails k times by its pace alone, or for good by another way in."""
    slips = shelf.tables.panel
    stated = f7.unreadable[1]
    miss, never = slips.entry_missed, slips.entry_never
    odds = []
    for tries in range(1, 7):
        good, bad = unread(stated, tries, slips)
        assert good == pytest.approx(never + (1 - never) * miss**tries)
        assert bad == pytest.approx(stated[1] + (1 - stated[1]) * miss**tries)
        odds.append(bad / good)
    assert odds == sorted(odds)
    assert odds[0] < 2 < odds[3]
    assert unread(stated, 0, slips) == stated


def test_the_verdict_after_four_attempts_is_heavier_than_after_one(f7, shelf):
    def weight(tries):
        log = Log(f7)
        log.do(*[EntryTried()] * tries, PanelRead(result="unreadable", attempts=tries))
        (found,) = findings(log, f7, shelf)
        return found.likelihood[1] / found.likelihood[0]

    assert weight(4) > 3 * weight(1)


def test_a_calibration_that_ends_speaks_for_every_phase_and_a_stall_for_its_own(f9, shelf):
    log = Log(f9)
    log.do(Proved(proof="calibration", went="well", seconds=330))
    passed = findings(log, f9, shelf)
    assert [f.source.subject for f in passed] == ["fills", "turns", "spins", "drains"]
    assert all(f.likelihood[0] > f.likelihood[-1] for f in passed)
    stalled = Log(f9)
    stalled.do(Proved(proof="calibration", went="badly", stalled="spins"))
    found = {f.source.subject: f for f in findings(stalled, f9, shelf)}
    assert set(found) == {"fills", "turns", "spins"}, "it never came to draining"
    assert found["spins"].likelihood[-1] > found["spins"].likelihood[0]
    for phase in f9.calibration.phases[:3]:
        passed_here = next(f for f in passed if f.source.subject == phase.id)
        assert passed_here.likelihood == pytest.approx([1 - p for p in phase.chances])
    assert "stalled where it spins" in told(f9, stalled.job.events[-1].body)[1]


def test_a_calibration_nobody_says_where_it_stalled_tells_nothing(f9, shelf):
    log = Log(f9)
    log.do(Proved(proof="calibration", went="badly"))
    assert findings(log, f9, shelf) == ()
    log.refused(Proved(proof="calibration", went="badly", stalled="dances"), "Found the phase")
    log.refused(Proved(proof="calibration", went="well", stalled="spins"), "did not go well")


def test_a_code_under_its_former_name_is_the_one_it_is_now(shelf):
    machine = shelf.machine("FD", "calvessa-dritta-8")
    before, now = Log(machine), Log(machine)
    before.do(PanelRead(result="codes", codes=("cE5",)))
    now.do(PanelRead(result="codes", codes=("cuti",)))

    def weights(log):
        return [(f.source, f.answer, f.likelihood) for f in findings(log, machine, shelf)]

    assert weights(before) == weights(now)
    assert told(machine, before.job.panel) == told(machine, now.job.panel)


def test_what_is_in_no_table_says_of_no_code_that_it_is_missing(f7, shelf):
    log = Log(f7)
    log.do(PanelRead(result="codes", unlisted=("9-9",)))
    assert findings(log, f7, shelf) == ()
    both = Log(f7)
    both.do(PanelRead(result="codes", codes=("3-2",), unlisted=("9-9",)))
    assert [f.answer for f in findings(both, f7, shelf)] == ["stored"]


def test_a_code_that_comes_back_after_the_clear_speaks_anew(f7, shelf):
    """Read, cleared, run, read again: what came back is new evidence; two readings since one clear
    repeat each other."""
    log = Log(f7)
    log.do(PanelRead(result="codes", codes=("3-2", "5-1")), CodesCleared())
    log.do(Checked(check="lamp_test", outcome="all light"))
    before = chances(log, f7, shelf)
    log.do(PanelRead(result="codes", codes=("3-2",)))
    once = chances(log, f7, shelf)
    assert once["filter_blocked"] > 1.3 * before["filter_blocked"]
    log.do(PanelRead(result="codes", codes=("3-2",)))
    twice = chances(log, f7, shelf)
    assert twice["filter_blocked"] == pytest.approx(once["filter_blocked"], rel=0.1)


def test_a_code_that_stays_away_speaks_once_the_machine_had_occasion_to_store_it(f7, shelf):
    """A lamp test empties nothing, so that the missing code for emptying says nothing after it."""

    def missing(*since):
        log = Log(f7)
        log.do(PanelRead(result="codes", codes=("3-2",)), CodesCleared(), *since)
        first = log.job.events[-1].id
        log.do(PanelRead(result="none"))
        found = findings(log, f7, shelf)
        return {f.source.subject for f in found if f.source.kind == "code" and f.event > first}

    lamps = Checked(check="lamp_test", outcome="all light")
    assert missing(lamps) == set()
    assert missing(Checked(check="watch_emptying", outcome="normal")) == {"3-2"}
    assert missing(RUN_WELL) == set(f7.codes)


def test_an_empty_memory_that_was_just_cleared_says_nothing(f7, shelf):
    log = Log(f7)
    log.do(PanelRead(result="codes", codes=("3-2",)), CodesCleared())
    before = chances(log, f7, shelf)
    log.do(PanelRead(result="none"))
    assert chances(log, f7, shelf) == before


def test_a_code_the_customer_tells_of_says_nothing_of_those_not_named(f9, shelf):
    read = Log(f9).do(PanelRead(result="codes", codes=("3-2",)))
    heard = Log(f9).do(PanelRead(result="codes", codes=("3-2",), told=True))
    assert [(f.source.subject, f.answer) for f in findings(heard, f9, shelf)] == [("3-2", "stored")]
    assert len(findings(read, f9, shelf)) > 1
    assert heard.job.panel is None
    assert read.job.panel is not None


def test_a_customer_cannot_tell_that_nothing_is_stored(f9):
    with pytest.raises(JobRefusal, match="has to be read"):
        Log(f9).do(PanelRead(result="none", told=True))
