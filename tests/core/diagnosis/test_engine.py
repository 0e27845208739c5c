"""The engine keeps what was asked last: bounded, one for all threads, and nothing after it is
cleared."""

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from bottega.core.diagnosis.engine import MODELS_KEPT, Engine
from bottega.core.diagnosis.evidence import Evidence, answered
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior


@pytest.fixture(scope="module")
def beliefs(shelf):
    """Ask an engine for the belief after each outcome of one check, of every archetype."""

    def ask(engine: Engine) -> list[np.ndarray]:
        found = []
        for name in shelf.archetypes:
            model = engine.model(shelf.machine(name))
            check = next(iter(model.machine.checks.values()))
            before = prior(model, 7.0, shelf.tables.engine)
            for outcome in check.outcomes:
                told = Evidence((answered("x", check, outcome.id, 0),))
                found.append(infer(model, before, told).now)
        return found

    return ask


def test_an_engine_that_was_cleared_answers_the_same_from_the_first(beliefs, shelf):
    engine = Engine()
    first, model = beliefs(engine), engine.model(shelf.machine("FB"))
    assert engine.model(shelf.machine("FB")) is model
    engine.clear()
    assert engine.answers.counts() == {}
    assert engine.model(shelf.machine("FB")) is not model
    for was, now in zip(first, beliefs(engine), strict=True):
        assert np.array_equal(was, now)


def test_many_threads_get_the_same_answers(beliefs):
    engine = Engine()
    alone = beliefs(Engine())
    with ThreadPoolExecutor(6) as threads:
        for found in threads.map(lambda _: beliefs(engine), range(6)):
            assert all(np.array_equal(a, b) for a, b in zip(alone, found, strict=True))


def test_what_is_kept_is_bounded(shelf, beliefs):
    engine = Engine()
    beliefs(engine)
    counts = engine.answers.counts()
    assert counts
    assert max(counts.values()) <= 32
    assert len(engine._models) <= MODELS_KEPT
