"""The panel's benchmark: its figures follow from the seed and stand in the table."""

import json

from typer.testing import CliRunner

from bottega.benchmark.panel import PanelBench, panel_rows
from bottega.cli import app


def test_the_command_prints_figures_that_follow_from_the_seed():
    command = ["bench", "panel", "--json", "--people", "1", "--seed", "3"]
    runs = [json.loads(CliRunner().invoke(app, command).stdout) for _ in range(2)]
    first, second = ({**run, "decode_ms": 0} for run in runs)
    assert first == second
    assert set(first["ways"].values()) == {1.0}
    assert len(first["ways"]) == 8
    assert first["right_after_one"] < first["right_after_three"] <= 1
    bench = PanelBench(**runs[0])
    head, rows = panel_rows(bench)
    assert "seed 3" in head
    assert rows[1][1] == f"{bench.right_after_three:.1%}"
