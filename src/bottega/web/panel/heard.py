"""The panel without a job, and what its rhythm is heard as while a job's panel is read."""

from dataclasses import dataclass

from bottega.app.panel.heard import hear_taps
from bottega.core.diagnosis.words import percent
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.sheet import PanelRecord
from bottega.core.library.tables import EngineTable
from bottega.core.panel.decoder import IN_NO_TABLE, Decoded
from bottega.core.panel.heard import Heard
from bottega.web.kit.page import Page

SURE = 0.9
"""From this chance on a reading is not asked for again; chosen."""
NTH = ("first", "second", "third", "fourth", "fifth", "sixth")
KEYS = ("f", "j", "l")
"""Keys for the lamps of a panel, from the left, where the fingers lie."""


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


@dataclass(frozen=True)
class RoundLine:
    """One round as it was counted."""

    nth: str
    counts: str
    odd: bool


@dataclass(frozen=True)
class ReadingLine:
    """A code it may be; ``counts`` are what its button fills in, empty where there is none."""

    chance: str
    code: str
    counts: str
    name: str


@dataclass(frozen=True)
class HeardPage:
    """What the panel's page without a job gets."""

    page: Page
    sheet_id: str
    panel: PanelRecord
    pad: Pad | None
    asks: str
    """What is typed where nothing is tapped."""
    shown: str
    trouble: str
    fill: bool
    """Whether a reading can be taken over into a form beside it."""
    rounds: list[RoundLine]
    readings: list[ReadingLine]
    advice: str
    codes: list[Code]


def pad_of(panel: PanelRecord) -> Pad | None:
    """Return the keys for a panel that flashes or beeps; None for one that does not."""
    if panel.kind == "flash_trains":
        keys = [*KEYS, *("" for _ in panel.lamps)]
        return Pad([PadKey(*own) for own in zip(panel.lamps, keys, strict=False)], "flashes")
    if panel.kind == "beeps":
        return Pad([PadKey("beep", KEYS[0])], "beeps")
    return None


def hearing(machine: MachineType, rhythm: str, engine: EngineTable) -> tuple[Heard, str]:
    """Return what a rhythm is heard as, and what to do about it. Raises BadValue."""
    found = hear_taps(machine, rhythm, engine)
    if found.first.code is None:
        return found, "In no table. Watch it once more, from its pause on."
    if found.first.chance < SURE:
        return found, "Not sure yet. Tap another round."
    return found, ""


def round_lines(found: Heard) -> list[RoundLine]:
    """Return the rounds under each other, with the odd ones marked."""
    return [
        RoundLine(NTH[n], " – ".join(str(count) for count in counts), n in found.odd)
        for n, counts in enumerate(found.rounds)
    ]


def reading_lines(found: Heard) -> list[ReadingLine]:
    """Return every code it may be, the likeliest first."""
    return [_line(percent(reading.chance), reading.code) for reading in found.readings]


def decoded_lines(found: Decoded) -> list[ReadingLine]:
    """Return what an exact reading stands for, with the codes one step away."""
    return [_line("", found.code), *(_line("one step away", code) for code in found.near)]


def _line(chance: str, code: Code | None) -> ReadingLine:
    if code is None:
        return ReadingLine(chance, "", "", IN_NO_TABLE)
    counts = " ".join(str(count) for count in code.record.show)
    return ReadingLine(chance, code.id, counts, code.record.name)
