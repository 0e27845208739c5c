"""Properties of the posterior, and agreement with brute force to 1e-9."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.diagnosis.brute import posterior
from tests.core.diagnosis.small import random_evidence
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.courses import courses
from bottega.core.diagnosis.evidence import Evidence, Removal, answered, read_code, said
from bottega.core.diagnosis.explain import leave_one_out
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior

seeds = st.integers(0, 10_000)


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


@given(seed=seeds, count=st.integers(0, 7), repairs=st.integers(0, 2), age=st.floats(0, 20))
@settings(max_examples=60)
def test_it_agrees_with_brute_force(engine, seed, count, repairs, age):
    machine = random_machine(seed, faults=5)
    evidence = random_evidence(machine, seed + 1, count, repairs)
    model = model_of(machine)
    belief = infer(model, prior(model, age, engine), evidence)
    was, now = posterior(machine, age, engine, evidence)
    assert belief.fault_was() == pytest.approx(was, abs=1e-9)
    assert belief.fault_now() == pytest.approx(now, abs=1e-9)


@given(seed=seeds, count=st.integers(1, 9), repairs=st.integers(0, 2), times=st.integers(0, 3))
@settings(max_examples=80)
def test_it_agrees_with_brute_force_where_faults_come_and_go(engine, seed, count, repairs, times):
    """Occasions, provocations, repairs, causes along a chain, steady effects beside coming ones."""
    machine = random_machine(seed, faults=5, coming=0.6)
    evidence = random_evidence(machine, seed + 1, count, repairs, occasions=times)
    model = model_of(machine)
    before = prior(model, 7, engine)
    belief = infer(model, before, evidence)
    was, now = posterior(machine, 7, engine, evidence)
    assert belief.fault_was() == pytest.approx(was, abs=1e-9)
    assert belief.fault_now() == pytest.approx(now, abs=1e-9)
    out = leave_one_out(model, before, evidence)
    for n, gone in enumerate(evidence.findings):
        rest = infer(model, before, evidence.without(gone))
        assert out.faults[n] == pytest.approx(model.by_fault(rest.was), abs=1e-9)
        assert out.log_evidence[n] == pytest.approx(rest.log_evidence, abs=1e-9)


@pytest.mark.parametrize("seed", range(4))
def test_it_agrees_with_brute_force_after_eight_repairs(engine, seed):
    machine = random_machine(seed, faults=4)
    evidence = random_evidence(machine, seed, 12, repairs=8)
    model = model_of(machine)
    belief = infer(model, prior(model, 9, engine), evidence)
    was, now = posterior(machine, 9, engine, evidence)
    assert belief.fault_was() == pytest.approx(was, abs=1e-9)
    assert belief.fault_now() == pytest.approx(now, abs=1e-9)


def test_twenty_repairs_are_few_more_courses_than_sets(f7):
    """Every way they can have worked would be a million; a repair parts only what it touches."""
    model = model_of(f7)
    made = [f7.repairs[name] for name in list(f7.repairs)[:40:2]]
    removals = tuple(
        Removal(n, frozenset(fault for fault, _ in repair.covers), 0.9)
        for n, repair in enumerate(made)
    )
    assert len(removals) == 20
    course = courses(model, removals)
    assert len(course.origin) < 3 * len(model.sets)
    assert course.at_call(course.chance) == pytest.approx(np.ones(len(model.sets)))


@given(seed=seeds, count=st.integers(0, 8), repairs=st.integers(0, 2))
@settings(max_examples=40)
def test_beliefs_sum_to_one_and_order_does_not_matter(engine, seed, count, repairs):
    machine = random_machine(seed, faults=7)
    evidence = random_evidence(machine, seed, count, repairs)
    model = model_of(machine)
    before = prior(model, 6, engine)
    belief = infer(model, before, evidence)
    backwards = infer(model, before, Evidence(evidence.findings[::-1], evidence.removals[::-1]))
    assert before.sum() == pytest.approx(1, abs=1e-12)
    assert belief.was.sum() == pytest.approx(1, abs=1e-9)
    assert belief.now.sum() == pytest.approx(1, abs=1e-9)
    assert np.allclose(belief.now, backwards.now, atol=1e-12)


def test_a_duplicate_report_adds_almost_nothing(f7, engine):
    model = model_of(f7)
    before = prior(model, 7, engine)
    once = Evidence((answered("a", f7.checks["hear_draining"], "hums", 0),))
    twice = Evidence((*once.findings, answered("b", f7.checks["hear_draining"], "hums", 0)))
    alone, again = (infer(model, before, e).fault_now()["rotor_slips"] for e in (once, twice))
    fresh = infer(model, before, Evidence(())).fault_now()["rotor_slips"]
    assert alone > 5 * fresh
    assert abs(again - alone) < 0.05 * (alone - fresh)


def test_findings_of_one_effect_corroborate_instead_of_multiplying(f7, engine):
    """The customer, the code and the ear hear one slow drain: three words for one state, bounded by
    that state."""
    model = model_of(f7)
    before = prior(model, 7, engine)
    spoken = said("a", f7.complaints["says_water_stays"], 0)
    code = read_code("b", f7.codes["3-2"], True, 0, repeatability=engine.codes_repeatability)
    seen = answered("c", f7.checks["watch_emptying"], "none", 0)
    one = infer(model, before, Evidence((spoken,))).fault_now()["rotor_slips"]
    three = infer(model, before, Evidence((spoken, code, seen))).fault_now()["rotor_slips"]
    column = model.effect_index("drain_flow")
    known = before * model.seen_by_all(column, np.eye(model.table.shape[1])[2])
    bound = float(model.by_fault(known)[model.fault_index("rotor_slips")] / known.sum())
    assert one < three
    assert three == pytest.approx(bound, rel=0.05)


def test_a_good_coil_does_not_clear_the_pump_but_a_free_rotor_condemns_it(f7, engine):
    model = model_of(f7)
    before = prior(model, 7, engine)
    called = (
        said("a", f7.complaints["says_water_stays"], 0),
        said("b", f7.complaints["says_hums"], 0),
    )
    coil = answered("c", f7.checks["measure_pump_coil"], "in band", 0)
    rotor = answered("d", f7.checks["turn_rotor"], "free", 0)
    start = infer(model, before, Evidence(called))
    with_coil = infer(model, before, Evidence((*called, coil)))
    with_rotor = infer(model, before, Evidence((*called, coil, rotor)))
    assert with_coil.fault_now()["rotor_slips"] > 0.9 * start.fault_now()["rotor_slips"]
    assert with_coil.fault_now()["pump_coil_open"] < 0.1 * max(
        start.fault_now()["pump_coil_open"], 1e-6
    )
    assert with_rotor.fault_now()["rotor_slips"] > 0.95


def test_a_borderline_reading_spreads_over_its_outcomes(f7):
    check = f7.checks["measure_pump_coil"]
    sharp = answered("a", check, "in band", 0)
    soft = answered("a", check, "in band", 0, weights={"in band": 0.6, "open": 0.4})
    rows = {o.id: o.chances for o in check.outcomes}
    assert soft.likelihood == pytest.approx(
        [0.6 * a + 0.4 * b for a, b in zip(rows["in band"], rows["open"], strict=True)]
    )
    assert replace(soft, likelihood=sharp.likelihood) == sharp
