"""What was tapped, counted, seen or written down of a panel, decoded before anything is noted."""

from collections.abc import Sequence

from bottega.app.errors import BadValue, NotFound
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.tables import PanelTable
from bottega.core.panel.decoder import (
    IN_NO_TABLE,
    RHYTHMS,
    Decoded,
    PanelError,
    decode,
    decode_text,
)
from bottega.core.panel.heard import PanelReadings, heard
from bottega.core.panel.notation import parsed
from bottega.core.panel.rhythm import MOST_ROUNDS, MOST_TAPS, Tap, counted, rounds_of
from bottega.core.panel.seen import ANY_CHARACTER, seen, seen_sums, seen_text
from bottega.core.panel.segments import GLYPHS
from bottega.core.wording import sentence

UNSURE = "?"


def sheet_machine(workshop: Workshop, sheet: str) -> MachineType:
    """Return the machine of a sheet. Raises NotFound."""
    shelf = workshop.shelf
    if sheet not in shelf.sheets:
        raise NotFound(f"Found no sheet '{sheet}', expected one of {', '.join(shelf.sheets)}.")
    return shelf.machine(shelf.sheet(sheet).archetype, sheet)


def panel_of(machine: MachineType, field: str) -> PanelRecord:
    """Return a machine's panel. Raises BadValue."""
    if machine.panel is None:
        raise BadValue(f"{machine.title} has no sheet with a panel.", field)
    return machine.panel


def hear_taps(machine: MachineType, text: str, slips: PanelTable) -> PanelReadings:
    """Return what taps stand for, as the page sends them: "0:0:300 0:812:290/0:0:310 ...", a lamp
    from nought, when and how long in milliseconds, rounds parted by a slash where somebody parted
    them. Raises BadValue."""
    panel = panel_of(machine, "rhythm")
    if len(text) > MOST_ROUNDS * MOST_TAPS * 16:
        raise BadValue("Found more taps than a code has, expected a few rounds of it.", "rhythm")
    held = panel.kind == "strokes"
    written = [part for part in text.split("/") if part.strip()]
    parts = [[_tap(word, held) for word in part.split()] for part in written]
    if len(parts) > MOST_ROUNDS:
        raise BadValue(f"Found {len(parts)} rounds, expected at most {MOST_ROUNDS}.", "rhythm")
    return rounds_heard(machine, parts, slips, "rhythm")


def hear_counts(
    machine: MachineType, rounds: Sequence[tuple[int, ...]], slips: PanelTable
) -> PanelReadings:
    """Return what counted rounds stand for. Raises BadValue."""
    try:
        return heard(machine, rounds, slips)
    except PanelError as error:
        raise BadValue(sentence(error), "rounds") from error


def rounds_heard(
    machine: MachineType, parts: Sequence[Sequence[Tap]], slips: PanelTable, field: str
) -> PanelReadings:
    """Return what taps stand for: cut into rounds where nobody parted them, or the lamps do. Raises
    BadValue."""
    panel = panel_of(machine, field)
    try:
        cut = len(parts) == 1 or panel.kind == "flash_trains"
        rounds = [own for part in parts for own in rounds_of(panel, part)] if cut else parts
        return heard(machine, counted(panel, rounds), slips)
    except PanelError as error:
        raise BadValue(sentence(error), field) from error


def look_up(machine: MachineType, written: str) -> Decoded:
    """Return what a line stands for, as ``notation`` has it. Raises BadValue."""
    panel = panel_of(machine, "codes")
    try:
        shown = parsed(panel, written)
        return decode_text(machine, shown) if isinstance(shown, str) else decode(machine, shown)
    except PanelError as error:
        raise BadValue(sentence(error), "codes") from error


