"""What keeps people from what moves or is live is defeated dead, with a reason, tested after."""

import pytest

from bottega.core.job.events import StateChanged, Temporary
from bottega.core.job.proofs import owed

STRIKER = "a striker in the lock"
WHY = "the sheet asks for a slow spin with the lid up"
OFF, ON = (StateChanged(what="power", to=to) for to in ("off", "on"))


LIVE = ON.model_copy(update={"for_check": "watch_spin", "qualified": "Pia", "ticked": True})


def defeat(reason=WHY):
    return Temporary(what=STRIKER, interlock=True, reason=reason)


def dead(log):
    log.do(OFF, StateChanged(what="water", to="out"))
    if log.job.state.charge == "held":
        log.do(StateChanged(what="charge", to="none", measured_v=1))


def test_never_on_a_live_machine_and_never_without_a_reason(log):
    log.refused(defeat(), "Nothing that keeps people .* on a live machine")
    dead(log)
    log.refused(defeat(" "), "Say why")
    log.do(defeat())
    assert log.job.interlocks == (STRIKER,)


def test_it_is_not_plugged_in_open_and_the_lock_is_tested_after(log, f7):
    dead(log)
    log.do(defeat(), StateChanged(what="door", to="open"))
    log.refused(ON, "door or lid is not shut|declare the live test")
    log.refused(LIVE, "door or lid is not shut")
    log.do(StateChanged(what="door", to="shut"))
    log.refused(ON, "declare the live test with your name")
    log.do(LIVE)
    log.refused(StateChanged(what="door", to="open"), "never opened while it is live")
    subjects = {debt.subject: debt for debt in owed(log.job, f7)}
    assert not subjects[STRIKER].waivable
    log.do(Temporary(what=STRIKER, undone=True))
    subjects = {debt.subject: debt for debt in owed(log.job, f7)}
    assert STRIKER not in subjects
    assert not subjects["lock_test"].settled


@pytest.mark.parametrize(
    "what", ["striker in the lock", "the lid switch bridged", "a jumper across the door lock"]
)
def test_what_defeats_a_lock_by_its_words_is_not_noted_without_saying_so(log, what):
    log.refused(Temporary(what=what), "Tick that it does, and say why")
    log.do(Temporary(what="a block under the edge"))


def test_a_name_without_a_tick_declares_no_live_test(log):
    dead(log)
    log.do(defeat())
    log.refused(LIVE.model_copy(update={"ticked": False}), "declare the live test")
    log.refused(LIVE.model_copy(update={"qualified": " "}), "declare the live test")
    log.refused(LIVE.model_copy(update={"for_check": "turn_drum"}), "declare the live test")
