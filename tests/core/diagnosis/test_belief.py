"""What is read off a belief agrees with sums over its sets by loops; nothing is over certain."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.diagnosis.small import random_evidence
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior

seeds = st.integers(0, 10_000)


def believed(engine, seed, count=4, repairs=1):
    machine = random_machine(seed, faults=6)
    model = model_of(machine)
    evidence = random_evidence(machine, seed, count, repairs)
    return machine, infer(model, prior(model, 7, engine), evidence)


@given(seed=seeds, count=st.integers(0, 6), repairs=st.integers(0, 2))
@settings(max_examples=50)
def test_the_chance_of_any_agrees_with_loops(shelf, seed, count, repairs):
    machine, belief = believed(shelf.tables.engine, seed, count, repairs)
    sets = belief.likeliest_sets(len(belief.model.sets))
    assert sum(p for _, p in sets) == pytest.approx(1)
    for repair in machine.repairs.values():
        covers = dict(repair.covers)
        ends = sum(p * max([covers.get(f, 0.0) for f in held], default=0) for held, p in sets)
        assert belief.any_of(covers) == pytest.approx(ends, abs=1e-12)
        some = sum(p for held, p in sets if set(held) & set(covers))
        assert belief.any_of(dict.fromkeys(covers, 1.0)) == pytest.approx(some, abs=1e-12)
        assert belief.any_of(covers) <= some + 1e-12


@given(seed=seeds)
@settings(max_examples=30)
def test_any_of_lies_between_the_likeliest_and_the_sum(shelf, seed):
    _, belief = believed(shelf.tables.engine, seed)
    chances = belief.fault_now()
    some = belief.any_of(dict.fromkeys(chances, 1.0))
    assert max(chances.values()) - 1e-12 <= some <= min(1.0, sum(chances.values())) + 1e-12
    assert some == pytest.approx(1 - belief.healthy, abs=1e-9)
    assert belief.any_of({}) == 0


@given(seed=seeds)
@settings(max_examples=30)
def test_components_and_entropy_follow_from_the_sets(shelf, seed):
    machine, belief = believed(shelf.tables.engine, seed)
    of = {name: fault.component for name, fault in machine.faults.items()}
    for component, chance in belief.component_now().items():
        own = {fault: 1.0 for fault, home in of.items() if home == component}
        assert chance == pytest.approx(belief.any_of(own), abs=1e-9)
    assert belief.entropy_bits >= 0


@given(seed=st.integers(0, 500), count=st.integers(0, 5))
@settings(max_examples=25)
def test_shares_that_are_parted_are_of_disjoint_events(shelf, seed, count):
    """Against a plain sum over the sets, one by one."""
    machine = random_machine(seed, faults=6)
    model = model_of(machine)
    belief = infer(
        model, prior(model, 6, shelf.tables.engine), random_evidence(machine, seed, count)
    )
    groups = [list(model.fault_ids)[:2], [model.fault_ids[3]], [model.fault_ids[2]]]
    plain = [0.0, 0.0, 0.0]
    for held, p in belief.likeliest_sets(len(model.sets)):
        first = next((n for n, group in enumerate(groups) if set(group) & set(held)), None)
        if first is not None:
            plain[first] += p
    assert belief.parted(groups) == pytest.approx(plain, abs=1e-12)
    assert sum(plain) <= 1 - belief.healthy + 1e-12
