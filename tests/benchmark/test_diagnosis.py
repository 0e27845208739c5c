"""The benchmark: its figures are there, are sane, and follow from the seed."""

import json

from typer.testing import CliRunner

from bottega.benchmark.diagnosis import DiagnosisBench, as_table
from bottega.cli import app


def test_the_same_seed_gives_the_same_ratios_and_the_table_shows_them():
    runs = [
        CliRunner().invoke(
            app, ["bench", "diagnosis", "--json", "--jobs", "1", "--puzzles", "1", "--seed", "5"]
        )
        for _ in (1, 2)
    ]
    assert [run.exit_code for run in runs] == [0, 0]
    first, second = (json.loads(run.stdout) for run in runs)
    assert first["optimum_ratio"] == second["optimum_ratio"]
    assert first["optimum_ratio"]["cases"] == 2
    assert (
        0 < first["latency_ms"]["p50"] <= first["latency_ms"]["p95"] <= first["latency_ms"]["p99"]
    )
    bench = DiagnosisBench(**first)
    assert bench.answers > bench.archetypes == 8
    assert f"{bench.optimum_ratio.mean:.4f}" in as_table(bench)
