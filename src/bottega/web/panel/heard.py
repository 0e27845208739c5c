"""The panel without a job, and what is heard or seen of it while a job's panel is read."""

from dataclasses import dataclass

from bottega.app.panel.meaning import Cause, NextCheck
from bottega.core.diagnosis.words import percent
from bottega.core.library.machine_type import Code
from bottega.core.library.panel_record import PanelRecord
from bottega.core.panel.decoder import IN_NO_TABLE
from bottega.core.panel.heard import PanelReadings
from bottega.core.panel.notation import written
from bottega.web.kit.page import Page
from bottega.web.panel.face import DrawnPanel

SURE = 0.9
"""From this chance on a reading is not asked for again; chosen."""
NTH = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")
KEYS = ("f", "j", "l")
"""Keys for the lamps of a panel, from the left, where the fingers lie."""
VERBS = {
    "flash_trains": "flashes",
    "strokes": "strikes, and hold as long as it is lit",
    "beeps": "beeps",
    "melody": "plays",
}
AGAIN = {
    "flash_trains": "Watch it once more, from its pause on.",
    "strokes": "Watch it once more, from its pause on.",
    "beeps": "Listen once more, from its pause on.",
    "melody": "Listen once more, from its first tone on.",
}


@dataclass(frozen=True)
class PadKey:
    """One key to tap on: what stands on it, and the letter that presses it; a fourth lamp has
    none."""

    label: str
    key: str


@dataclass(frozen=True)
class Pad:
    """The keys to tap along with, and what the panel does."""

    keys: list[PadKey]
    verb: str
    camera: bool = False
    """Whether it is one lamp, which a camera can watch."""


@dataclass(frozen=True)
class RoundLine:
    """One round as it was counted."""

    nth: str
    counts: str
    odd: bool


@dataclass(frozen=True)
class CodeMeant:
    """A code it may be; ``written`` is what its button fills in, empty where there is none."""

    chance: str
    code: str
    written: str
    name: str


@dataclass(frozen=True)
class LiveLine:
    """A number the panel shows in service mode: what it means, and when."""

    name: str
    shown: str
    meant: str
    valid: str


@dataclass(frozen=True)
class HeardPage:
    """What the panel's page without a job gets."""

    page: Page
    sheet_id: str
    panel: PanelRecord
    face: DrawnPanel | None
    pad: Pad | None
    asks: str
    """How a line is written down."""
    shown: str
    trouble: str
    fill: bool
    """Whether a reading can be taken over into a form beside it."""
    rounds: list[RoundLine]
    readings: list[CodeMeant]
    advice: str
    codes: list[Code]
    causes: tuple[Cause, ...]
    """What the likeliest reading may mean, and what to check first then."""
    checks: tuple[NextCheck, ...]
    live: list[LiveLine]
    number: str
    """The number that was looked up."""


def pad_of(panel: PanelRecord) -> Pad | None:
    """Return the keys for a panel that flashes or beeps; None for one that does not."""
    verb = VERBS.get(panel.kind, "")
    if panel.kind in ("flash_trains", "melody"):
        keys = [*KEYS, *("" for _ in panel.lamps)]
        return Pad([PadKey(*own) for own in zip(panel.lamps, keys, strict=False)], verb)
    if panel.kind in ("strokes", "beeps"):
        struck = panel.kind == "strokes"
        return Pad([PadKey("strike" if struck else "beep", KEYS[0])], verb, struck)
    return None


def advice_of(panel: PanelRecord, found: PanelReadings) -> str:
    """Return what to look at again; nothing where the reading is sure."""
    if found.first.code is None:
        return f"In no table. {AGAIN.get(panel.kind, 'Look at it once more, lamp by lamp.')}"
    if found.first.chance >= SURE:
        return ""
    if panel.kind in AGAIN:
        return "Not sure yet. Tap another round."
    return f"Not sure yet. {_where_they_part(panel, found)}"


def _where_they_part(panel: PanelRecord, found: PanelReadings) -> str:
    """Return the lamps in which the two likeliest readings differ."""
    codes = [reading.code for reading in found.readings[:2] if reading.code]
    if len(codes) < 2 or panel.kind != "lamp_pattern":
        return "Look again at what you were unsure of."
    one, other = (code.record.show for code in codes)
    parted = [lamp for lamp, a, b in zip(panel.lamps, one, other, strict=True) if a != b]
    return f"Look again at {' and '.join(parted[:3])}: {codes[0].id} and {codes[1].id} part there."


def round_lines(panel: PanelRecord, found: PanelReadings) -> list[RoundLine]:
    """Return the rounds under each other, with the odd ones marked."""
    return [
        RoundLine(NTH[n], written(panel, counts), n in found.odd)
        for n, counts in enumerate(found.rounds)
    ]


def reading_lines(panel: PanelRecord, found: PanelReadings) -> list[CodeMeant]:
    """Return every code it may be, the likeliest first."""
    return [_line(panel, percent(reading.chance), reading.code) for reading in found.readings]


def _line(panel: PanelRecord, chance: str, code: Code | None) -> CodeMeant:
    if code is None:
        return CodeMeant(chance, "", "", IN_NO_TABLE)
    line = code.record.text or written(panel, code.record.show)
    return CodeMeant(chance, code.id, line, code.record.name)


def live_lines(panel: PanelRecord, number: float | None) -> list[LiveLine]:
    """Return the numbers a panel shows in service mode, translated where one was given."""
    return [
        LiveLine(
            value.name,
            letter,
            f"{value.times * number + value.plus:g} {value.unit}"
            if number is not None
            else _scale(value.times, value.plus, value.unit),
            value.valid or "",
        )
        for letter, value in panel.live.items()
    ]


def _scale(times: float, plus: float, unit: str) -> str:
    more = f" + {plus:g}" if plus else ""
    return f"× {times:g}{more} {unit}"
