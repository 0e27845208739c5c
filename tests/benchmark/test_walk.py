"""Walks over all commands: nothing that may never be is let through, and nothing offered is
refused."""

import pytest

from bottega.benchmark import walk
from bottega.benchmark.harm import harm_of
from bottega.benchmark.walk import bench_walk, walk_rows
from bottega.core.job.kinds import possible

TROUBLE = ("forbidden", "offered_refused", "stuck", "server_errors")


@pytest.mark.parametrize("seed", [1, 2])
def test_walks_on_every_kind_find_no_trouble(seed):
    bench = bench_walk(seed, 3_000, 2)
    assert {name: getattr(bench, name) for name in TROUBLE} == dict.fromkeys(TROUBLE, 0), (
        bench.examples
    )
    assert (bench.kinds, bench.commands >= 3_000) == (8, True)
    assert bench.states > 500
    assert bench.accepted > bench.commands / 3


def test_without_the_rules_the_same_walks_find_what_may_never_be(monkeypatch):
    """So the sentences of harm are no echo of the rules, and they can be broken."""
    monkeypatch.setattr(walk, "allow", lambda job, machine, body, law: possible(job, machine, body))
    bench = bench_walk(1, 3_000, 2)
    assert bench.forbidden > 10
    assert bench.examples["forbidden"]
    assert ("taken, and may never be", str(bench.forbidden), "0") in walk_rows(bench)[1]


def test_an_error_that_is_no_refusal_is_counted(monkeypatch):
    def fails(job, machine, body, law):
        raise KeyError("lost")

    monkeypatch.setattr(walk, "allow", fails)
    bench = bench_walk(1, 100, 1)
    assert bench.server_errors == bench.commands
    assert bench.accepted == 0


def test_what_was_so_before_is_not_the_doing_of_a_command(monkeypatch):
    """Whoever pulls the plug of a machine that lies down with water in it does no harm."""
    found = []
    kept = harm_of

    def heard(before, after, machine, body, danger):
        if before.state.posture == "tipped" and before.state.power == "on":
            found.append(kept(before, before, machine, body, danger))
        return kept(before, after, machine, body, danger)

    monkeypatch.setattr(walk, "harm_of", heard)
    monkeypatch.setattr(walk, "allow", lambda job, machine, body, law: possible(job, machine, body))
    bench_walk(3, 2_000, 2)
    assert found
    assert not any("tipped" in harm for harm in found)
