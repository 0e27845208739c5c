"""From a job's events to evidence: epochs, old codes, runs, and what says nothing."""

import pytest
from tests.core.job.log import CLOSE, PLUG_IN, RUN_WELL, Log, to_repair
from tests.core.job.test_rules import event, opened
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, Source
from bottega.core.diagnosis.findings import evidence_of, where_it_stops
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import (
    Checked,
    CodesCleared,
    Complained,
    Marked,
    PanelRead,
    Proved,
    Repaired,
    StateChanged,
)
from bottega.core.job.fold import fold
from bottega.core.job.kinds import told


def test_a_repair_starts_an_epoch_and_the_vanished_complaint_is_evidence(shelf, log, f7):
    to_repair(log)
    engine, model = shelf.tables.engine, model_of(f7)
    before = prior(model, 7, engine)
    fitted = infer(model, before, evidence_of(log.job, f7, shelf.tables))
    on = StateChanged(what="power", to="on")
    well = to_repair(Log(f7, water="in")).do(*CLOSE, on, RUN_WELL)
    badly = to_repair(Log(f7, water="in")).do(*CLOSE, on, Proved(proof="run", went="badly"))
    gone = infer(model, before, evidence_of(well.job, f7, shelf.tables))
    stays = infer(model, before, evidence_of(badly.job, f7, shelf.tables))
    assert fitted.fault_was()["rotor_slips"] > 0.9
    assert fitted.fault_now()["rotor_slips"] < 0.05
    assert gone.healthy > fitted.healthy > stays.healthy
    assert stays.fault_now()["filter_blocked"] > 5 * fitted.fault_now()["filter_blocked"]


def after_run(shelf, f7, *went):
    """Return the belief after the pump was fitted and the machine was run, once or more."""
    model = model_of(f7)
    on = StateChanged(what="power", to="on")
    log = to_repair(Log(f7, water="in")).do(*CLOSE, on, *went)
    evidence = evidence_of(log.job, f7, shelf.tables)
    return infer(model, prior(model, 7, shelf.tables.engine), evidence)


def test_a_run_that_goes_badly_speaks_for_the_cause_being_there_still(shelf, f7):
    """Missing it and raising a false alarm are different chances: by hand, one bad run alone makes
    0.85 : 0.01 of the odds that the complaint is still so, and a second run counts again."""
    bad = Proved(proof="run", went="badly")
    none, once, twice = (after_run(shelf, f7, *[bad] * n) for n in range(3))
    assert none.healthy > 0.8
    assert once.healthy < 0.15
    assert twice.healthy < 0.75 * once.healthy
    again = {"drain_pump", "pump_filter", "sump_hose", "outlet_hose", "board", "harness"}
    chances = {f: 1.0 for f, fault in f7.faults.items() if fault.component in again}
    assert once.any_of(chances) > 0.7
    engine = shelf.tables.engine
    odds = [b.healthy / (1 - b.healthy) for b in (none, once)]
    most = (1 - engine.run_misses) / engine.run_false_alarms
    assert odds[0] / odds[1] <= most**2 * 1.01


def test_a_run_may_show_one_complaint_again_and_not_the_other(shelf, f7):
    hums = Proved(proof="run", went="badly", still=("says_hums",))
    log = to_repair(Log(f7, water="in")).do(*CLOSE, PLUG_IN, hums)
    found = [f for f in evidence_of(log.job, f7, shelf.tables).findings if f.source.kind == "run"]
    told = {f.effect: f.answer for f in found}
    assert told == {
        c.effect: "badly" if c.effect == f7.complaints["says_hums"].effect else "well"
        for c in f7.complaints.values()
    }
    drain, spin = (next(f for f in found if f.effect == e) for e in ("drain_flow", "spin_noise"))
    assert 1 - drain.likelihood[1] == pytest.approx(1 - shelf.tables.engine.run_misses)
    assert 1 - spin.likelihood[1] == pytest.approx(1 - shelf.tables.engine.run_overlooks)


