"""On the phone: what parts what sounds alike is asked before detergent and taps, and weighs."""

import pytest
from tests.app.call.test_loading import called
from tests.core.job.test_rules import KINDS

from bottega.app.job.answer import questions
from bottega.core.diagnosis.evidence import Evidence, answered, told_to_us
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior

PARTING = {
    "ask_water_in",
    "ask_draining",
    "ask_turning",
    "ask_how_often",
    "ask_stops_in",
    "ask_since",
    "ask_changed",
}
"""Does water stand in it, does it drain, does it turn, every time or now and then, in which phase,
since when, what changed."""
ALSO = {"ask_spinning", "ask_filling", "ask_warm", "ask_when"}
"""The other functions, asked for alike."""
USE = {"ask_dose", "ask_load", "ask_tap"}


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("said", ["says_water_stays", "says_no_spin", "says_stops"])
def test_what_sounds_alike_is_parted_before_the_way_it_is_used(workshop, kind, said):
    answer = called(workshop, kind, (said,))
    asked = [step.check.id for step in questions(answer)]
    assert asked[0] in PARTING | ALSO
    assert len(set(asked[:3]) & (PARTING | ALSO)) >= 2
    assert not set(asked[:2]) & USE


@pytest.mark.parametrize("kind", KINDS)
def test_every_such_question_can_be_asked_and_its_answer_is_a_finding(workshop, kind):
    answer = called(workshop, kind, ())
    machine, model = answer.machine, answer.belief.model
    before = prior(model, 9, workshop.shelf.tables.engine)
    for name in sorted(PARTING):
        check = machine.checks[name]
        assert check.who == "customer"
        moved = []
        for outcome in check.outcomes:
            finding = answered("x", check, outcome.id, 0).on(told_to_us(0))
            after = infer(model, before, Evidence((finding,))).fault_now()
            moved += [abs(after[f] - p) for f, p in answer.belief.fault_now().items()]
        assert max(moved) > 0.01, name
