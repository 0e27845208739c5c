"""What was recorded of a run, line by line: read from CSV, its gaps and clock looked at, and what
it shows computed from it: how the water warms, at which speeds the drum holds, how slowly it
builds up, and what is switched on."""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import isfinite
from statistics import median

from bottega.core.csvtext import CsvError, lines_of

COLUMNS: dict[str, tuple[float, float]] = {
    "level_l": (0.0, 300.0),
    "water_c": (-20.0, 120.0),
    "drum_rpm": (-3000.0, 3000.0),
    "ampere": (0.0, 100.0),
    "watts": (0.0, 20_000.0),
    "in_l_min": (0.0, 200.0),
    "out_l_min": (0.0, 200.0),
}
"""What can be recorded, each in its unit with the range it must lie in; ``seconds`` is the
clock."""
MOST_LINES = 50_000
"""Lines of a record; chosen, fourteen hours at one a second, forty minutes at twenty."""
GAP = 4.0
"""Times the usual step from which on something is missing; chosen."""
HOLDS_SHARE, HOLDS_S = 0.04, 8.0
"""Speeds within this share of each other for so many seconds are a plateau; chosen, a step of
spin holds for half a minute."""
TURNS_RPM = 15.0
"""Slower, it stands."""
SWITCH_W, SWITCH_S = 80.0, 4.0
"""A step of power that is more than this and stays for so many seconds is a load switched;
chosen, a pump takes thirty and the least element three hundred."""
STAYS_LINES = 100
"""Lines next to a step that are looked at; chosen, four seconds at twenty-five a second."""
RISE_K, RISE_S = 1.0, 30.0
"""Water that warms by less, or for less long, is not being heated."""


class TraceError(ValueError):
    """A record that cannot be used: says the line, what was found and what was expected."""


@dataclass(frozen=True)
class Trace:
    """A record: ``seconds`` and the columns it has, all of one length, and where something is
    missing, as pairs of seconds."""

    seconds: tuple[float, ...]
    columns: dict[str, tuple[float, ...]]
    gaps: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Plateau:
    """A speed that was held: turns a minute, from when, and for how many seconds."""

    rpm: float
    at_s: float
    seconds: float


@dataclass(frozen=True)
class Rise:
    """How the water warmed: from and to in °C, in how many seconds, and kelvin a minute by the
    straight line through it."""

    from_c: float
    to_c: float
    seconds: float
    k_min: float


@dataclass(frozen=True)
class Switched:
    """A load switched on or off: when, and the watts before and after."""

    at_s: float
    before_w: float
    after_w: float


@dataclass(frozen=True)
class Shows:
    """What a record shows; None and empty where its columns say nothing of it. ``build_up_s`` is
    from a tenth to nine tenths of the top speed."""

    plateaus: tuple[Plateau, ...]
    top_rpm: float | None
    build_up_s: float | None
    rise: Rise | None
    switched: tuple[Switched, ...]
    most_w: float | None
    litres: float | None


def read_trace(text: str) -> Trace:
    """Return a record from CSV with a head of names. Raises TraceError for a file that is none, a
    clock that goes back, a value that is no number or cannot be."""
    try:
        lines = list(lines_of(text, MOST_LINES))
    except CsvError as error:
        raise TraceError(str(error)) from error
    head = [name.strip() for name in lines[0][1]] if lines else []
    if "seconds" not in head:
        raise TraceError(f"found the head '{','.join(head)[:60]}', expected one with seconds")
    known = [name for name in COLUMNS if name in head]
    if not known:
        raise TraceError(f"found no column that is known, expected one of {', '.join(COLUMNS)}")
    seconds: list[float] = []
    columns: dict[str, list[float]] = {name: [] for name in known}
    for number, line in lines[1:]:
        row = dict(zip(head, line, strict=False))
        now = _figure(row.get("seconds", ""), number, "seconds", (-1e9, 1e9))
        if seconds and now <= seconds[-1]:
            raise TraceError(
                f"line {number}: found {now:g} s after {seconds[-1]:g} s, expected a clock that "
                "goes on"
            )
        seconds.append(now)
        for name in known:
            columns[name].append(_figure(row.get(name, ""), number, name, COLUMNS[name]))
    if len(seconds) < 3:
        raise TraceError(f"found {len(seconds)} lines, expected at least three")
    return Trace(
        tuple(seconds), {name: tuple(own) for name, own in columns.items()}, _gaps(seconds)
    )


def _figure(text: str, line: int, name: str, limits: tuple[float, float]) -> float:
    try:
        value = float(text.strip().replace(",", "."))
    except ValueError as error:
        raise TraceError(
            f"line {line}: found '{text.strip()[:20]}' for {name}, expected a number"
        ) from error
    if not isfinite(value) or not limits[0] <= value <= limits[1]:
        raise TraceError(
            f"line {line}: found {value:g} for {name}, expected {limits[0]:g} to {limits[1]:g}"
        )
    return value


