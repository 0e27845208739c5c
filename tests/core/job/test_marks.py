"""Marks on the drawing as findings: live, old, in the phase where they belong, or elsewhere."""

from typing import get_args

import pytest
from tests.core.job.log import Log
from tests.engine import model_of

from bottega.core.diagnosis.explain import leave_one_out, weights
from bottega.core.diagnosis.findings import evidence_of, marks_at
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import Marked


def weight(shelf, f7, **mark):
    """Return what a water mark at the pump weighs for a leaking pump, in decibans."""
    log = Log(f7).do(
        Marked(**{"what": "water", "at": "drain_pump", "phase": "drain", "age": "live", **mark})
    )
    model = model_of(f7)
    before, evidence = prior(model, 7, shelf.tables.engine), evidence_of(log.job, f7, shelf.tables)
    belief = infer(model, before, evidence)
    return sum(
        w.decibans
        for w in weights(evidence, belief, leave_one_out(model, before, evidence), "pump_leaks")
    )


def test_a_live_mark_speaks_louder_than_one_nobody_can_date_and_that_than_an_old_trail(shelf, f7):
    live, unsure, old = (weight(shelf, f7, age=age) for age in ("live", "unsure", "old"))
    assert live > unsure > old > 1


def test_a_mark_in_another_phase_speaks_more_softly(shelf, f7):
    assert weight(shelf, f7, phase="drain") > weight(shelf, f7, phase="heat") > 0
    assert weight(shelf, f7, phase="any") == pytest.approx(weight(shelf, f7, phase="drain"))


def test_a_mark_the_library_knows_nothing_of_is_kept_and_weighs_nothing(shelf, f7):
    assert marks_at(f7, "oil", "feet") == []
    log = Log(f7).do(Marked(what="oil", at="feet", phase="any", age="live", x=260.0, y=398.5))
    assert evidence_of(log.job, f7, shelf.tables).findings == ()
    assert log.job.live[-1].body.x == 260.0
    log.refused(Marked(what="oil", at="wings", phase="any", age="live"), "Found the part 'wings'")


def test_the_kinds_an_event_takes_are_those_of_the_table(shelf):
    fields = Marked.model_fields
    assert set(get_args(fields["what"].annotation)) == set(shelf.tables.marks.kinds)
    assert set(get_args(fields["age"].annotation)) == set(shelf.tables.marks.ages)


def test_the_same_mark_twice_adds_almost_nothing(shelf, f7):
    model = model_of(f7)
    before = prior(model, 7, shelf.tables.engine)
    mark = Marked(what="water", at="drain_pump", phase="drain", age="live")
    chances = [
        infer(
            model, before, evidence_of(Log(f7).do(*[mark] * times).job, f7, shelf.tables)
        ).fault_now()["pump_leaks"]
        for times in (0, 1, 2)
    ]
    assert chances[2] - chances[1] < 0.1 * (chances[1] - chances[0])
