"""Plots as files: what was recorded of a run, and how often a fleet's first repairs were right."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from bottega.app.rig.worth import SaidShare
from bottega.rig.telemetry import Sample

if TYPE_CHECKING:
    from matplotlib.figure import Figure

KINDS = (".png", ".svg")
LINES = (
    ("level_l", "water, l"),
    ("water_c", "water, °C"),
    ("drum_rpm", "drum, rpm"),
    ("watts", "power, W"),
)


class NoSuchPlot(ValueError):
    """A file that is neither a PNG nor an SVG, or an installation that draws no plots."""


def refuse_other_files(path: Path) -> None:
    """Raise NoSuchPlot for a file whose name ends neither in .png nor in .svg."""
    if path.suffix.lower() not in KINDS:
        raise NoSuchPlot(f"found '{path.name}', expected a name that ends in {' or '.join(KINDS)}")


def _figure(width: float, height: float) -> "Figure":
    """Return an empty figure, its sides in inches. Raises NoSuchPlot where nothing can draw."""
    try:
        from matplotlib.figure import Figure
    except ImportError as error:
        raise NoSuchPlot(
            "found no matplotlib, expected the extra \"plots\": pip install 'bottega[plots]'"
        ) from error
    return Figure(figsize=(width, height), layout="constrained")


def plot_run(samples: Sequence[Sample], path: Path, title: str) -> None:
    """Write what was recorded of a run as a plot of four lines over minutes. Raises NoSuchPlot,
    and OSError where there is no room."""
    refuse_other_files(path)
    figure = _figure(9, 7)
    axes = figure.subplots(len(LINES), 1, sharex=True)
    minutes = [sample.seconds / 60 for sample in samples]
    for axis, (field, words) in zip(axes, LINES, strict=True):
        axis.plot(
            minutes, [getattr(sample, field) for sample in samples], color="#1f6673", linewidth=1
        )
        axis.set_ylabel(words)
        axis.set_ylim(bottom=0)
    axes[-1].set_xlabel("minutes")
    figure.suptitle(title)
    figure.savefig(path)


def plot_calibration(said: Sequence[SaidShare], path: Path, title: str) -> None:
    """Write how often a first repair was right over how sure it was said to be. Raises
    NoSuchPlot, and OSError."""
    refuse_other_files(path)
    figure = _figure(6, 6)
    axis = figure.subplots()
    axis.plot([0, 1], [0, 1], color="#888888", linewidth=1, linestyle="dashed")
    axis.scatter(
        [one.said for one in said],
        [one.true for one in said],
        s=[10 + 3 * one.jobs for one in said],
        color="#b3541e",
    )
    axis.set(xlim=(0, 1), ylim=(0, 1), xlabel="said to be right", ylabel="was right", title=title)
    figure.savefig(path)
