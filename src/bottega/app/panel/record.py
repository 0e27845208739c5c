"""A lamp's record from outside: CSV of when each lamp went on and off."""

from math import isfinite

from bottega.app.errors import BadValue
from bottega.app.panel.heard import panel_of, rounds_heard
from bottega.app.values import shown
from bottega.core.csvtext import CsvError, lines_of
from bottega.core.library.machine_type import MachineType
from bottega.core.library.tables import PanelTable
from bottega.core.panel.heard import PanelReadings
from bottega.core.panel.rhythm import Tap
from bottega.core.wording import sentence

MOST_ROWS = 20_000
"""Rows of a lamp's record; chosen, an hour at five a second."""


def hear_record(machine: MachineType, text: str, slips: PanelTable) -> PanelReadings:
    """Return what a lamp's record stands for: CSV with a head of time (s), lamp (its name or number
    from one) and on (0 or 1). Raises BadValue with the line of what cannot be read."""
    panel = panel_of(machine, "csv")
    own = panel.lamps if panel.kind in ("flash_trains", "melody") else ("lamp",)
    names = {name: n for n, name in enumerate(own)}
    names |= {str(n + 1): n for n in range(len(own))}
    lines = _lines(text)
    head = lines[0][1] if lines else []
    if not {"time", "lamp", "on"} <= set(head):
        found = shown(", ".join(head)) if head else "nothing"
        raise BadValue(f"Found the columns {found}, expected time, lamp, on.", "csv")
    taps: list[Tap] = []
    since: dict[int, float] = {}
    before = -1.0
    for n, line in lines[1:]:
        row = dict(zip(head, line, strict=False))
        at = _seconds(row.get("time", ""), n)
        if at < before:
            raise BadValue(f"Line {n}: found {at:g} s after {before:g} s, out of order.", "csv")
        before = at
        lamp, on = names.get(row.get("lamp", "").strip()), row.get("on", "").strip()
        if lamp is None or on not in ("0", "1"):
            wanted = " or ".join(own)
            raise BadValue(
                f"Line {n}: found {shown(row.get('lamp', ''))} and {shown(row.get('on', ''))}, "
                f"expected {wanted}, and 0 or 1.",
                "csv",
            )
        if on == "1":
            since.setdefault(lamp, at)
        elif lamp in since:
            taps.append(_tap(panel.kind == "strokes", since.pop(lamp), lamp, at))
    taps += [_tap(panel.kind == "strokes", at, lamp, before) for lamp, at in since.items()]
    return rounds_heard(machine, [sorted(taps, key=lambda tap: tap.at_s)], slips, "csv")


def _tap(counts_length: bool, since: float, lamp: int, until: float) -> Tap:
    return Tap(since, lamp, max(until - since, 1e-3) if counts_length else 0.0)


def _lines(text: str) -> list[tuple[int, list[str]]]:
    try:
        return list(lines_of(text, MOST_ROWS))
    except CsvError as error:
        raise BadValue(sentence(error), "csv") from error


def _seconds(text: str, line: int) -> float:
    try:
        at = float(text)
    except ValueError:
        at = float("nan")
    if not isfinite(at) or at < 0:
        raise BadValue(f"Line {line}: found the time {shown(text)}, expected seconds.", "csv")
    return at
