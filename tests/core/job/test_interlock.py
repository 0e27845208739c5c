"""What keeps people from what moves or is live is defeated dead, with a reason, tested after."""

from bottega.core.job.events import StateChanged, Temporary
from bottega.core.job.proofs import owed

STRIKER = "a striker in the lock"
WHY = "the sheet asks for a slow spin with the lid up"
OFF, ON = (StateChanged(what="power", to=to) for to in ("off", "on"))


def defeat(reason=WHY):
    return Temporary(what=STRIKER, interlock=True, reason=reason)


def dead(log):
    log.do(OFF)
    if log.job.state.charge == "held":
        log.refused(defeat(), "charge go first")
        log.do(StateChanged(what="charge", to="none", waited_min=30))


def test_never_on_a_live_machine_and_never_without_a_reason(log):
    log.refused(defeat(), "Pull the plug")
    dead(log)
    log.refused(defeat(" "), "Say why")
    log.do(defeat())
    assert log.job.interlocks == (STRIKER,)


def test_it_is_not_plugged_in_open_and_the_lock_is_tested_after(log, f7):
    dead(log)
    log.do(defeat(), StateChanged(what="door", to="open"))
    log.refused(ON, "stands open")
    log.do(StateChanged(what="door", to="shut"), ON)
    subjects = {debt.subject: debt for debt in owed(log.job, f7)}
    assert not subjects[STRIKER].waivable
    log.do(Temporary(what=STRIKER, undone=True))
    subjects = {debt.subject: debt for debt in owed(log.job, f7)}
    assert STRIKER not in subjects
    assert not subjects["lock_test"].settled
