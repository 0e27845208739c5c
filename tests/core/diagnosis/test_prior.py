"""The prior of fault sets: a distribution, by rates, age, causes and a shop's own history, held
against the same said in plain Python."""

from dataclasses import replace
from math import prod

import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.prior import prior


def plainly(machine, model, age, engine, *, scale=None):
    """Return the prior set by set."""
    years = max(age, engine.youngest_years) / engine.reference_age_years
    weights = []
    for row in model.sets:
        members = [model.fault_ids[f] for f in row if f >= 0]
        rates = {}
        for name, fault in machine.faults.items():
            shape = engine.ageing[fault.ageing].shape
            rate = fault.rate * years ** (shape - 1) * engine.horizon_years
            rates[name] = min(rate * (scale or {}).get(name, 1.0), 0.999)
        if not members:
            weights.append(machine.no_fault_rate * engine.horizon_years)
            continue
        weight = 1.0
        for name in members:
            causes = [machine.faults[other].causes.get(name, 0.0) for other in members]
            weight *= 1 - (1 - rates[name]) * prod(1 - p for p in causes)
        for name in machine.faults:
            if name not in members:
                weight *= prod(1 - machine.faults[o].causes.get(name, 0.0) for o in members)
        weights.append(weight)
    whole = sum(weights)
    return [weight / whole for weight in weights]


@pytest.mark.parametrize("seed", range(12))
@pytest.mark.parametrize("age", [0.1, 4.0, 16.0])
def test_each_set_counts_as_plainly_said(shelf, seed, age):
    machine, engine = random_machine(seed, faults=5), shelf.tables.engine
    model = model_of(machine)
    scale = {min(machine.faults): 3.0} if seed % 2 else None
    found = prior(model, age, engine, scale)
    assert found.sum() == pytest.approx(1)
    assert found.tolist() == pytest.approx(plainly(machine, model, age, engine, scale=scale))


def test_an_age_nobody_knows_is_the_mean_over_ages(shelf):
    machine, engine = random_machine(3, faults=4), shelf.tables.engine
    model = model_of(machine)
    ages = engine.unknown_ages
    mean = sum(share * prior(model, age, engine) for age, share in ages.items())
    assert prior(model, None, engine) == pytest.approx(mean / sum(ages.values()))


def test_a_rarer_fault_is_rarer_in_every_company(shelf):
    machine, engine = random_machine(5, faults=4), shelf.tables.engine
    name = min(machine.faults)
    fault = replace(machine.faults[name], rate=machine.faults[name].rate / 10)
    rarer = replace(machine, faults={**machine.faults, name: fault})
    often, seldom = (model_of(one) for one in (machine, rarer))
    f = often.fault_index(name)
    before = often.by_fault(prior(often, 6, engine))[f]
    assert seldom.by_fault(prior(seldom, 6, engine))[f] < 0.5 * before
