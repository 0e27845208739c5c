"""The benches as commands: tables between fences for the page, and a clear word where an
installation has none."""

from typer.testing import CliRunner

from bottega.cli import app
from bottega.commands import terminal


def test_a_table_is_printed_between_fences(monkeypatch):
    monkeypatch.setattr("bottega.benchmark.walk.bench_walk", lambda *_: None)
    monkeypatch.setattr("bottega.benchmark.walk.walk_rows", lambda _: ("head", [("a", "1", "0")]))
    run = CliRunner().invoke(app, ["bench", "--markdown", "walk"])
    lines = run.stdout.strip().splitlines()
    assert (lines[0], lines[1], lines[-1]) == ("```", "head", "```")
    plain = CliRunner().invoke(app, ["bench", "walk"]).stdout.strip().splitlines()
    assert plain == lines[1:-1]


def test_an_installation_without_benches_says_where_they_are(monkeypatch):
    monkeypatch.setattr(terminal, "find_spec", lambda _: None)
    for words in (["bench", "walk"], ["library", "agree"]):
        run = CliRunner().invoke(app, words)
        assert run.exit_code == 1
        assert "expected a checkout" in run.stderr
