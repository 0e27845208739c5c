"""Traces as lines of an SVG: what was recorded over time, and what a hand feels in a turn."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bottega.rig.telemetry import Sample

PLOT_WIDTH, PLOT_HEIGHT = 420.0, 64.0
PLOT_PAD = 6.0
LEAST_NM = 0.05
"""What fills the height of a turn at the least, in newton metre; chosen, so that nothing looks
like steps."""
TRACES = (
    ("level_l", "Water", "l"),
    ("water_c", "Temperature", "°C"),
    ("drum_rpm", "Drum", "rpm"),
    ("watts", "Power", "W"),
)
"""What is drawn: the sample's field, its name, its unit."""


@dataclass(frozen=True)
class PlotLine:
    """One line: its name, where it goes in drawing units, its last value and the top of its
    scale."""

    name: str
    unit: str
    points: str
    last: str
    top: str
    band: tuple[float, float] | None = None
    """Where its pass band lies, from the top and how high, in drawing units; None where it has
    none."""


Bands = Mapping[str, tuple[float, float]]
"""Pass bands by the sample's field, from and to in its unit."""


def traces(samples: Sequence[Sample], bands: Bands) -> list[PlotLine]:
    """Return the traces of what was recorded, each on its own scale from nought that holds its pass
    band too."""
    return [
        _trace(samples, field, name, unit, limits=bands.get(field)) for field, name, unit in TRACES
    ]


def _trace(
    samples: Sequence[Sample],
    field: str,
    name: str,
    unit: str,
    *,
    limits: tuple[float, float] | None,
) -> PlotLine:
    values = [float(getattr(sample, field)) for sample in samples]
    top = _round_up(max([*values, *(limits or ())], default=0.0))
    band = None
    if limits:
        upper, lower = (height_of(limit, top) for limit in reversed(limits))
        band = (round(upper, 1), round(lower - upper, 1))
    last = three_figures(values[-1]) if values else ""
    return PlotLine(name, unit, line(values, top), last, f"{top:g}", band)


def three_figures(value: float) -> str:
    """Return a figure as finely as a meter would show it: three figures, no more."""
    return f"{round(value, -1):.0f}" if abs(value) >= 1000 else f"{value:.3g}"


def height_of(value: float, top: float) -> float:
    """Return how far from the top a value is drawn, nought at the foot and ``top`` at the head."""
    return PLOT_HEIGHT - PLOT_PAD - (PLOT_HEIGHT - 2 * PLOT_PAD) * min(max(value / top, 0.0), 1.0)


def line(values: Sequence[float], top: float) -> str:
    """Return values as the points of a polyline, nought at the foot and ``top`` at the head."""
    if len(values) < 2:
        return ""
    step = (PLOT_WIDTH - 2 * PLOT_PAD) / (len(values) - 1)
    return " ".join(
        f"{PLOT_PAD + n * step:.1f},{height_of(value, top):.1f}" for n, value in enumerate(values)
    )


def felt(values: Sequence[float]) -> str:
    """Return the torque of one turn as the points of a polyline, its least at the foot."""
    least = min(values)
    return line([value - least for value in values], max(max(values) - least, LEAST_NM))


def _round_up(value: float) -> float:
    """Return the next round figure above a value: 1, 2 or 5 times a power of ten."""
    step = 1.0
    while step < 1e6:
        for figure in (1, 2, 5):
            if value <= figure * step:
                return figure * step
        step *= 10
    return value
