"""Machines with known faults played by every way of working: paired, paid, counted."""

import json
from collections import Counter
from dataclasses import replace
from math import log

import pytest
from tests.engine import model_of
from typer.testing import CliRunner

from bottega.app.job.answer import prices
from bottega.app.workshop import open_workshop
from bottega.benchmark.disturbed import disturbed
from bottega.benchmark.play import Play
from bottega.benchmark.policies import POLICIES
from bottega.benchmark.policy import PolicyBench, PolicyResult, summed
from bottega.benchmark.policy_table import as_table
from bottega.benchmark.truth import draw_world, only_use
from bottega.cli import app
from bottega.core.diagnosis.evidence import PAST, Occasion, watched
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.prior import prior
from bottega.core.shop import ShopSettings

AGE = 7.0


@pytest.fixture(scope="module")
def shop():
    return open_workshop(None)


def drawn_play(shop, machine, kind, seed):
    model, engine = model_of(machine), shop.shelf.tables.engine
    priors = {AGE: prior(model, AGE, engine)}
    world = draw_world(model, priors, engine, kind, seed=seed)
    money = prices(ShopSettings(), machine)
    return Play(world, model, priors[AGE], engine, shop.reaching(machine), money)


def test_a_machine_is_called_about_for_what_is_wrong_with_it(shop, machine):
    for seed in range(20):
        world = drawn_play(shop, machine, "two", str(seed)).world
        assert len(world.faults) == 2
        touched = {e for fault in world.faults for e in machine.faults[fault].effects}
        heard = {machine.complaints[name].effect for name in world.said}
        assert any(world.patient.states[effect] > 0 for effect in touched & heard)
        sound = drawn_play(shop, machine, "sound", str(seed)).world
        assert sound.said
        assert all(only_use(machine, fault) for fault in sound.faults)


def test_policies_are_paired(shop, machine):
    """The same machine, asked the same, answers each of them the same, whatever was asked first."""
    one, other = (drawn_play(shop, machine, "one", "pair") for _ in range(2))
    checks = list(machine.checks.values())[:30]
    assert one.world.faults == other.world.faults
    assert one.world.said == other.world.said
    told = {check.id: one.world.answer(check, one.present) for check in checks}
    assert {
        check.id: other.world.answer(check, other.present) for check in reversed(checks)
    } == told


def test_answers_come_as_often_as_the_library_says(shop, machine):
    fault = "belt_off"
    check = machine.checks["look_belt"]
    state = max(range(3), key=lambda k: machine.faults[fault].effects[check.effect][k])
    chances = {outcome.id: outcome.chances[state] for outcome in check.outcomes}
    seen, world = Counter(), drawn_play(shop, machine, "one", "again").world
    for seed in range(600):
        world = replace(world, seed=f"again{seed}", told={})
        world.patient = replace(world.patient, states={**world.patient.states, check.effect: state})
        seen[world.answer(check, PAST)] += 1
    for outcome, chance in chances.items():
        assert seen[outcome] / 600 == pytest.approx(chance, abs=0.06)


def test_whoever_called_about_a_fault_calls_about_it_again_until_it_is_gone(shop, machine):
    """What is to be noticed was noticed once; who washes on for weeks notices it again."""
    for seed in range(40):
        world = drawn_play(shop, machine, "one", f"still{seed}").world
        heard = {machine.complaints[name].effect for name in world.calls_again(0)}
        assert any(world.patient.states[effect] > 0 for effect in heard)
        while world.faults:
            world.repair(machine.repairs_of(world.faults[0])[0].id)
        assert world.calls_again(1) == ()


def test_nobody_hands_over_what_failed_in_two_runs(shop, machine, monkeypatch):
    """Whatever is believed of it, and whoever works on it."""
    monkeypatch.setattr(Belief, "healthy", 0.99)
    play, effect = drawn_play(shop, machine, "one", "twice"), machine.noticeable[0]
    states, engine = len(machine.effects[effect].states), play.engine
    plain = [policy for name, policy in POLICIES.items() if name != "bottega"]
    assert all(policy(play).what == "hand over" for policy in plain)
    for n in (1, 2):
        bad = watched("r", effect, states, True, epoch=0, engine=engine)
        play.findings.append(bad.on(Occasion(n)))
    assert all(policy(play).what in ("check", "repair") for policy in plain)


