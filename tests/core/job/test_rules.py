"""Rules over random histories on all eight kinds: whatever is allowed keeps the machine safe, and
every refusal says why."""

from random import Random

import pytest
from tests.core.job.log import DRAIN, UNPLUG, Log

from bottega.core.job import rules
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
from bottega.core.library.vocabulary import NOT_CHOSEN, STATES
from bottega.core.machine.reach import Reaching

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")


def event(number, body):
    return Event(id=f"event-{number:05d}", at="2031-05-14T09:00Z", author="Pia", body=body)


def opened(kind):
    return [event(0, Opened(archetype=kind, age_years=5, place="Quay"))]


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
            allow(before, machine, body)
        except rules.JobRefusal as refusal:
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
            assert body.measured_v is None or body.measured_v <= machine.charge.safe_below_v
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
    with pytest.raises(rules.JobRefusal, match="Nothing is decided"):
        allow(fold(events), machine, HandedOver())
    events.append(event(1, Decided(choice="refer")))
    allow(fold(events), machine, HandedOver())
    events.append(event(2, Temporary(what="a prop")))
    with pytest.raises(rules.JobRefusal, match="1 still owed, first: undo: a prop"):
        allow(fold(events), machine, HandedOver())
    with pytest.raises(rules.JobRefusal, match="cannot be waived"):
        allow(fold(events), machine, Waived(owed="temporary", subject="a prop", reason="later"))
    events.append(event(3, Temporary(what="a prop", undone=True)))
    assert owed(fold(events), machine) == []
    events.append(event(4, HandedOver()))
    with pytest.raises(rules.JobRefusal, match="handed over"):
        allow(fold(events), machine, Temporary(what="another"))


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
    with pytest.raises(rules.JobRefusal, match=words) as caught:
        allow(fold(opened("FB")), f7, body)
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
