"""A run through every function in the plan: what it may show, and what having just run is worth."""

from dataclasses import replace
from itertools import product
from math import exp

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.core.diagnosis.small import random_evidence
from tests.core.diagnosis.test_answers_ahead import outlook_on
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.answers_ahead import may_differ
from bottega.core.diagnosis.beam import branch
from bottega.core.diagnosis.evidence import (
    Evidence,
    Occasion,
    Removal,
    Source,
    answered,
    read_code,
    shows_badly,
    watched,
)
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.library.machine_type import Complaint
from bottega.core.library.records import ComplaintRecord


@pytest.fixture(scope="module")
def engine(shelf):
    return shelf.tables.engine


def watching(seed, coming=0.0, faults=3, effects=3):
    """A small machine made up at random with a run that shows every effect of it."""
    machine = random_machine(seed, faults=faults, effects=effects, coming=coming)
    record = ComplaintRecord(says="", phase="any", reads="", words=("x",), reports={})
    phrases = {e: Complaint(e, record, e, (0.0,)) for e in machine.effects}
    run = replace(machine.checks["k0"], id="run", watches=True)
    run = replace(run, outcomes=run.outcomes[:2])
    return replace(machine, complaints=phrases, checks={**machine.checks, "run": run}), run


def well(machine, engine, occasion=2):
    """What such a run shows where all is well."""
    return [
        watched("r", name, len(e.states), False, epoch=0, engine=engine, look="in turn").on(
            Occasion(occasion)
        )
        for name, e in machine.effects.items()
    ]


@given(seed=st.integers(0, 5000), count=st.integers(0, 5))
@settings(max_examples=40)
def test_a_run_through_every_function_is_well_as_often_as_its_findings_say(engine, seed, count):
    """P(all well) by the outlook, and by the evidence with a finding for every function."""
    machine, run = watching(seed, 0.6, faults=4, effects=4)
    model = model_of(machine)
    before = prior(model, 7, engine)
    evidence = replace(random_evidence(machine, seed + 1, count), present=Occasion(1))
    kept = tuple(f for f in evidence.findings if f.source != Source("check", "run"))
    evidence = replace(evidence, findings=kept)
    belief = infer(model, before, evidence)
    chances, _ = outlook_on(model, belief, evidence, engine).chances([run])
    with_it = infer(model, before, replace(evidence, findings=(*kept, *well(machine, engine))))
    ratio = exp(with_it.log_evidence - belief.log_evidence)
    assert float(chances[0] @ belief.now) == pytest.approx(ratio, abs=1e-9)
    assert chances.sum(axis=0) == pytest.approx(np.ones(len(model.sets)))


@pytest.mark.parametrize("coming", [0.0, 1.0])
@pytest.mark.parametrize("seed", range(4))
def test_what_a_run_may_show_is_all_that_can_be_seen_function_by_function(engine, seed, coming):
    """P(nothing, this one alone, several | set) against every pattern of well and badly, each from
    the engine's own belief before and after such a run."""
    machine, run = watching(seed, coming)
    model = model_of(machine)
    before = prior(model, 7, engine)
    evidence = Evidence((), (), Occasion(1))
    belief = infer(model, before, evidence)
    outlook = outlook_on(model, belief, evidence, engine)
    chances, owner = outlook.apart(*outlook.chances([run]), [run])
    assert owner.tolist() == [0] * len(chances)
    assert chances.sum(axis=0) == pytest.approx(np.ones(len(model.sets)))
    effects, found = list(machine.effects), np.zeros(len(chances))
    for pattern in product((False, True), repeat=len(effects)):
        shown = [
            watched(
                "r", e, len(machine.effects[e].states), bad, epoch=0, engine=engine, look="in turn"
            ).on(Occasion(2))
            for e, bad in zip(effects, pattern, strict=True)
        ]
        after = infer(model, before, replace(evidence, findings=tuple(shown)))
        many = sum(pattern)
        row = 0 if many == 0 else 1 + pattern.index(True) if many == 1 else -1
        found[row] += np.exp(after.log_evidence - belief.log_evidence)
    assert chances @ belief.now == pytest.approx(found, abs=1e-9)


