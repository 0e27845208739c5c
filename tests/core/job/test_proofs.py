"""What is owed after a repair: by the part, by the check that condemned it, by what made it fail;
on every repair of every kind of machine."""

from datetime import timedelta

import pytest
from tests.core.job.log import (
    CLOSE,
    DRAIN,
    INVARIANTS,
    PLUG_IN,
    PROOFS,
    PUMP_OUT,
    RUN_WELL,
    UNPLUG,
    Log,
    off,
    to_repair,
)
from tests.core.job.test_rules import KINDS, event, opened

from bottega.core.job.events import (
    CauseClosed,
    Checked,
    CodesCleared,
    Decided,
    HandedOver,
    Limits,
    PanelRead,
    ProofBegun,
    Proved,
    PutBack,
    Repaired,
    StateChanged,
    Temporary,
    TookOff,
    Waived,
)
from bottega.core.job.fold import fold
from bottega.core.job.kinds import allow, told
from bottega.core.job.proofs import (
    OF_THE_MACHINE,
    PROOF_NAMES,
    before_closing,
    checks_owed,
    condemning,
    owed,
)
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law
from bottega.core.job.stations import stations


def after(kind, *bodies):
    events = opened(kind) + [event(n, body) for n, body in enumerate(bodies, start=1)]
    return fold(events)


@pytest.mark.parametrize("kind", KINDS)
def test_every_repair_owes_a_run_and_what_its_part_owes(shelf, kind):
    machine = shelf.machine(kind)
    for name, repair in machine.repairs.items():
        debts = {debt.debt for debt in owed(after(kind, Repaired(repair=name)), machine)}
        assert ("proof", "run") in debts
        for proof in machine.components[repair.component].owes:
            assert ("proof", proof) in debts
            assert proof in PROOF_NAMES


def test_without_a_repair_only_the_machine_is_owed_the_last_off_first(f7):
    job = after("FB", TookOff(operation="top"), TookOff(operation="rear_panel"))
    assert [debt.debt for debt in owed(job, f7)] == [("back", "rear_panel"), ("back", "top")]
    assert not any(debt.waivable for debt in owed(job, f7))
    assert set(OF_THE_MACHINE) == {"back", "temporary"}


def test_codes_that_were_read_are_cleared_after_the_repair_and_not_before(f7):
    read, made = PanelRead(result="codes", codes=("3-2",)), Repaired(repair="drain_pump.part")

    def cleared(*bodies):
        debts = owed(after("FB", *bodies), f7)
        return next(debt.done for debt in debts if debt.kind == "clear")

    assert not cleared(read, made)
    assert not cleared(read, CodesCleared(), made)
    assert cleared(read, made, CodesCleared())


def test_a_proof_that_went_badly_is_still_owed_and_a_reason_settles_it(f7):
    made = Repaired(repair="drain_pump.part")
    badly, well = (Proved(proof="leak_watch", went=went, note="seen") for went in ("badly", "well"))
    waived = Waived(owed="proof", subject="leak_watch", reason="no water on site")

    def leak_watch(*bodies):
        debts = owed(after("FB", made, *bodies), f7)
        return next(debt for debt in debts if debt.subject == "leak_watch")

    assert not leak_watch().settled
    assert not leak_watch(badly).settled
    assert not leak_watch(well, badly).settled
    assert leak_watch(badly, well).settled
    assert leak_watch(waived).waived == "no water on site"
    assert leak_watch(waived).settled


