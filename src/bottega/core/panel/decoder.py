"""What a panel shows, decoded by the sheet's code table: flashes, beeps, lamp weights, lamp
patterns, displays."""

from dataclasses import dataclass

from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.sheet import PanelRecord

IN_NO_TABLE = "in no table: a misread or a bad lamp"


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
    """Return what counts, sums of weights or lit lamps stand for. Raises PanelError for what cannot
    be shown.

    What is in no table is a misread or a bad lamp: ``code`` is None and ``near`` lists codes one
    step away, where a step is one flash or beep more or less, or one lamp lit instead of dark.
    """
    panel = _panel(machine)
    if len(shown) != len(panel.lamps):
        raise PanelError(
            f"found {len(shown)} counts, expected {len(panel.lamps)}: " + " then ".join(panel.lamps)
        )
    for lamp, count in zip(panel.lamps, shown, strict=True):
        low, high = _range(panel)
        if not low <= count <= high:
            what = {"flash_trains": "flashes", "beeps": "beeps"}.get(panel.kind, "lit")
            raise PanelError(f"found {count} {lamp} {what}, expected {low} to {high}")
    near = []
    for code in machine.codes.values():
        distance = sum(_steps(panel, a, b) for a, b in zip(code.record.show, shown, strict=True))
        if distance == 0:
            return Decoded(shown, code, ())
        if distance == 1:
            near.append(code)
    return Decoded(shown, None, tuple(near))


def decode_text(machine: MachineType, text: str) -> Decoded:
    """Return what the characters of a display stand for; capitals and spaces do not matter. Raises
    PanelError."""
    panel = _panel(machine)
    if panel.kind != "display":
        raise PanelError(f"found the text '{text}', expected {' then '.join(panel.lamps)}")
    wanted = text.replace(" ", "").lower()
    if not wanted or len(wanted) > 8:
        raise PanelError(f"found '{text}', expected 1 to 8 characters as the display shows them")
    near = []
    for code in machine.codes.values():
        known = (code.record.text or "").lower()
        if known == wanted:
            return Decoded((), code, ())
        if (
            len(known) == len(wanted)
            and sum(a != b for a, b in zip(known, wanted, strict=True)) == 1
        ):
            near.append(code)
    return Decoded((), None, tuple(near))


def _panel(machine: MachineType) -> PanelRecord:
    if machine.panel is None:
        raise PanelError(f"found a code, expected none: {machine.title} has no sheet with a panel")
    return machine.panel


def _range(panel: PanelRecord) -> tuple[int, int]:
    if panel.kind == "lamp_pattern":
        return 0, 1
    if panel.kind == "lamp_weights":
        return 0, sum(panel.weights)
    return 1, panel.most_flashes


def _steps(panel: PanelRecord, a: int, b: int) -> int:
    """Return how many single slips lie between two readings of one lamp, group or page."""
    if panel.kind == "lamp_weights":
        return 0 if a == b else 1 if abs(a - b) in panel.weights else 2
    return abs(a - b)