def test_each_function_in_turn_is_looked_at_as_closely_as_what_was_complained_of(engine):
    turn, asked, way = (
        shows_badly(3, look, engine) for look in ("in turn", "complained of", "by the way")
    )
    assert turn[1:] == asked[1:] > way[1:]
    assert turn[0] == way[0] < asked[0]


def test_a_second_run_tells_less_than_the_first(engine):
    machine, run = watching(1)
    model = model_of(machine)
    before = prior(model, 7, engine)

    def told(evidence):
        belief = infer(model, before, evidence)
        chances, owner = outlook_on(model, belief, evidence, engine).chances([run])
        after = branch(belief.now, chances, owner)
        return after.mean(np.abs(after.after - belief.now).sum(axis=1), 1)[0]

    first = well(machine, engine)
    assert told(Evidence(tuple(first), (), Occasion(3))) < 0.8 * told(Evidence((), (), Occasion(1)))


def test_it_has_just_run_only_while_nothing_else_was_found_and_nothing_showed(f7, engine):
    def run(bad):
        return [
            watched("r", e, len(f7.effects[e].states), e == bad, epoch=0, engine=engine).on(
                Occasion(2)
            )
            for e in f7.noticeable
        ]

    check = f7.checks["turn_rotor"]
    after = answered("c", check, check.outcomes[0].id, 0)
    assert Evidence(tuple(run(None))).just_ran
    assert not Evidence(tuple(run("spin"))).just_ran
    assert not Evidence((*run(None), after)).just_ran
    code = next(iter(f7.codes.values()))
    assert not Evidence((read_code("p", code, False, 0, repeatability=0.9),)).just_ran
    assert not Evidence(()).just_ran


def test_what_comes_and_goes_and_has_shown_itself_is_not_waited_for(shelf, f7):
    model = model_of(f7)
    coming = {model.effect_ids[e] for e in np.flatnonzero(model.comes.any(axis=0))}
    check = next(c for c in f7.checks.values() if c.effect in coming and c.who != "customer")
    well, badly = (
        answered("c", check, outcome.id, 0).on(Occasion(1))
        for outcome in (check.outcomes[0], check.outcomes[-1])
    )
    assert may_differ(check.id, model, Evidence((well,), (), Occasion(2)))
    assert not may_differ(check.id, model, Evidence((badly,), (), Occasion(2)))
    assert not may_differ(check.id, model, Evidence((well, badly), (), Occasion(3)))


def test_a_run_through_every_function_that_showed_something_is_not_made_again(f7, engine):
    model = model_of(f7)
    check = next(c for c in f7.checks.values() if c.watches)
    states = {e: len(f7.effects[e].states) for e in f7.noticeable}

    def ran(bad):
        return tuple(
            watched("r", e, n, e == bad, epoch=0, engine=engine).on(Occasion(2))
            for e, n in states.items()
        )

    assert may_differ(check.id, model, Evidence(ran(None), (), Occasion(3)))
    assert not may_differ(check.id, model, Evidence(ran("heat_rise"), (), Occasion(3)))
    assert not may_differ(check.id, model, Evidence(ran(None), (), Occasion(2)))


def test_a_machine_that_fails_in_two_runs_keeps_failing_until_it_is_repaired(f7, engine):
    def ran(occasion, bad, epoch=0):
        states = len(f7.effects["spin"].states)
        return watched("r", "spin", states, bad, epoch=epoch, engine=engine).on(Occasion(occasion))

    once, twice, well = ran(2, True), ran(3, True), ran(4, False)
    assert not Evidence((once,)).keeps_failing
    assert not Evidence((once, well)).keeps_failing
    assert Evidence((once, twice)).keeps_failing
    repaired = Removal(0, frozenset({"belt_off"}), 0.9)
    assert not Evidence((once, twice), (repaired,)).keeps_failing
    check = next(c for c in f7.checks.values() if c.effect == "spin" and c.who != "customer")

    def looked(outcome, occasion):
        return answered("c", check, check.outcomes[outcome].id, 0).on(Occasion(occasion))

    assert not Evidence((once, looked(0, 3), ran(4, True))).keeps_failing
    assert Evidence((once, looked(0, 3), ran(4, True), ran(5, True))).keeps_failing
    assert Evidence((once, looked(-1, 3), ran(4, True))).keeps_failing
