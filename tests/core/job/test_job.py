"""The fold and the rules: withdrawing equals never having happened; what may not happen is refused
with its reason."""

from datetime import UTC, datetime
from random import Random

import pytest

from bottega.core.diagnosis.evidence import Source
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.model import compile_model, prior
from bottega.core.job.complaint import hear
from bottega.core.job.events import (
    CauseClosed,
    Checked,
    CodesCleared,
    Complained,
    Decided,
    Event,
    HandedOver,
    Opened,
    PanelRead,
    Proved,
    PutBack,
    Repaired,
    StateChanged,
    Temporary,
    TookOff,
    Waived,
    Withdrawn,
)
from bottega.core.job.fold import fold
from bottega.core.job.job import BrokenLog
from bottega.core.job.kinds import allow
from bottega.core.job.proofs import condemning, owed
from bottega.core.job.rules import JobRefusal
from bottega.core.job.stations import current_station, stations
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


class Log:
    """A job's log being written, checked by the rules as it grows."""

    def __init__(self, machine, **opened):
        self.machine, self.events = machine, []
        self._append(Opened(archetype="FB", age_years=7, place="Houseboat", **opened))

    def _append(self, body):
        self.events.append(
            Event(
                id=f"event-{len(self.events):04d}",
                at=datetime(2031, 5, 14, tzinfo=UTC),
                author="Tomo",
                body=body,
            )
        )
        return self

    @property
    def job(self):
        return fold(self.events, self.machine.charge is not None)

    def do(self, *bodies):
        for body in bodies:
            allow(self.job, self.machine, body)
            self._append(body)
        return self

    def refused(self, body, words):
        with pytest.raises(JobRefusal, match=words):
            allow(self.job, self.machine, body)


@pytest.fixture
def log(f7):
    return Log(f7, power="on", taps="open", water="in")


def off(*operations):
    return [TookOff(operation=operation) for operation in operations]


UNPLUG = StateChanged(what="power", to="off")
DRAIN = StateChanged(what="water", to="out")


def to_repair(log):
    """Bring a job to a fitted pump."""
    return log.do(
        Complained(text="hums", said=("says_water_stays", "says_hums")),
        PanelRead(result="codes", shown=((3, 2),), codes=("3-2",)),
        UNPLUG,
        DRAIN,
        *off("filter_flap", "filter_cap"),
        Checked(check="turn_rotor", outcome="free"),
        Decided(choice="repair", repair="drain_pump.part"),
        Repaired(repair="drain_pump.part"),
    )


def test_the_fold_follows_the_machine(log):
    job = log.do(UNPLUG, DRAIN, *off("filter_flap", "filter_cap")).job
    assert job.state == MachineState(
        "off", "open", "out", "held", "empty", "upright", ("filter_flap", "filter_cap")
    )
    assert log.do(PutBack(operation="filter_cap")).job.state.off == ("filter_flap",)


def test_a_log_must_open(f7):
    with pytest.raises(BrokenLog, match="found no events"):
        fold([])
    with pytest.raises(BrokenLog, match="found codes_cleared first"):
        fold(
            [
                Event(
                    id="event-0000",
                    at=datetime(2031, 1, 1, tzinfo=UTC),
                    author="x",
                    body=CodesCleared(),
                )
            ]
        )


@pytest.mark.parametrize("seed", range(6))
def test_withdrawing_equals_never_having_seen(shelf, f7, seed):
    rng = Random(seed)
    log = Log(f7, power="off").do(
        Complained(text="x", said=("says_water_stays",)), DRAIN, *off("filter_flap", "filter_cap")
    )
    checks = [
        "open_filter",
        "turn_rotor",
        "look_pump_chamber",
        "turn_drum",
        "look_impeller",
        "look_outlet_hose",
    ]
    for check in checks:
        log.do(Checked(check=check, outcome=rng.choice(f7.checks[check].outcomes).id))
    victim = rng.choice([e for e in log.events if isinstance(e.body, Checked)])
    without = [event for event in log.events if event is not victim]
    log.do(Withdrawn(event=victim.id))
    model = compile_model(f7)
    before = prior(model, 7, shelf.tables.engine)
    seen = infer(model, before, evidence_of(log.job, f7, shelf.tables))
    never = infer(model, before, evidence_of(fold(without), f7, shelf.tables))
    assert seen.fault_now() == pytest.approx(never.fault_now(), abs=1e-12)


def test_withdrawing_a_withdrawal_restores(log):
    log.do(UNPLUG)
    pulled = log.events[-1].id
    log.do(Withdrawn(event=pulled))
    assert log.job.state.power == "on"
    log.do(Withdrawn(event=log.events[-1].id))
    assert log.job.state.power == "off"
    log.do(Withdrawn(event=pulled))
    log.refused(Withdrawn(event=pulled), "withdrawn already")
    log.refused(Withdrawn(event="event-9999"), "not on this job")
    log.refused(Withdrawn(event="event-0000"), "opening")


