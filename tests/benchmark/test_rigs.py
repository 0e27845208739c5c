"""The bench of the rig keeps its balances."""

from bottega.benchmark.rigs import balances, bench_rig, rig_rows


def test_heat_and_water_are_kept_within_a_hundredth():
    heat, water = balances(3)
    assert heat < 0.01
    assert water < 0.01


def test_the_rigs_table_names_every_goal(monkeypatch):
    monkeypatch.setattr("bottega.benchmark.rigs.TIMED_S", 120.0)
    bench = bench_rig(1, 0, lambda line: None)
    assert bench.faults_injectable >= 120
    assert bench.checks - bench.checks_with_recipe <= 8
    assert bench.watts_over_va == 0
    assert bench.unread_parameters == 0
    assert bench.examples_held == bench.examples
    assert len(rig_rows(bench)[1]) == 8