def _gaps(seconds: Sequence[float]) -> tuple[tuple[float, float], ...]:
    steps = [b - a for a, b in pairwise(seconds)]
    usual = median(steps)
    return tuple((a, b) for a, b in pairwise(seconds) if b - a > GAP * usual)


def shows(trace: Trace) -> Shows:
    """Return what a record shows."""
    rpm = [abs(speed) for speed in trace.columns.get("drum_rpm", ())]
    watts = trace.columns.get("watts", ())
    litres = trace.columns.get("level_l", ())
    held = tuple(_plateaus(trace, rpm))
    top = max(rpm) if rpm else None
    rise = _rise(trace)
    return Shows(
        plateaus=held,
        top_rpm=top,
        build_up_s=_build_up(trace, rpm) if top and top > TURNS_RPM else None,
        rise=rise,
        switched=tuple(_switched(trace, watts)),
        most_w=max(watts) if watts else None,
        litres=median(one for one in litres if one > 0.5) if any(n > 0.5 for n in litres) else None,
    )


def _plateaus(trace: Trace, rpm: Sequence[float]) -> list[Plateau]:
    """Return the speeds that are held, in order; a gap in the record ends one."""
    found: list[Plateau] = []
    broken = {b for _, b in trace.gaps}
    first, total = 0, rpm[0] if rpm else 0.0
    for n in range(1, len(rpm) + 1):
        mean = total / (n - first)
        goes_on = n < len(rpm) and trace.seconds[n] not in broken
        if goes_on and abs(rpm[n] - mean) <= HOLDS_SHARE * max(rpm[n], TURNS_RPM):
            total += rpm[n]
            continue
        lasts = trace.seconds[n - 1] - trace.seconds[first]
        if mean > TURNS_RPM and lasts >= HOLDS_S:
            found.append(Plateau(median(rpm[first:n]), trace.seconds[first], lasts))
        first, total = n, rpm[n] if n < len(rpm) else 0.0
    return found


def _build_up(trace: Trace, rpm: Sequence[float]) -> float | None:
    top = max(rpm)
    reached = next(n for n, speed in enumerate(rpm) if speed >= 0.9 * top)
    began = next((n for n in range(reached, -1, -1) if rpm[n] <= 0.1 * top), None)
    if began is None or any(
        trace.seconds[began] < b <= trace.seconds[reached] for _, b in trace.gaps
    ):
        return None
    return trace.seconds[reached] - trace.seconds[began]


def _rise(trace: Trace) -> Rise | None:
    """Return how the water warmed over the longest stretch in which it did not cool, by least
    squares."""
    warm = trace.columns.get("water_c", ())
    broken = {b for _, b in trace.gaps}
    best: tuple[int, int] | None = None
    first = 0
    for n in range(1, len(warm) + 1):
        if n < len(warm) and warm[n] >= warm[n - 1] - 0.05 and trace.seconds[n] not in broken:
            continue
        last = n - 1
        while first < last and warm[first + 1] <= warm[first]:
            first += 1
        if best is None or warm[last] - warm[first] > warm[best[1]] - warm[best[0]]:
            best = (first, last)
        first = n
    if best is None:
        return None
    first, last = best
    lasts = trace.seconds[last] - trace.seconds[first]
    if warm[last] - warm[first] < RISE_K or lasts < RISE_S:
        return None
    t, c = trace.seconds[first : last + 1], warm[first : last + 1]
    mean_t, mean_c = sum(t) / len(t), sum(c) / len(c)
    slope = sum((a - mean_t) * (b - mean_c) for a, b in zip(t, c, strict=True)) / sum(
        (a - mean_t) ** 2 for a in t
    )
    return Rise(warm[first], warm[last], lasts, slope * 60)


def _switched(trace: Trace, watts: Sequence[float]) -> list[Switched]:
    """Return the loads that were switched: steps of power that stay."""
    found: list[Switched] = []
    seconds = trace.seconds
    for n in range(1, len(watts)):
        if abs(watts[n] - watts[n - 1]) < SWITCH_W:
            continue
        if found and seconds[n] - found[-1].at_s < SWITCH_S:
            continue
        first = bisect_left(seconds, seconds[n] - SWITCH_S)
        last = bisect_right(seconds, seconds[n] + SWITCH_S)
        before = _middle(watts[max(first, n - STAYS_LINES) : n])
        after = _middle(watts[n : min(last, n + STAYS_LINES)])
        if before is None or after is None or abs(after - before) < SWITCH_W:
            continue
        found.append(Switched(seconds[n], before, after))
    return found


def _middle(some: Sequence[float]) -> float | None:
    return median(some) if len(some) > 1 else None
