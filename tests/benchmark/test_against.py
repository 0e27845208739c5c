"""One checkout held against another."""

import json
from pathlib import Path

from typer.testing import CliRunner

from bottega.benchmark import against
from bottega.benchmark.against import Against
from bottega.benchmark.against import as_table as against_table
from bottega.cli import app


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


def test_a_checkout_whose_bench_falls_is_named(tmp_path, monkeypatch):
    monkeypatch.setattr(against, "HERE", checkout(tmp_path / "here", says(10)) / "src")
    fallen = checkout(tmp_path / "fallen", "raise SystemExit('no bench here')")
    run = CliRunner().invoke(app, ["bench", "diagnosis", "--against", str(fallen), "--jobs", "1"])
    assert run.exit_code == 2
    assert "no bench here" in " ".join(run.output.replace("│", " ").split())