def test_hand_over_waits_for_what_is_owed(log, f7):
    to_repair(log)
    assert condemning(log.job, f7) == ["turn_rotor"]
    names = [debt.debt for debt in owed(log.job, f7)]
    assert names[0] == ("check", "turn_rotor")
    assert names[1:3] == [("back", "filter_cap"), ("back", "filter_flap")]
    assert [debt.debt for debt in before_closing(log.job, f7)] == names[:1]
    assert checks_owed(log.job, f7) == {"turn_rotor"}
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
        *CLOSE,
    )
    log.refused(CodesCleared(), "Plug it in first")
    log.do(
        StateChanged(what="power", to="on"),
        CodesCleared(),
        StateChanged(what="water", to="in"),
        Proved(proof="leak_watch", went="badly"),
        ProofBegun(proof="leak_watch"),
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
    log.do(Decided(choice="refer"), Temporary(what="tape on the hose"))
    log.refused(HandedOver(), "undo: tape")
    log.do(Temporary(what="tape on the hose", undone=True), HandedOver())


def test_the_root_cause_is_owed_when_the_part_has_one(f7):
    log = Log(f7, power="off", water="out").do(
        *off("rear_panel"), Checked(check="look_belt", outcome="off")
    )
    log.do(
        Decided(choice="repair", repair="belt.part"),
        *off("belt_off"),
        Repaired(repair="belt.part"),
    )
    assert ("cause", "belt_off") in [debt.debt for debt in owed(log.job, f7)]
    log.do(CauseClosed(fault="belt_off", answer="a sock round the pulley"))
    assert next(debt for debt in owed(log.job, f7) if debt.debt == ("cause", "belt_off")).done


def test_a_proof_by_running_wants_the_plug_in(log, f7):
    to_repair(log)
    log.refused(Proved(proof="run", went="well"), "It is unplugged")
    log.refused(StateChanged(what="power", to="on"), "Pull the plug and put it back")
    log.do(*CLOSE, PLUG_IN)
    log.refused(Proved(proof="run", went="well"), "Say which programme was run, and to which phase")
    log.do(RUN_WELL)


def test_a_leak_watch_has_its_clock_and_ends_at_its_minutes(log, f7):
    """The clock starts once it stands there with water in, and anything changed since ends it."""
    to_repair(log)
    begun, well = ProofBegun(proof="leak_watch"), Proved(proof="leak_watch", went="well")
    log.refused(begun, "Put the joint back first")
    log.do(*CLOSE, PLUG_IN)
    log.refused(begun, "This proof wants: water in")
    water = StateChanged(what="water", to="in")
    log.do(water)
    log.refused(well, "Its clock was not started; it runs for 10 minutes")
    log.do(begun)
    soon = Law(INVARIANTS, PROOFS, at=log.job.clock_of("leak_watch") + timedelta(minutes=4))
    with pytest.raises(JobRefusal, match="4 of 10 minutes have passed"):
        allow(log.job, f7, well, soon)
    allow(log.job, f7, Proved(proof="leak_watch", went="badly"), soon)
    allow(log.job, f7, Waived(owed="proof", subject="leak_watch", reason="tap broken"), soon)
    log.do(UNPLUG, PLUG_IN)
    assert log.job.clock_of("leak_watch") is None
    log.refused(well, "Its clock was not started")
    log.do(begun, well)


def test_a_new_part_is_not_fitted_before_the_old_one_is_out(log):
    log.do(UNPLUG, DRAIN, *off("filter_flap", "filter_cap"))
    fitted = Repaired(repair="drain_pump.part")
    log.refused(fitted, "The old one is not out yet. First: take the drain pump out")
    log.do(*PUMP_OUT, fitted)


def test_no_more_fasteners_are_left_over_than_there_are(log):
    log.do(UNPLUG, *off("top"))
    log.refused(PutBack(operation="top", left=200), "Found 200 left over, expected at most the 2")
    log.do(PutBack(operation="top", left=1))


HELD = Limits(name="after repair", earth_ohm=0.3, insulation_mohm=1, leakage_ma=3.5)


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"insulation_mohm": 40}, "Type the earth in ohm"),
        ({"earth_ohm": 0.1}, "Type the insulation in megohm, or say that there is no instrument"),
        (
            {"insulation_mohm": 0.3, "earth_ohm": 0.1, "limits": HELD},
            "Found 0.3 megohm, expected at least 1",
        ),
    ],
)
def test_an_electrical_proof_takes_its_value_and_judges_it(log, body, words):
    log.refused(Proved(proof="earth", went="well", **body), "Pull the plug")
    log.do(UNPLUG)
    log.refused(Proved(proof="earth", went="well", **body), words)
    log.do(Proved(proof="earth", went="badly", insulation_mohm=0.3))
    log.do(Proved(proof="earth", went="well", insulation_mohm=40, earth_ohm=0.1))
    log.do(Proved(proof="earth", went="well", no_instrument=True))


def test_what_was_measured_and_what_was_not_is_told(f7):
    measured = Proved(proof="earth", went="well", insulation_mohm=40)
    assert told(f7, measured)[1] == "well, insulation 40 megohm"
    assert "no instrument" in told(f7, Proved(proof="earth", went="well", no_instrument=True))[1]
