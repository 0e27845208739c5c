"""Which faults of a set act on an occasion: the ways are all there are, each with its chance."""

from dataclasses import replace
from itertools import product
from math import prod

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.evidence import FRESH, Occasion, told_to_us
from bottega.core.diagnosis.occasions import acting, comes_with


def members(model, row):
    return [int(f) for f in model.sets[row] if f >= 0]


@pytest.mark.parametrize("seed", range(10))
def test_the_ways_are_all_there_are_each_with_its_chance(seed):
    model = model_of(random_machine(seed, faults=5, coming=0.6))
    provoked = sorted(model.machine.faults)[seed % 5]
    occasion, rows = Occasion(1, provokes=((provoked, 0.95),)), np.arange(len(model.sets))
    effects = list(range(len(model.effect_ids)))
    here = acting(model, rows, [occasion], effects)
    comes = model.comes[:, effects].any(axis=1)
    for row in rows:
        held, found = members(model, row), {}
        for way in here.ways:
            if way.weight[row] > 0:
                acts = frozenset(members(model, way.rows[row]))
                found[acts] = found.get(acts, 0.0) + float(way.weight[row])
        expected = {}
        for ones in product((True, False), repeat=len(held)):
            chances = []
            for fault, acts in zip(held, ones, strict=True):
                shows = float(model.shows[fault]) if comes[fault] else 1.0
                if comes[fault] and model.fault_ids[fault] == provoked:
                    shows = max(shows, 0.95)
                chances.append(shows if acts else 1 - shows)
            if prod(chances) > 0:
                acting_now = frozenset(f for f, acts in zip(held, ones, strict=True) if acts)
                expected[acting_now] = prod(chances)
        assert found == pytest.approx(expected)
        assert sum(found.values()) == pytest.approx(1)


def test_some_machines_have_what_comes_and_goes():
    """So that the test above means something."""
    models = [model_of(random_machine(seed, faults=5, coming=0.6)) for seed in range(10)]
    assert sum(bool(model.comes.any()) for model in models) >= 5


@pytest.mark.parametrize("seed", range(5))
def test_a_set_comes_and_goes_with_what_a_member_does(seed):
    model = model_of(random_machine(seed, faults=5, coming=0.6))
    rows = np.arange(len(model.sets))
    for e in range(len(model.effect_ids)):
        expected = [any(model.comes[f, e] for f in members(model, row)) for row in rows]
        assert comes_with(model, rows, e).tolist() == expected


def test_what_was_to_come_is_once_it_has_come_like_any_other_occasion():
    provoked = replace(FRESH, provokes=(("drain_hose_kinked", 0.9),))
    assert provoked.begun(3) == Occasion(3, provokes=provoked.provokes)
    assert told_to_us(1) not in (Occasion(1), Occasion(1, many=True), told_to_us(0), FRESH)
