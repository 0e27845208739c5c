"""What checks would answer: the same as the engine finds when they are answered so."""

from dataclasses import replace
from math import exp

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.diagnosis.small import random_evidence
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.answers_ahead import Outlook, occasion_of
from bottega.core.diagnosis.evidence import FRESH, Occasion, Source, answered
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.machine.state import MachineState


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


def outlook_on(model, belief, evidence, engine):
    rows = np.arange(len(model.sets))
    return Outlook(model, rows, belief.now, evidence, MachineState(), engine)


@given(seed=st.integers(0, 5000), count=st.integers(0, 6), times=st.integers(0, 2))
@settings(max_examples=50)
def test_chances_are_those_of_the_answers_in_the_engine(engine, seed, count, times):
    """P(answer | all that was found) by the outlook and by the evidence with and without it."""
    machine = random_machine(seed, faults=4, coming=0.6)
    model = model_of(machine)
    before = prior(model, 7, engine)
    check = machine.checks["k0"]
    made = random_evidence(machine, seed + 1, count, occasions=times)
    kept = tuple(f for f in made.findings if f.source != Source("check", check.id))
    evidence = replace(made, findings=kept, present=Occasion(1))
    belief = infer(model, before, evidence)
    chances, _ = outlook_on(model, belief, evidence, engine).chances([check])
    for outcome, row in zip(check.outcomes, chances, strict=True):
        found = replace(answered("new", check, outcome.id, 0), occasion=evidence.present)
        with_it = infer(model, before, replace(evidence, findings=(*kept, found)))
        ratio = exp(with_it.log_evidence - belief.log_evidence)
        assert float(row @ belief.now) == pytest.approx(ratio, abs=2e-3 if times else 1e-9)


def test_plugging_in_begins_another_occasion_and_provoking_too(shelf, engine):
    machine = random_machine(3, faults=4, coming=1.0)
    model = model_of(machine)
    evidence = random_evidence(machine, 1, 2)
    stands = (evidence.present, MachineState(power="off"), 0)
    check = machine.checks["k0"]
    live = replace(check, needs=check.needs.model_copy(update={"power": "on"}))
    assert occasion_of(check, *stands) == evidence.present
    assert occasion_of(live, *stands) == FRESH
    assert occasion_of(replace(check, who="customer"), *stands).many
    pushed = replace(check, provokes=(("f0", 0.9),))
    assert occasion_of(pushed, *stands).provokes == (("f0", 0.9),)
    fault = machine.faults["f0"]
    effect = next(e for e in fault.effects if fault.comes(e))
    reads = next(c for c in machine.checks.values() if c.effect == effect)
    row = np.array([model.fault_index("f0") + 1])
    calm = Outlook(model, row, np.ones(1), replace(evidence, findings=()), MachineState(), engine)
    plain, _ = calm.chances([reads])
    roused, _ = calm.chances([replace(reads, provokes=(("f0", 1.0),))])
    background = np.array(machine.effects[effect].background)
    worst_of_both = np.cumsum(fault.effects[effect]) * np.cumsum(background)
    acting = np.diff(worst_of_both, prepend=0.0)
    assert fault.shows < 1
    for n, outcome in enumerate(reads.outcomes):
        chances = np.array(outcome.chances)
        shown, hidden = chances @ acting, chances @ background
        assert plain[n, 0] == pytest.approx(fault.shows * shown + (1 - fault.shows) * hidden)
        assert roused[n, 0] == pytest.approx(shown)
