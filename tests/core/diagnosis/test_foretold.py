"""What the repeat of a check is foretold to say after its part was changed."""

from tests.core.job.log import Log
from tests.engine import model_of

from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.plan import previews
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import Checked, Repaired
from bottega.core.job.fold import fold


def foretold(shelf, machine, check, *bodies):
    """Return what a check is foretold to say after these were noted, by outcome."""
    log = Log(machine, power="off", water="out")
    for body in bodies:
        log._append(body)
    job = fold(log.events, machine.charge is not None)
    model, engine = model_of(machine), shelf.tables.engine
    found = evidence_of(job, machine, shelf.tables)
    belief = infer(model, prior(model, 7, engine), found)
    ((told, _),) = previews(belief, found, job.state, [machine.checks[check]], engine=engine)
    return {outcome.outcome: outcome.chance for outcome in told}


SLIPS = Checked(check="turn_rotor", outcome="free")


def test_a_new_pump_is_foretold_to_step_and_not_to_slip_as_the_old_one_did(shelf, f7):
    told = foretold(shelf, f7, "turn_rotor", SLIPS, Repaired(repair="drain_pump.part"))
    assert told["steps"] > 0.9
    assert told["free"] < 0.1


def test_a_new_part_whose_repeat_fails_is_foretold_to_fail_again(shelf, f7):
    told = foretold(shelf, f7, "turn_rotor", SLIPS, Repaired(repair="drain_pump.part"), SLIPS)
    assert told["free"] > 0.9


def test_what_was_not_touched_is_foretold_to_say_the_same_again(shelf, f7):
    told = foretold(shelf, f7, "turn_rotor", SLIPS, Repaired(repair="belt.part"))
    assert told["free"] > 0.9
