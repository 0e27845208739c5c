"""Plots are written as their name says."""

import pytest

from bottega.commands.plots import NoSuchPlot, plot_calibration, plot_run
from bottega.rig.machine import machine_of
from bottega.rig.telemetry import sample


def test_plots_are_written_as_the_name_says(tmp_path, f7):
    machine, seen = machine_of(f7, "plot"), []
    machine.telemetry = lambda m: seen.append(sample(m))
    machine.run("drain")
    plot_run(seen, tmp_path / "run.svg", "run")
    plot_calibration([], tmp_path / "said.png", "said")
    assert (tmp_path / "run.svg").read_text().startswith("<?xml")
    assert (tmp_path / "said.png").read_bytes()[1:4] == b"PNG"
    with pytest.raises(NoSuchPlot, match=r"found 'run\.bmp'"):
        plot_run(seen, tmp_path / "run.bmp", "run")