def test_a_run_may_show_what_nobody_complained_of(shelf, f7):
    """A second fault is met in the watched run, not at the next call."""
    roars = Proved(proof="run", went="badly", still=("says_roars",))
    well = RUN_WELL
    before, after = after_run(shelf, f7, well), after_run(shelf, f7, roars)
    assert after.fault_now()["bearings_worn"] > 10 * before.fault_now()["bearings_worn"]


def test_old_codes_do_not_speak_after_the_repair_but_one_that_comes_back_does(shelf, log, f7):
    engine = shelf.tables.engine
    to_repair(log).do(*CLOSE, PLUG_IN, PanelRead(result="codes", codes=("3-2",)))
    assert [f for f in evidence_of(log.job, f7, shelf.tables).findings if f.epoch == 1] == []
    log.do(CodesCleared(), Proved(proof="run", went="badly"))
    log.do(PanelRead(result="codes", codes=("3-2",)))
    back = [
        f
        for f in evidence_of(log.job, f7, shelf.tables).findings
        if f.source == Source("code", "3-2") and f.epoch == 1
    ]
    assert back[0].likelihood[0] == pytest.approx(engine.stale_after_clear)


def test_none_stored_and_could_not_read_are_different_findings(shelf, log, f7):
    none = evidence_of(Log(f7).do(PanelRead(result="none")).job, f7, shelf.tables)
    unread = evidence_of(Log(f7).do(PanelRead(result="unreadable")).job, f7, shelf.tables)
    assert len(none.findings) == len(f7.codes)
    assert [(f.effect, f.answer) for f in unread.findings] == [("lamps", "unreadable")]


def said_of(job, machine, tables):
    found = evidence_of(job, machine, tables).findings
    return {f.source.subject: (f.answer, f.epoch) for f in found if f.source.kind == "says"}


def test_a_correction_replaces_and_an_addition_adds(shelf, f7):
    """What was put right is as if it had never been said; what is added stands beside it, and where
    both speak of one thing the later word counts."""
    leaks = Complained(text="it leaks", said=("says_door_drip",))
    right = Complained(text="no: the water stays", said=("says_water_stays",))
    hums = Complained(text="and it hums", said=("says_hums",), adds=True)
    after_all = Complained(text="it does not hum now", well=("says_hums",), adds=True)
    corrected = Log(f7).do(leaks, right, hums).job
    straight = Log(f7).do(right, hums).job
    told = said_of(corrected, f7, shelf.tables)
    assert told == said_of(straight, f7, shelf.tables)
    assert {name for name, (answer, _) in told.items() if answer == "said"} == {
        "says_water_stays",
        "says_hums",
    }
    assert corrected.complaint.said == ("says_water_stays", "says_hums")
    assert corrected.complaint.text == "no: the water stays and it hums"
    later = Log(f7).do(right, hums, after_all).job
    assert said_of(later, f7, shelf.tables)["says_hums"] == ("not so", 0)
    assert later.complaint.well == ("says_hums",)


def test_a_correction_after_a_repair_still_speaks_of_the_call(shelf, log, f7):
    to_repair(log).do(Complained(text="it never hummed", said=("says_water_stays",)))
    told = said_of(log.job, f7, shelf.tables)
    assert told["says_water_stays"] == ("said", 0)
    assert "says_hums" not in told or told["says_hums"][0] != "said"


def test_what_is_added_after_a_repair_speaks_of_the_machine_as_it_is_then(shelf, log, f7):
    to_repair(log).do(Complained(text="it still hums", said=("says_hums",), adds=True))
    told = said_of(log.job, f7, shelf.tables)
    assert told["says_hums"] == ("said", 1)