def written_heard(machine: MachineType, written: str, slips: PanelTable) -> PanelReadings:
    """Return every code a written line may stand for, rounds of counts parted by commas. Raises
    BadValue."""
    panel = panel_of(machine, "codes")
    try:
        if panel.kind in RHYTHMS:
            rounds = [parsed(panel, part) for part in written.split(",") if part.strip()]
            return heard(machine, [own for own in rounds if not isinstance(own, str)], slips)
        return shown_heard(machine, parsed(panel, written), slips)
    except PanelError as error:
        raise BadValue(sentence(error), "codes") from error


def shown_heard(
    machine: MachineType, shown: tuple[int, ...] | str, slips: PanelTable
) -> PanelReadings:
    """Return every code that sums, states of lamps, a bar or characters may stand for. Raises
    BadValue."""
    panel = panel_of(machine, "codes")
    try:
        if isinstance(shown, str):
            return seen_text(machine, shown, slips)
        if panel.kind == "lamp_weights":
            return seen_sums(machine, shown, slips)
        pages = (shown,) if panel.kind == "lamp_pattern" else tuple((one,) for one in shown)
        return seen(machine, pages, slips)
    except PanelError as error:
        raise BadValue(sentence(error), "codes") from error


def lamps_seen(machine: MachineType, text: str, slips: PanelTable) -> PanelReadings:
    """Return what the drawn panel's lamps stand for: a digit for each lamp, a question mark where
    nobody is sure, pages parted by a slash. Raises BadValue."""
    panel = panel_of(machine, "lit")
    pages = tuple(
        tuple(None if word == UNSURE else _digit(word) for word in _words(panel, page))
        for page in text[:200].split("/")
    )
    try:
        return seen(machine, pages, slips)
    except PanelError as error:
        raise BadValue(sentence(error), "lit") from error


def bars_seen(machine: MachineType, text: str, slips: PanelTable) -> PanelReadings:
    """Return what the drawn display's bars stand for: the letters of the lit ones, characters
    parted by a slash; where none is lit nobody has looked yet. Raises BadValue."""
    panel = panel_of(machine, "bars")
    by_bars = {bars: character for character, bars in GLYPHS.get(panel.segments, {}).items()}
    letters = ""
    for n, page in enumerate(text[:200].split("/"), start=1):
        found = by_bars.get("".join(sorted(page))) if page else ANY_CHARACTER
        if found is None:
            raise BadValue(
                f"So far “{letters}”; what is lit at place {n} is no character this display "
                "forms. Look again, or a bar is dead.",
                "bars",
            )
        letters += found
    try:
        return seen_text(machine, letters, slips)
    except PanelError as error:
        raise BadValue(sentence(error), "bars") from error


def heard_lines(found: PanelReadings) -> list[str]:
    """Return the readings as text, a line each, then the rounds that seem miscounted."""
    lines = [f"{reading.chance:6.1%}  {_named(reading.code)}" for reading in found.readings]
    odd = [f"{n + 1} ({'-'.join(map(str, found.rounds[n]))})" for n in found.odd]
    return [*lines, *([f"Seems miscounted: round {', '.join(odd)}."] if odd else [])]


def _words(panel: PanelRecord, page: str) -> list[str]:
    return [page] if panel.kind == "bar" else list(page)


def _digit(word: str) -> int:
    if not (word.isascii() and word.isdecimal()):
        raise BadValue(f"Found '{word[:20]}', expected a figure for each lamp.", "lit")
    return int(word[:3])


def _named(code: Code | None) -> str:
    return f"{code.id}  {code.record.name}" if code else IN_NO_TABLE


def _tap(word: str, held: bool) -> Tap:
    figures = word.split(":")
    if len(figures) not in (2, 3) or not all(f.isascii() and f.isdecimal() for f in figures):
        raise BadValue(f"Found '{word[:20]}', expected a lamp and milliseconds.", "rhythm")
    lamp, at, lit = (int(f[:9]) for f in (*figures, "0")[:3])
    return Tap(at / 1000, min(lamp, 999), lit / 1000 if held else 0.0)
