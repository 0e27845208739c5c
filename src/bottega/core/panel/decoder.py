"""What a panel shows, decoded by the sheet's code table: flashes, strokes, beeps, melodies, bars,
lamp weights, lamp patterns, displays."""

from dataclasses import dataclass

from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.panel.segments import strays, unformed

IN_NO_TABLE = "in no table: a misread or a bad lamp"
RHYTHMS = ("flash_trains", "strokes", "beeps", "melody")
"""Ways of showing that take time, and are tapped along with."""
MOST_CHARACTERS = 8


class PanelError(ValueError):
    """Something no panel of this kind can show; says what was found and what was expected."""


@dataclass(frozen=True)
class Decoded:
    """One reading: what was seen, the code it stands for if any, and codes one step away from
    it."""

    shown: tuple[int, ...]
    code: Code | None
    near: tuple[Code, ...]


def decode(machine: MachineType, shown: tuple[int, ...]) -> Decoded:
    """Return what counts, tones, sums of weights or lit lamps stand for. Raises PanelError for what
    cannot be shown.

    What is in no table is a misread or a bad lamp: ``code`` is None and ``near`` lists codes one
    step away, where a step is one flash or tone more or less, one tone for the other, or one lamp
    lit instead of dark.
    """
    panel = panel_of(machine)
    refuse_impossible(panel, shown)
    near = []
    for code in machine.codes.values():
        distance = steps(panel, code.record.show, shown)
        if distance == 0:
            return Decoded(shown, code, ())
        if distance == 1:
            near.append(code)
    return Decoded(shown, None, tuple(near))


def decode_text(machine: MachineType, text: str) -> Decoded:
    """Return what the characters of a display stand for; capitals and spaces do not matter, nor
    does what looks alike on it. Raises PanelError."""
    panel = panel_of(machine)
    wanted = characters(panel, text)
    near = []
    for code in machine.codes.values():
        known = (code.record.text or "").lower()
        if len(known) != len(wanted):
            continue
        odd = sum(strays(panel.segments, a, b) > 0 for a, b in zip(known, wanted, strict=True))
        if odd == 0:
            return Decoded((), code, ())
        if odd == 1:
            near.append(code)
    return Decoded((), None, tuple(near))


def characters(panel: PanelRecord, text: str, unsure: str = "") -> str:
    """Return what a display shows in small letters and without spaces; ``unsure`` may stand for any
    character. Raises PanelError for what this panel cannot show."""
    if panel.kind != "display":
        raise PanelError(f"found the text '{text}', expected {' then '.join(panel.lamps)}")
    wanted = text.replace(" ", "").lower()
    if not wanted or len(wanted) > MOST_CHARACTERS:
        raise PanelError(
            f"found '{text}', expected 1 to {MOST_CHARACTERS} characters as the display shows them"
        )
    formed = wanted.replace(unsure, "") if unsure else wanted
    if strange := unformed(panel.segments, formed):
        raise PanelError(
            f"found '{strange}' in '{text}', expected what {panel.segments} bars a figure can form"
        )
    return wanted


def panel_of(machine: MachineType) -> PanelRecord:
    """Return a machine's panel. Raises PanelError where its sheet has none."""
    if machine.panel is None:
        raise PanelError(f"found a code, expected none: {machine.title} has no sheet with a panel")
    return machine.panel


def refuse_impossible(panel: PanelRecord, shown: tuple[int, ...]) -> None:
    """Raise PanelError for what this panel cannot show."""
    if why := panel.cannot_show(shown):
        raise PanelError(f"found {why[0]}, expected {why[1]}")


def steps(panel: PanelRecord, a: tuple[int, ...], b: tuple[int, ...]) -> int:
    """Return how many single slips lie between two readings; two stands for two and more."""
    if panel.kind == "melody":
        return _edits(a, b)
    if len(a) != len(b):
        return 2
    return sum(_slips(panel, one, other) for one, other in zip(a, b, strict=True))


def _slips(panel: PanelRecord, a: int, b: int) -> int:
    if panel.kind == "lamp_weights":
        return 0 if a == b else 1 if abs(a - b) in panel.weights else 2
    if panel.kind == "lamp_pattern":
        return int(a != b)
    if panel.kind == "strokes" and abs(a - b) in (panel.long_counts, panel.long_counts - 1):
        return 1
    return abs(a - b)


def _edits(a: tuple[int, ...], b: tuple[int, ...]) -> int:
    """Return the tones put in, left out or changed between two melodies."""
    row = list(range(len(b) + 1))
    for i, one in enumerate(a, 1):
        corner, row[0] = row[0], i
        for j, other in enumerate(b, 1):
            corner, row[j] = row[j], min(row[j] + 1, row[j - 1] + 1, corner + (one != other))
    return row[-1]
