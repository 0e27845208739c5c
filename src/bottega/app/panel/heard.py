"""What was tapped, counted or recorded of a panel, decoded before anything is noted."""

import csv
import io
from collections.abc import Iterator, Sequence
from math import isfinite

from bottega.app.errors import BadValue, NotFound
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.tables import EngineTable
from bottega.core.panel.decoder import IN_NO_TABLE, Decoded, PanelError, decode, decode_text
from bottega.core.panel.heard import Heard, heard
from bottega.core.panel.rhythm import MOST_ROUNDS, MOST_TAPS, Tap, counted, rounds_of

MOST_ROWS = 20_000
"""Rows of a lamp's record; chosen, an hour at five a second."""


def sheet_machine(workshop: Workshop, sheet: str) -> MachineType:
    """Return the machine of a sheet. Raises NotFound."""
    shelf = workshop.shelf
    if sheet not in shelf.sheets:
        raise NotFound(f"Found no sheet '{sheet}', expected one of {', '.join(shelf.sheets)}.")
    return shelf.machine(shelf.sheet(sheet).archetype, sheet)


def hear_taps(machine: MachineType, text: str, engine: EngineTable) -> Heard:
    """Return what taps stand for, as the page sends them: "0:0 0:812 1:2500/0:0 ...", a lamp from
    nought and milliseconds each, rounds parted by a slash where somebody parted them. Raises
    BadValue."""
    if len(text) > MOST_ROUNDS * MOST_TAPS * 12:
        raise BadValue("Found more taps than a code has, expected a few rounds of it.", "rhythm")
    parts = [[_tap(word) for word in part.split()] for part in text.split("/") if part.strip()]
    if len(parts) > MOST_ROUNDS:
        raise BadValue(f"Found {len(parts)} rounds, expected at most {MOST_ROUNDS}.", "rhythm")
    return _said_of(machine, parts, engine)


def hear_counts(
    machine: MachineType, rounds: Sequence[tuple[int, ...]], engine: EngineTable
) -> Heard:
    """Return what counted rounds stand for. Raises BadValue."""
    try:
        return heard(machine, rounds, engine)
    except PanelError as error:
        raise BadValue(_sentence(error), "rounds") from error


def hear_record(machine: MachineType, text: str, engine: EngineTable) -> Heard:
    """Return what a lamp's record stands for: CSV with a head of time (s), lamp (its name or number
    from one) and on (0 or 1). Raises BadValue with the line of what cannot be read."""
    panel = machine.panel
    if panel is None:
        raise BadValue(f"{machine.title} has no sheet with a panel.", "csv")
    names = {name: n for n, name in enumerate(panel.lamps)}
    names |= {str(n + 1): n for n in range(len(panel.lamps))}
    reader = csv.DictReader(io.StringIO(text))
    if not {"time", "lamp", "on"} <= set(reader.fieldnames or ()):
        found = ", ".join(reader.fieldnames or ()) or "nothing"
        raise BadValue(f"Found the columns {found}, expected time, lamp, on.", "csv")
    taps, lit, before = [], dict.fromkeys(range(len(panel.lamps)), False), -1.0
    for n, row in enumerate(_rows(reader), start=2):
        at = _seconds(row["time"], n)
        if at < before:
            raise BadValue(f"Line {n}: found {at:g} s after {before:g} s, out of order.", "csv")
        before = at
        lamp, on = names.get((row["lamp"] or "").strip()), (row["on"] or "").strip()
        if lamp is None or on not in ("0", "1"):
            wanted = " or ".join(panel.lamps)
            raise BadValue(
                f"Line {n}: found '{row['lamp']}' and '{row['on']}', expected {wanted}, and 0 or "
                "1.",
                "csv",
            )
        if on == "1" and not lit[lamp]:
            taps.append(Tap(at, lamp if panel.kind == "flash_trains" else 0))
        lit[lamp] = on == "1"
    return _said_of(machine, [taps], engine)


def look_up(machine: MachineType, seen: tuple[int, ...] | str) -> Decoded:
    """Return what lit lamps, sums or characters stand for. Raises BadValue."""
    try:
        return decode_text(machine, seen) if isinstance(seen, str) else decode(machine, seen)
    except PanelError as error:
        raise BadValue(_sentence(error), "codes") from error


def figures(text: str, between: str) -> tuple[int, ...]:
    """Return whole numbers typed with ``between`` them; each character is one where it is empty.
    Raises BadValue."""
    words = text.split(between) if between else list(text.strip())
    if not all(word.strip().isascii() and word.strip().isdecimal() for word in words):
        raise BadValue(f"Found '{text}', expected whole numbers.", "rounds")
    return tuple(int(word.strip()[:4]) for word in words)


def heard_lines(found: Heard) -> list[str]:
    """Return the readings as text, a line each, then the rounds that seem miscounted."""
    lines = [f"{reading.chance:6.1%}  {_named(reading.code)}" for reading in found.readings]
    odd = [f"{n + 1} ({'-'.join(map(str, found.rounds[n]))})" for n in found.odd]
    return [*lines, *([f"Seems miscounted: round {', '.join(odd)}."] if odd else [])]


def decoded_lines(found: Decoded) -> list[str]:
    """Return what an exact reading stands for as text, with the codes one step away."""
    near = [f"one step away: {_named(code)}" for code in found.near]
    return [_named(found.code), *near]


def _named(code: Code | None) -> str:
    return f"{code.id}  {code.record.name}" if code else IN_NO_TABLE


def _said_of(machine: MachineType, parts: Sequence[Sequence[Tap]], engine: EngineTable) -> Heard:
    """Return what taps stand for: cut into rounds where nobody parted them, or the lamps do."""
    panel = machine.panel
    if panel is None:
        raise BadValue(f"{machine.title} has no sheet with a panel.", "rhythm")
    try:
        cut = len(parts) == 1 or panel.kind == "flash_trains"
        rounds = [own for part in parts for own in rounds_of(panel, part)] if cut else parts
        return heard(machine, counted(panel, rounds), engine)
    except PanelError as error:
        raise BadValue(_sentence(error), "rhythm") from error


def _rows(reader: "csv.DictReader[str]") -> Iterator[dict[str, str | None]]:
    """Yield the rows of a record. Raises BadValue for what is no CSV, or too much of it."""
    try:
        for n, row in enumerate(reader):
            if n >= MOST_ROWS:
                raise BadValue(f"Found more than {MOST_ROWS} lines, expected fewer.", "csv")
            yield dict(row)
    except csv.Error as error:
        raise BadValue(f"Line {reader.line_num + 1} cannot be read: {error}.", "csv") from error


def _tap(word: str) -> Tap:
    lamp, _, at = word.partition(":")
    if not (lamp.isascii() and lamp.isdecimal() and at.isascii() and at.isdecimal()):
        raise BadValue(f"Found '{word[:20]}', expected a lamp and milliseconds.", "rhythm")
    return Tap(int(at[:9]) / 1000, int(lamp[:3]))


def _seconds(text: str | None, line: int) -> float:
    try:
        at = float(text or "")
    except ValueError:
        at = float("nan")
    if not isfinite(at) or at < 0:
        raise BadValue(f"Line {line}: found the time '{text}', expected seconds.", "csv")
    return at


def _sentence(error: PanelError) -> str:
    text = str(error)
    return f"{text[0].upper()}{text[1:]}."