def test_what_is_disturbed_is_a_word_off_and_still_a_distribution(shop, machine):
    off = disturbed(machine, shop.shelf.tables.doubts, "x")
    moved = 0
    for name, fault in machine.faults.items():
        assert abs(log(off.faults[name].rate / fault.stated.rate)) == pytest.approx(0.5)
        for effect, chances in fault.stated.effects.items():
            there = off.faults[name].effects[effect]
            assert sum(there) == pytest.approx(1)
            assert min(there) >= 0
            moved += there != chances
    assert moved > len(machine.faults)


CALLS = {"one": 0.75, "two": 0.1, "sound": 0.15}


def result(**figures):
    usual = {"kind": "one", "right": True, "said": 0.9, "within": 3, "checks": 3}
    money = {"cost": 10.0, "all_in": 100.0, "gone": True, "parts": 1}
    return PolicyResult(**{**usual, **money, **figures})


def test_the_figures_are_those_of_the_results():
    plan = [result(), result(right=False, said=0.5, within=7, all_in=60.0, gone=False)]
    plan += [result(kind="two", all_in=80.0), result(kind="sound", parts=0, checks=4, all_in=40.0)]
    plain = [result(), result(), result(kind="two"), result(kind="sound")]
    bench = summed({"bottega": plan, "information": plain}, 4, 1, False, shares=CALLS)
    worth = bench.policies["bottega"]
    as_called = (0.75 / 2 + 0.1) / 0.85
    assert worth.first_right.mean == pytest.approx(as_called, abs=1e-3)
    assert worth.within_five.mean == pytest.approx(as_called, abs=1e-3)
    assert worth.two_fault_whole.mean == 1
    faulty, sound = 0.75 * 40 / 2 + 0.1 * 20, 0.15 * 60
    assert worth.all_in.mean == pytest.approx(100 - faulty - sound, abs=1e-3)
    assert worth.all_in_faulty.mean == pytest.approx(100 - faulty / 0.85, abs=1e-3)
    assert bench.saved.mean == pytest.approx((faulty + sound) / 100, abs=1e-3)
    assert bench.saved_faulty.mean == pytest.approx(faulty / 85, abs=1e-3)
    assert bench.saved.low <= bench.saved.mean <= bench.saved.high
    assert bench.sound.ended_well.mean == 1
    assert [(c.said, c.true, c.jobs) for c in bench.calibration] == [(0.5, 0, 1), (0.9, 1, 3)]
    assert bench.said_less_true == pytest.approx(
        0.75 * (0.9 + 0.5 - 1) / 2 + 0.1 * (0.9 - 1) + 0.15 * (0.9 - 1), abs=1e-3
    )


def test_the_command_prints_figures_that_follow_from_the_seed():
    chosen = ["--seed", "3", "--archetype", "TG"]
    runs = [
        CliRunner().invoke(app, ["bench", "policy", "--json", "--truths", "4", *chosen])
        for _ in range(2)
    ]
    assert [run.exit_code for run in runs] == [0, 0]
    first, second = (json.loads(run.stdout) for run in runs)
    assert first == second
    assert set(first["policies"]) == {"bottega", "information", "checklist", "frequency"}
    bench = PolicyBench(**first)
    shown = as_table(bench)
    assert f"{bench.policies['bottega'].first_right.mean:.1%}" in shown
    assert "found within five checks" in shown
    assert f"{bench.money.costs.mean:.1f} (" in shown
    assert 0 < bench.money.saves.mean < bench.money.costs.mean


def test_a_kind_nobody_knows_is_refused():
    run = CliRunner().invoke(app, ["bench", "policy", "--archetype", "XX"])
    assert run.exit_code == 2
    assert "found 'XX', expected one of FB, FD" in run.output
