"""Rules over random histories on all eight kinds: whatever is allowed keeps the machine safe, and
every refusal says why."""

from datetime import UTC, datetime, timedelta
from random import Random

import pytest
from tests.core.job.log import DRAIN, INVARIANTS, PLUG_IN, PROOFS, UNPLUG, Log

from bottega.core.job.events import (
    CauseClosed,
    Checked,
    Complained,
    Decided,
    Event,
    HandedOver,
    Opened,
    PanelRead,
    PutBack,
    Repaired,
    StateChanged,
    Temporary,
    TookOff,
    Waived,
)
from bottega.core.job.fold import fold
from bottega.core.job.kinds import allow
from bottega.core.job.proofs import owed
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law
from bottega.core.job.way import command_of
from bottega.core.library.vocabulary import NOT_CHOSEN, STATES
from bottega.core.machine.invariants import broken, standing
from bottega.core.machine.reach import Reaching

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")


def at(number):
    """A quarter of an hour lies between two events."""
    return datetime(2031, 5, 14, 9, tzinfo=UTC) + timedelta(minutes=15 * number)


def law_at(number):
    return Law(INVARIANTS, PROOFS, at=at(number))


LAW = law_at(99)


def event(number, body):
    return Event(id=f"event-{number:05d}", at=at(number), author="Pia", body=body)


def opened(kind):
    said = {"power": "on", "taps": "open", "drum": "empty", "door": "shut"}
    return [event(0, Opened(archetype=kind, age_years=5, place="Quay", **said))]


def anything(machine, random):
    """Return an event drawn from all that can be said of a machine, sensible or not."""
    operation = random.choice(sorted(machine.operations))
    check = machine.checks[random.choice(sorted(machine.checks))]
    what = random.choice(list(STATES))
    chosen = [value for value in STATES[what] if value not in NOT_CHOSEN]
    return random.choice(
        [
            TookOff(operation=operation),
            PutBack(operation=operation),
            StateChanged(what=what, to=random.choice(chosen)),
            StateChanged(what="charge", to="none", waited_min=random.choice([0, 1, 60])),
            StateChanged(what="charge", to="none", measured_v=random.choice([2, 300])),
            Checked(check=check.id, outcome=random.choice(check.outcomes).id, note="seen"),
            Repaired(repair=random.choice(sorted(machine.repairs))),
            Temporary(what="a test lead"),
        ]
    )


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("seed", range(3))
def test_whatever_is_allowed_keeps_the_machine_safe(shelf, kind, seed):
    machine, random = shelf.machine(kind), Random(seed)
    events, refusals = opened(kind), []
    for number in range(1, 250):
        before = fold(events, machine.charge is not None)
        body = anything(machine, random)
        try:
            allow(before, machine, body, law_at(number))
        except JobRefusal as refusal:
            refusals.append(str(refusal))
            continue
        events.append(event(number, body))
        after = fold(events, machine.charge is not None).state
        if isinstance(body, StateChanged) and body.what == "posture" and body.to == "tipped":
            assert before.state.water == "out"
        if isinstance(body, StateChanged) and body.what == "power" and body.to == "on":
            assert after.posture == "upright"
            assert "tub_out" not in after.off
        if isinstance(body, StateChanged) and body.what == "charge" and machine.charge:
            assert before.state.power == "off"
            assert body.measured_v is not None
            assert body.measured_v <= INVARIANTS.touch_below_v
        here = standing(machine, after, bool(before.interlocks))
        assert not list(broken(INVARIANTS.rows, here, lifted=bool(after.live_test)))
        for operation in after.off:
            assert set(machine.operations[operation].after) <= set(after.off)
        if isinstance(body, Checked):
            assert before.state.meets(machine.checks[body.check].needs)
        if isinstance(body, Repaired):
            assert before.state.meets(machine.repairs[body.repair].needs)
    assert len(refusals) > 50
    assert all(len(text) > 15 and (text[0].isupper() or text[0] in "'“") for text in refusals)
    assert len(events) > 5


