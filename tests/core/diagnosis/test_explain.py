"""Why: leaving a finding out equals never having seen it; conflict; weights."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.diagnosis.small import random_evidence
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.evidence import Evidence, answered, said
from bottega.core.diagnosis.explain import conflict, leave_one_out, weights
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior

seeds = st.integers(0, 10_000)


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


@given(seed=seeds, count=st.integers(1, 7), repairs=st.integers(0, 1))
@settings(max_examples=40)
def test_leaving_one_out_equals_never_having_seen_it(engine, seed, count, repairs):
    machine = random_machine(seed, faults=6)
    evidence = random_evidence(machine, seed, count, repairs)
    model = model_of(machine)
    before = prior(model, 6, engine)
    out = leave_one_out(model, before, evidence)
    for n, finding in enumerate(evidence.findings):
        never = infer(model, before, evidence.without(finding))
        assert out.faults[n] == pytest.approx(model.by_fault(never.was), abs=1e-9)
        assert out.log_evidence[n] == pytest.approx(never.log_evidence, abs=1e-9)


@given(seed=seeds, count=st.integers(1, 4), repairs=st.integers(0, 1), times=st.integers(2, 3))
@settings(max_examples=25)
def test_what_was_found_again_alike_is_left_out_once_each(engine, seed, count, repairs, times):
    """Findings that differ by their entry alone share what they change."""
    machine = random_machine(seed, faults=6)
    found = random_evidence(machine, seed, count, repairs)
    again = [replace(f, event=f"{f.event}-{n}") for n in range(times) for f in found.findings]
    evidence, model = replace(found, findings=tuple(again)), model_of(machine)
    before = prior(model, 6, engine)
    out = leave_one_out(model, before, evidence)
    for n, finding in enumerate(evidence.findings):
        never = infer(model, before, evidence.without(finding))
        assert out.faults[n] == pytest.approx(model.by_fault(never.was), abs=1e-9)
        assert out.log_evidence[n] == pytest.approx(never.log_evidence, abs=1e-9)


def test_an_equal_job_answered_again_is_explained_alike(f7, engine):
    """Findings that are equal and not the same, as when a job is read from its log once more."""
    model = model_of(f7)
    before = prior(model, 7, engine)

    def told() -> Evidence:
        spoken = [said("a", f7.complaints[name], 0) for name in ("says_water_stays", "says_hums")]
        return Evidence((*spoken, answered("b", f7.checks["hear_draining"], "hums", 0)))

    first, again = (leave_one_out(model, before, told()) for _ in range(2))
    whole = infer(model, before, told())
    assert (first.faults == again.faults).all()
    assert (abs(first.log_evidence - whole.log_evidence) > 0.01).all()


def test_contradicting_readings_are_in_conflict_and_the_odd_one_is_named(f7, engine):
    model = model_of(f7)
    before = prior(model, 7, engine)
    told = [
        said("a", f7.complaints["says_water_stays"], 0),
        answered("b", f7.checks["hear_draining"], "hums", 0),
        answered("c", f7.checks["turn_rotor"], "free", 0),
        answered("d", f7.checks["watch_emptying"], "normal", 0),
    ]
    evidence = Evidence(tuple(told))
    belief = infer(model, before, evidence)
    found = conflict(model, before, evidence, belief, out=leave_one_out(model, before, evidence))
    assert found.odd is not None
    assert found.odd.source.subject == "watch_emptying"
    agreeing = Evidence(tuple(told[:3]))
    calm = infer(model, before, agreeing)
    assert (
        conflict(model, before, agreeing, calm, out=leave_one_out(model, before, agreeing)).odd
        is None
    )


@given(seed=seeds, count=st.integers(1, 6), times=st.integers(0, 3))
@settings(max_examples=40)
def test_the_conflict_is_that_of_each_finding_alone_against_all(engine, seed, count, times):
    """Jensen's measure with every chance taken from a belief of its own."""
    machine = random_machine(seed, faults=5, coming=0.6)
    evidence = random_evidence(machine, seed, count, 0, occasions=times)
    model = model_of(machine)
    before = prior(model, 6, engine)
    belief = infer(model, before, evidence)
    alone = sum(infer(model, before, Evidence((f,))).log_evidence for f in evidence.findings)
    found = conflict(model, before, evidence, belief, out=leave_one_out(model, before, evidence))
    assert found.amount == pytest.approx(alone - belief.log_evidence, abs=1e-9)


def test_weights_point_the_right_way(f7, engine):
    model = model_of(f7)
    before = prior(model, 7, engine)
    evidence = Evidence(
        (
            said("a", f7.complaints["says_water_stays"], 0),
            answered("b", f7.checks["open_filter"], "clear", 0),
            answered("c", f7.checks["turn_rotor"], "free", 0),
        )
    )
    belief = infer(model, before, evidence)
    out = leave_one_out(model, before, evidence)
    by_source = {
        w.finding.source.subject: w.decibans for w in weights(evidence, belief, out, "rotor_slips")
    }
    against = {
        w.finding.source.subject: w.decibans
        for w in weights(evidence, belief, out, "filter_blocked")
    }
    assert by_source["turn_rotor"] > 15
    assert against["open_filter"] < -8
