"""The benchmark: its figures are there, are sane, and follow from the seed."""

import json
from pathlib import Path

from typer.testing import CliRunner

from bottega.app.workshop import open_workshop
from bottega.benchmark import against, diagnosis
from bottega.benchmark.against import Against
from bottega.benchmark.against import as_table as against_table
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


def checkout(folder: Path, figures: str) -> Path:
    """Something that measures itself as a checkout does, and notes that it was asked."""
    package = folder / "src" / "bottega"
    package.mkdir(parents=True)
    (package / "__init__.py").touch()
    (package / "__main__.py").write_text(
        f"open({str(folder.parent / 'asked')!r}, 'a').write({folder.name!r} + ' ')\n{figures}\n"
    )
    return folder


def says(p95: float) -> str:
    bench = {"latency_ms": {"p50": p95 / 2, "p95": p95}, "load_s": 0.5, "memory_mb": 100.0}
    return f"print({json.dumps(bench)!r})"


def test_it_is_held_against_another_checkout_in_turn(tmp_path, monkeypatch):
    here, there = checkout(tmp_path / "here", says(10)), checkout(tmp_path / "there", says(40))
    monkeypatch.setattr(against, "HERE", here / "src")
    words = ["--json", "--against", str(there), "--rounds", "2"]
    run = CliRunner().invoke(app, ["bench", "diagnosis", *words])
    assert run.exit_code == 0, run.output
    both = Against(**json.loads(run.stdout[run.stdout.index("{") :]))
    assert (both.ratio.p95_ms, both.ratio.memory_mb) == (0.25, 1.0)
    assert (tmp_path / "asked").read_text() == "here there here there "
    assert "there 40.00 ms, ratio 0.25" in against_table(both)


def test_a_path_without_bottega_is_refused(tmp_path):
    run = CliRunner().invoke(app, ["bench", "diagnosis", "--against", str(tmp_path)])
    assert run.exit_code == 2
    assert "expected a checkout" in " ".join(run.output.replace("│", " ").split())


def test_a_checkout_whose_bench_falls_is_named(tmp_path, monkeypatch):
    monkeypatch.setattr(against, "HERE", checkout(tmp_path / "here", says(10)) / "src")
    fallen = checkout(tmp_path / "fallen", "raise SystemExit('no bench here')")
    run = CliRunner().invoke(app, ["bench", "diagnosis", "--against", str(fallen), "--jobs", "1"])
    assert run.exit_code == 2
    assert "no bench here" in " ".join(run.output.replace("│", " ").split())