@pytest.mark.parametrize("kind", KINDS)
def test_a_job_is_handed_over_only_when_nothing_is_owed(shelf, kind):
    machine = shelf.machine(kind)
    events = opened(kind)
    with pytest.raises(JobRefusal, match="Nothing is decided"):
        allow(fold(events), machine, HandedOver(), LAW)
    events.append(event(1, Decided(choice="refer")))
    allow(fold(events), machine, HandedOver(), LAW)
    events.append(event(2, Temporary(what="a prop")))
    with pytest.raises(JobRefusal, match="1 still owed, first: undo: a prop"):
        allow(fold(events), machine, HandedOver(), LAW)
    with pytest.raises(JobRefusal, match="cannot be waived"):
        allow(
            fold(events), machine, Waived(owed="temporary", subject="a prop", reason="later"), LAW
        )
    events.append(event(3, Temporary(what="a prop", undone=True)))
    assert owed(fold(events), machine) == []
    events.append(event(4, HandedOver()))
    with pytest.raises(JobRefusal, match="handed over"):
        allow(fold(events), machine, Temporary(what="another"), LAW)


@pytest.mark.parametrize(
    ("body", "words", "field"),
    [
        (PanelRead(result="codes"), "No code was entered", "codes"),
        (PanelRead(result="none", codes=("2-4",)), "expected one of them", "result"),
        (PanelRead(result="codes", codes=("99-99",)), "Found the code '99-99'", "code"),
        (Decided(choice="repair"), "Choose which repair", "repair"),
        (Decided(choice="repair", repair="moon.part"), "Found the repair", "repair"),
        (Checked(check="ghost", outcome="x"), "Found the check 'ghost'", "check"),
        (Checked(check="turn_drum", outcome="purple"), "expected one of", "outcome"),
        (Checked(check="measure_pump_coil", outcome="in band"), "type the reading", "reading"),
        (Temporary(what="a wedge", undone=True), "is not in place", "what"),
        (Waived(owed="proof", subject="run", reason="none"), "something that is owed", "subject"),
        (StateChanged(what="power", to="on"), "is 'on' already", "to"),
    ],
    ids=lambda value: value.kind if hasattr(value, "kind") else "",
)
def test_a_refusal_names_what_is_wrong(f7, body, words, field):
    with pytest.raises(JobRefusal, match=words) as caught:
        allow(fold(opened("FB")), f7, body, LAW)
    assert caught.value.field == field


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
        (StateChanged(what="posture", to="tipped"), "Pull the plug before it is tipped"),
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


def test_a_charge_is_gone_once_it_was_waited_for_and_then_measured(log):
    gone = {"what": "charge", "to": "none"}
    log.do(UNPLUG)
    assert log.job.state.charge == "held"
    log.refused(StateChanged(**gone), "Say how you know")
    log.refused(StateChanged(**gone, measured_v=180), "Measured 180 V on .*, expected at most 34 V")
    log.refused(StateChanged(**gone, waited_min=600), "permits the measuring, not the touching")
    assert log.do(StateChanged(**gone, measured_v=12)).job.state.charge == "none"


def test_the_minutes_are_those_of_the_log_not_those_that_are_typed(log, f7):
    """A minute after the plug no typed number makes three of it; only where it came unplugged do
    typed minutes count."""
    gone = StateChanged(what="charge", to="none", measured_v=2, waited_min=600)
    log.do(UNPLUG)
    soon = log.job.unplugged_at + timedelta(minutes=1)
    with pytest.raises(JobRefusal, match="1 min have passed since the plug came out, expected 3"):
        allow(log.job, f7, gone, Law(INVARIANTS, PROOFS, at=soon))
    came = Log(f7, power="off")
    assert came.job.state.charge == "unknown"
    allow(came.job, f7, gone, Law(INVARIANTS, PROOFS, at=came.events[0].at))


def test_what_is_plugged_in_holds_its_charge(log):
    assert log.job.state.charge == "held"
    log.do(UNPLUG, StateChanged(what="charge", to="none", measured_v=0))
    assert log.do(PLUG_IN).job.state.charge == "held"


def test_it_is_not_plugged_in_while_it_lies(log):
    shut = StateChanged(what="taps", to="shut")
    log.do(UNPLUG, DRAIN, shut, StateChanged(what="posture", to="tipped"))
    log.refused(PLUG_IN, "stand it upright before it is plugged in")


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
        log = Log(machine, **start)
        for check in list(machine.checks.values())[::7]:
            for step in reaching.reach(log.job.state, check.needs).steps:
                log.do(command_of(step, check.id, "Pia", measured_v=0))
            assert log.job.state.meets(check.needs)
