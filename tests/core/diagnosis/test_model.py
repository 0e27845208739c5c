"""The compiled model: states are distributions, rates follow age, causes raise results."""

from dataclasses import replace

import numpy as np
import pytest
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, answered
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior


@pytest.fixture(scope="module")
def machines(shelf):
    return [shelf.machine(name) for name in shelf.archetypes]


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


def states_of(model, e, rows):
    """P(state | set) of one effect for the sets in ``rows``."""
    return model.distributions(e)[model.places(np.array([e]), rows)[0]]


def test_states_are_distributions(f7):
    model = model_of(f7)
    every = np.arange(len(model.sets))
    for e in range(len(model.effect_ids)):
        states = states_of(model, e, every)
        assert states.min() >= 0
        assert np.allclose(states.sum(axis=1), 1)


def test_what_a_set_does_is_the_worst_its_faults_and_the_background_bring(machines):
    """Worked out by hand for every set of the effects with the most of them, and some of others:
    P(no worse than k) is the product of what each brings."""
    beyond_a_byte = 0
    for machine in machines:
        model = model_of(machine)
        several = np.argsort(np.diff(model.first))[[-1, -2, -9, len(model.effect_ids) // 2]]
        for e in several.tolist():
            name = model.effect_ids[e]
            background = np.cumsum(machine.effects[name].background)
            rows = np.arange(0, len(model.sets), 7)
            states = states_of(model, e, rows)
            beyond_a_byte += int(model.places(np.array([e]), rows).max() > 255)
            for row, found in zip(rows.tolist(), np.cumsum(states, axis=1), strict=True):
                members = (model.fault_ids[f] for f in model.sets[row].tolist() if f >= 0)
                own = [machine.faults[f].effects for f in members]
                brought = [np.cumsum(effects[name]) for effects in own if name in effects]
                below = np.prod([background, *brought], axis=0)
                assert found[: len(below)] == pytest.approx(below, abs=1e-9), (name, row)
    assert beyond_a_byte > len(machines)


def test_age_raises_wear_and_lowers_early_failures(f7, engine):
    model = model_of(f7)
    young, old = (model.by_fault(prior(model, age, engine)) for age in (1, 14))
    wear, early = model.fault_index("bearings_worn"), model.fault_index("transit_bolts_in")
    assert old[wear] / old[early] > 20 * young[wear] / young[early]


def test_a_cause_is_no_likelier_for_what_it_can_bring_about(f7, engine):
    """A fault that can cause another has the odds of its own rate: with the result or without it,
    the ways add up to one, but for sets of three that are left out. Held against the same machine
    in which nothing causes anything."""
    alone = replace(f7, faults={k: replace(v, causes={}) for k, v in f7.faults.items()})
    model, plain = model_of(f7), model_of(alone)
    caused = {result for fault in f7.faults.values() for result in fault.causes}
    roots = [k for k, v in f7.faults.items() if v.causes and k not in caused]
    assert len(roots) > 3
    with_causes, without = (m.by_fault(prior(m, 8, engine)) for m in (model, plain))
    quiet = next(k for k, v in f7.faults.items() if not v.causes and k not in caused)
    q = model.fault_index(quiet)
    for name in roots:
        f = model.fault_index(name)
        ratio = (with_causes[f] / with_causes[q]) / (without[f] / without[q])
        assert ratio == pytest.approx(1, abs=0.1), name


def test_a_cause_makes_its_result_likelier(f7, engine):
    model = model_of(f7)
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
