"""The benchmark: its figures are there, are sane, and follow from the seed."""

import json

from typer.testing import CliRunner

from bottega.app.workshop import open_workshop
from bottega.benchmark import diagnosis
from bottega.benchmark.diagnosis import DiagnosisBench, as_table
from bottega.cli import app


def test_the_same_seed_gives_the_same_ratios_and_the_table_shows_them(monkeypatch):
    monkeypatch.setattr(diagnosis, "CHECKS_A_JOB", 2)
    run = CliRunner().invoke(
        app, ["bench", "diagnosis", "--json", "--jobs", "1", "--puzzles", "1", "--seed", "5"]
    )
    assert run.exit_code == 0
    first = json.loads(run.stdout)
    workshop = open_workshop(None)
    machines = [workshop.shelf.machine(name) for name in workshop.shelf.archetypes]
    again = diagnosis.optimum_ratios(workshop, machines, 5, 1, prove_at=0.0)
    assert first["optimum_ratio"] == again.model_dump()
    assert again.cases == 2
    assert again.information > again.mean
    assert first["optimum_ratio_prove_first"] != first["optimum_ratio"]
    assert (
        0 < first["latency_ms"]["p50"] <= first["latency_ms"]["p95"] <= first["latency_ms"]["p99"]
    )
    bench = DiagnosisBench(**first)
    assert bench.answers > bench.archetypes == 8
    assert f"{bench.optimum_ratio.mean:.4f}" in as_table(bench)


def test_a_path_without_bottega_is_refused(tmp_path):
    run = CliRunner().invoke(app, ["bench", "diagnosis", "--against", str(tmp_path)])
    assert run.exit_code == 2
    assert "expected a checkout" in " ".join(run.output.replace("│", " ").split())