def test_what_the_library_no_longer_knows_is_kept_named_and_weighs_nothing(shelf, f7):
    """A check, an outcome, a repair, a code and a phrase of another library: the job opens, the
    belief is as if they had never been noted, and each is told as gone."""
    lost = [
        Complained(text="hm", said=("says_hums", "says_nothing_known")),
        PanelRead(result="codes", codes=("9-9",)),
        Checked(check="no_such_check", outcome="good"),
        Checked(check="turn_rotor", outcome="no_such_outcome"),
        Marked(what="water", at="no_such_part", age="live", phase="any"),
        Repaired(repair="no_such_repair"),
        Checked(check="hear_draining", outcome="hums"),
    ]
    kept = [Complained(text="hm", said=("says_hums",)), lost[-1]]
    jobs = [
        fold([*opened("FB"), *(event(n, b) for n, b in enumerate(bodies, start=1))])
        for bodies in (lost, kept)
    ]
    model = model_of(f7)
    before = prior(model, 7, shelf.tables.engine)
    beliefs = []
    for job in jobs:
        evidence = evidence_of(job, f7, shelf.tables)
        own = tuple(f for f in evidence.findings if f.source.kind != "code")
        beliefs.append(infer(model, before, Evidence(own, evidence.removals)).fault_now())
    assert beliefs[0] == pytest.approx(beliefs[1])
    words = [" ".join(told(f7, body)) for body in lost[1:6]]
    assert all("no longer in the library" in said for said in words), words
    assert "no longer in the library" in told(f7, lost[0])[1]


def test_an_old_part_says_the_same_on_the_bench_before_and_after_it_was_changed(shelf, f7):
    """What the old part shows is of the machine before: asked for after the repair it moves the
    belief as much, and the new part is not held for the one that was looked at."""
    model, first = model_of(f7), prior(model_of(f7), 7, shelf.tables.engine)
    check = next(c for c in f7.checks.values() if c.in_hand == "drain_pump")
    looked = Checked(check=check.id, outcome=check.outcomes[0].id)

    def belief(log):
        return infer(model, first, evidence_of(log.job, f7, shelf.tables))

    plain = to_repair(Log(f7))
    early = to_repair(Log(f7), looked)
    late = to_repair(Log(f7))
    repaired = next(e for e in late.events if e.body.kind == "repaired")
    late.do(looked.model_copy(update={"old_part_of": repaired.id}))
    assert repaired.body.kind == "repaired"
    was = [belief(log).fault_was()["rotor_slips"] for log in (plain, early, late)]
    assert was[1] < was[0]
    assert was[2] == pytest.approx(was[1], rel=1e-6)
    now = [belief(log).fault_now()["rotor_slips"] for log in (early, late)]
    assert now[0] == pytest.approx(now[1], rel=1e-6)
    assert check.id not in late.job.done_now()


@pytest.mark.parametrize(("repair", "same"), [("door_lock.part", True), ("element.part", False)])
def test_a_check_meets_the_same_conditions_until_its_own_part_was_worked_on(
    shelf, f7, repair, same
):
    """A reading repeated after an unrelated repair tells little more than the first; one of the
    new part is a reading of its own."""
    read = Checked(check="measure_element", outcome="open", note="made up")
    bodies = (read, Repaired(repair=repair), read)
    events = [*opened("FB"), *(event(n, body) for n, body in enumerate(bodies, 1))]

    def told(upto):
        return evidence_of(fold(events[:upto]), f7, shelf.tables)

    first, again = (f.conditions for f in told(4).findings if f.source.kind == "check")
    assert first == (0, 0)
    assert (again == first) is same
    model = model_of(f7)
    before = prior(model, 7, shelf.tables.engine)
    once, twice = (infer(model, before, told(n)).fault_now()["element_open"] for n in (3, 4))
    assert (abs(twice - once) < 0.05) is same


def test_what_a_programme_never_comes_to_is_told_by_where_it_stops(f7):
    assert where_it_stops(f7, f7.checks["watch_spin"]) == "watch_stops_in"
    assert where_it_stops(f7, f7.checks["ask_spinning"]) == "ask_stops_in"
    assert where_it_stops(f7, f7.checks["measure_pump_coil"]) is None
    assert where_it_stops(f7, f7.checks["watch_stops_in"]) is None