@pytest.mark.parametrize(
    ("body", "words"),
    [
        (Checked(check="no_such", outcome="x"), "Found the check 'no_such'"),
        (Checked(check="turn_drum", outcome="purple"), "expected one of free and silent"),
        (
            Checked(check="turn_rotor", outcome="free"),
            "not open yet. It needs: power off, water out",
        ),
        (Checked(check="measure_cold_coil", outcome="open"), "type the reading"),
        (Complained(text="x", said=("says_nothing",)), "Found the complaint 'says_nothing'"),
        (PanelRead(result="codes", codes=("9-9",)), "Found the code '9-9'"),
        (PanelRead(result="codes"), "No code was entered"),
        (PanelRead(result="none", codes=("3-2",)), "expected one of them"),
        (StateChanged(what="power", to="shut"), "expected on or off"),
        (StateChanged(what="power", to="on"), "already"),
        (StateChanged(what="posture", to="tipped"), "water in the tub"),
        (TookOff(operation="filter_cap"), "First: open the flap"),
        (TookOff(operation="wings"), "Found the operation 'wings'"),
        (PutBack(operation="top"), "not off"),
        (Decided(choice="repair"), "which repair"),
        (Decided(choice="repair", repair="nothing.part"), "Found the repair"),
        (Repaired(repair="drain_pump.part"), "not open yet"),
        (Waived(owed="proof", subject="spin", reason="no time"), "something that is owed"),
        (Waived(owed="back", subject="top", reason="no time"), "cannot be waived"),
        (HandedOver(), "Nothing is decided"),
        (Temporary(what="a prop", undone=True), "not in place"),
        (CauseClosed(fault="ghost", answer="x"), "Found the fault"),
        (Opened(archetype="FB", age_years=1, place="x"), "opened once"),
    ],
)
def test_what_may_not_happen_is_refused_with_its_reason(log, body, words):
    log.refused(body, words)


def test_a_discharge_wants_a_measured_or_waited_confirmation(log):
    gone = {"what": "charge", "to": "none"}
    log.do(UNPLUG)
    assert log.job.state.charge == "held"
    log.refused(StateChanged(**gone), "Say how you know")
    log.refused(StateChanged(**gone, measured_v=180), "Measured 180 V")
    log.refused(StateChanged(**gone, waited_min=1), "Waited 1 min, expected at least 3")
    log.refused(StateChanged(**gone, measured_v=90, waited_min=30), "Measured 90 V")
    assert log.do(StateChanged(**gone, waited_min=3)).job.state.charge == "none"


def test_it_is_not_plugged_in_while_it_lies(log):
    log.do(UNPLUG, DRAIN, StateChanged(what="posture", to="tipped"))
    log.refused(StateChanged(what="power", to="on"), "Stand it upright")


def test_hand_over_waits_for_what_is_owed(log, f7):
    to_repair(log)
    assert condemning(log.job, f7) == ["turn_rotor"]
    names = [debt.debt for debt in owed(log.job, f7)]
    assert names[:2] == [("back", "filter_cap"), ("back", "filter_flap")]
    wanted = {
        ("clear", "clear"),
        ("check", "turn_rotor"),
        ("proof", "leak_watch"),
        ("proof", "run"),
    }
    assert wanted <= set(names)
    log.refused(HandedOver(), "still owed")
    log.do(
        Checked(check="turn_rotor", outcome="steps"),
        PutBack(operation="filter_cap"),
        PutBack(operation="filter_flap"),
    )
    log.do(
        CodesCleared(),
        Proved(proof="leak_watch", went="badly"),
        Proved(proof="leak_watch", went="well"),
    )
    log.refused(HandedOver(), "1 still owed, first: run the customer")
    log.do(Waived(owed="proof", subject="run", reason="no water on the quay today"))
    assert log.do(HandedOver(advice="empty pockets")).job.handed_over.advice == "empty pockets"
    assert all(stamp.mark == "done" for stamp in stations(log.job, f7))
    log.refused(CodesCleared(), "handed over")


def test_a_repeated_check_must_read_normal_to_settle(log, f7):
    to_repair(log).do(Checked(check="turn_rotor", outcome="free"))
    assert not next(debt for debt in owed(log.job, f7) if debt.debt == ("check", "turn_rotor")).done


def test_a_temporary_measure_holds_the_hand_over(log):
    log.do(Decided(choice="refer"), Temporary(what="striker in the lock"))
    log.refused(HandedOver(), "undo: striker")
    log.do(Temporary(what="striker in the lock", undone=True), HandedOver())


def test_the_root_cause_is_owed_when_the_part_has_one(f7):
    log = Log(f7, power="off", water="out").do(
        *off("rear_panel"), Checked(check="look_belt", outcome="off")
    )
    log.do(Decided(choice="repair", repair="belt.part"), Repaired(repair="belt.part"))
    assert ("cause", "belt_off") in [debt.debt for debt in owed(log.job, f7)]
    log.do(CauseClosed(fault="belt_off", answer="a sock round the pulley"))
    assert next(debt for debt in owed(log.job, f7) if debt.debt == ("cause", "belt_off")).done


