"""The compiled model: states are distributions, rates follow age, causes raise results."""

import numpy as np
import pytest

from bottega.core.diagnosis.evidence import Evidence, answered
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.model import compile_model, prior


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


def test_states_are_distributions(f7):
    model = compile_model(f7)
    every = np.arange(len(model.sets))
    for e in range(len(model.effect_ids)):
        assert model.states(e, every).min() >= 0
        assert np.allclose(model.states(e, every).sum(axis=0), 1)


def test_age_raises_wear_and_lowers_early_failures(f7, engine):
    model = compile_model(f7)
    young, old = (model.by_fault(prior(model, age, engine)) for age in (1, 14))
    wear, early = model.fault_index("bearings_worn"), model.fault_index("transit_bolts_in")
    assert old[wear] / old[early] > 20 * young[wear] / young[early]


def test_a_cause_makes_its_result_likelier(f7, engine):
    model = compile_model(f7)
    before = prior(model, 8, engine)
    held = model.members(np.arange(len(model.sets)))
    seal, bearings = (
        held[:, model.fault_index("seal_leaking")],
        held[:, model.fault_index("bearings_worn")],
    )
    with_seal = float((before * seal * bearings).sum() / (before * seal).sum())
    assert with_seal > 5 * float(before @ bearings)
    streaks = Evidence((answered("a", f7.checks["look_relief"], "streaks", 0),))
    assert infer(model, before, streaks).fault_now()["bearings_worn"] > 1.5 * float(
        before @ bearings
    )
