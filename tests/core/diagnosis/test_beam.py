"""The beam over the likeliest sets, and what a belief becomes by each answer: Bayes' rule, and the
mean of what will be believed is what is believed."""

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.beam import beam_of, branch, outcomes_of
from bottega.core.diagnosis.prior import prior


@pytest.fixture
def model():
    return model_of(random_machine(7, faults=6))


@pytest.mark.parametrize(("mass", "size"), [(0.9, 500), (0.999, 500), (1.0, 5), (0.5, 1)])
def test_the_likeliest_are_in_it_and_no_more_than_wanted(shelf, model, mass, size):
    now = prior(model, 9, shelf.tables.engine)
    beam = beam_of(model, now, mass, size)
    held = np.sort(now)[::-1][: len(beam.rows)]
    assert now[beam.rows].tolist() == pytest.approx(held.tolist())
    assert beam.belief.sum() == pytest.approx(1)
    assert len(beam.rows) <= size
    assert len(beam.rows) == size or now[beam.rows].sum() >= mass - 1e-12
    assert len(beam.rows) == 1 or now[beam.rows[:-1]].sum() < mass


def test_what_will_be_believed_is_on_average_what_is_believed(shelf, model):
    now = prior(model, 9, shelf.tables.engine)
    beam = beam_of(model, now, 0.99, 100)
    checks = [model.machine.checks[name] for name in sorted(model.machine.checks)]
    outcomes, owner = outcomes_of(model, checks)
    rng = np.random.default_rng(1)
    chances = rng.random((len(outcomes), len(beam.rows)))
    for c in range(len(checks)):
        chances[owner == c] /= chances[owner == c].sum(axis=0)
    branches = branch(beam.belief, chances, owner)
    assert branches.after.sum(axis=1) == pytest.approx(1)
    for n in range(len(beam.rows)):
        mean = branches.mean(branches.after[:, n], len(checks))
        assert mean == pytest.approx(np.full(len(checks), beam.belief[n]))
    some = branches.only(np.array([0, len(checks) - 1]))
    assert set(some.owner.tolist()) == {0, 1}
    assert some.chance[some.owner == 0].tolist() == branches.chance[owner == 0].tolist()