def test_a_repair_starts_an_epoch_and_the_vanished_complaint_is_evidence(shelf, log, f7):
    to_repair(log)
    engine, model = shelf.tables.engine, compile_model(f7)
    before = prior(model, 7, engine)
    fitted = infer(model, before, evidence_of(log.job, f7, shelf.tables))
    well = to_repair(Log(f7, water="in")).do(Proved(proof="run", went="well"))
    badly = to_repair(Log(f7, water="in")).do(Proved(proof="run", went="badly"))
    gone = infer(model, before, evidence_of(well.job, f7, shelf.tables))
    stays = infer(model, before, evidence_of(badly.job, f7, shelf.tables))
    assert fitted.fault_was()["rotor_slips"] > 0.9
    assert fitted.fault_now()["rotor_slips"] < 0.05
    assert gone.healthy > fitted.healthy > stays.healthy
    assert stays.fault_now()["filter_blocked"] > 5 * fitted.fault_now()["filter_blocked"]


def test_old_codes_do_not_speak_after_the_repair_but_one_that_comes_back_does(shelf, log, f7):
    engine = shelf.tables.engine
    to_repair(log).do(PanelRead(result="codes", codes=("3-2",)))
    assert [f for f in evidence_of(log.job, f7, shelf.tables).findings if f.epoch == 1] == []
    log.do(
        CodesCleared(),
        PutBack(operation="filter_cap"),
        StateChanged(what="power", to="on"),
        Proved(proof="run", went="badly"),
    )
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


def test_reaching_goes_in_order_and_costs_nothing_when_there(shelf, f7):
    reaching = Reaching(f7, shelf.tables)
    state = MachineState(power="on", water="in")
    needs = f7.checks["turn_rotor"].needs
    way = reaching.reach(state, needs)
    assert [step.to for step in way.steps] == ["filter_flap", "off", "out", "filter_cap"]
    there = MachineState(power="off", water="out", off=("filter_flap", "filter_cap"))
    assert reaching.reach(there, needs).minutes == 0
    deep = reaching.closure(("tub_halves",))
    for place, operation in enumerate(deep):
        assert set(f7.operations[operation].after) <= set(deep[:place])


def test_every_step_of_every_check_can_be_reached(shelf):
    for machine in shelf.machines():
        reaching = Reaching(machine, shelf.tables)
        for check in machine.checks.values():
            state = MachineState(water="in")
            for step in reaching.reach(state, check.needs).steps:
                to = step.to
                state = (
                    MachineState(**{**state.__dict__, "off": (*state.off, to)})
                    if step.kind == "operation"
                    else state.changed(step.what, to, True)
                )
            assert state.meets(check.needs), check.id


def test_the_job_stands_where_work_is_open(log, f7):
    assert current_station(log.job, f7) == "call"
    log.do(Complained(text="hums", said=("says_hums",)), UNPLUG)
    assert current_station(log.job, f7) in ("panel", "prove")
    log.do(PanelRead(result="none"))
    assert current_station(log.job, f7) == "prove"


@pytest.mark.parametrize(
    ("text", "heard"),
    [
        ("It hums and the water stays in", {"says_hums", "says_water_stays"}),
        ("Dead. No lights at all!", {"says_dead"}),
        ("there is no puddle on it, but it roars", {"says_roars"}),
        ("It doesn’t spin", {"says_no_spin"}),
        ("nice machine", set()),
    ],
)
def test_a_complaint_is_sorted_by_its_phrases(f7, text, heard):
    assert {item.complaint.id for item in hear(f7, text)} == heard


STARTS = [
    {"power": "on", "water": "unknown"},
    {"power": "on", "water": "in"},
    {"power": "off", "water": "out"},
]


@pytest.mark.parametrize("start", STARTS, ids=lambda start: f"{start['power']}-{start['water']}")
def test_every_way_to_a_check_or_a_repair_is_one_the_rules_allow(shelf, start):
    """From any state, and from the state the way before it left, no step of a way is refused."""
    for archetype in shelf.archetypes:
        machine = shelf.machine(archetype)
        reaching = Reaching(machine, shelf.tables)
        wanted = [check.needs for check in machine.checks.values()][::7]
        log = Log(machine, **start)
        for needs in wanted:
            for step in reaching.reach(log.job.state, needs).steps:
                if step.what == "power" and step.to == "on" and "tub_out" in log.job.state.off:
                    break
                waited = (
                    machine.charge.wait_minutes
                    if step.what == "charge" and machine.charge
                    else None
                )
                body = (
                    TookOff(operation=step.to)
                    if step.kind == "operation"
                    else StateChanged(what=step.what, to=step.to, waited_min=waited)
                )
                log.do(body)
