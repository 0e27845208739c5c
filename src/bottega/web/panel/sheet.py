"""The sheet of the station *Panel*: how its service mode is entered, how its codes are read, what
was read, how the memory is cleared, and what came back."""

from dataclasses import dataclass
from datetime import datetime
from typing import ClassVar

from bottega.app.errors import InNoTable
from bottega.app.panel.reading import LINE, MOST_READ_CODES
from bottega.app.washer.past import jobs_before
from bottega.core.job.clearing import clearing_round
from bottega.core.job.events import PanelRead
from bottega.core.job.job import Job
from bottega.core.job.kinds import told
from bottega.core.job.words import code_words
from bottega.core.library.machine_type import Check, Code, MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.web.panel.coach import Coach, coach_of
from bottega.web.panel.face import DrawnPanel, face_of
from bottega.web.panel.heard import NTH, LiveLine, Pad, live_lines, pad_of
from bottega.web.station.sheet import Desk, Sheet

IN_SIGHT = 4
"""Codes that stand open to be noted; chosen, more are seldom stored."""
ASKS = {
    "flash_trains": "flashes of each lamp, as 3-2",
    "strokes": "both figures, as 3-2",
    "beeps": "beeps of each group, as 3-2",
    "melody": "a letter for each tone, as hllhl",
    "display": "what the display shows",
    "bar": "tone and length, as low 4",
    "lamp_weights": "the sum before and after, as 4.17",
    "lamp_pattern": "- for a dark lamp, o lit, * blinking, row by row",
}
LAMP_TEST = "lamp_test"


@dataclass(frozen=True)
class CodeLine:
    """The field of one code: which, its name, what was typed last."""

    nth: str
    name: str
    typed: str


@dataclass(frozen=True)
class ReadLine:
    """One reading of this job: when, what it showed, and whether the memory had been cleared before
    and run since."""

    at: datetime
    told: str
    after_clear: bool
    job: str = ""
    """The job it was read in, where that is another one."""
    photo: str = ""


@dataclass(frozen=True)
class PanelRound:
    """The led round of clearing, running and reading again: which step is due, and what came
    back."""

    due: str
    came_back: list[str]
    stayed_away: list[str]


@dataclass(frozen=True)
class PanelSheet(Sheet):
    """What the station *Panel* shows; ``panel`` is None for a machine without a sheet."""

    template: ClassVar[str] = "panel/_sheet.html"
    panel: PanelRecord | None
    face: DrawnPanel | None
    pad: Pad | None
    """Keys to tap along with; None where nothing flashes or beeps."""
    coach: Coach | None
    asks: str
    lines: list[CodeLine]
    more_lines: list[CodeLine]
    typed: dict[str, str]
    strange: bool
    """Whether what was typed last is in no table, and could be kept all the same."""
    lamp_test: Check | None
    live: list[LiveLine]
    meanings: list[tuple[str, list[Code]]]
    """Without a sheet what its board may store by meaning, by family."""
    ticked: frozenset[str]
    """Of those what was ticked before it was refused."""
    readings: list[ReadLine]
    """Every reading of this job, the last first."""
    before: list[ReadLine]
    """Readings of its earlier jobs, the last first."""
    round: PanelRound | None
    """None before a code was read."""


def panel_sheet(desk: Desk) -> PanelSheet:
    """Return the sheet of the station *Panel*."""
    machine, job = desk.answer.machine, desk.answer.job
    panel = machine.panel
    typed = desk.error.typed if desk.error else {}
    return PanelSheet(
        panel,
        face_of(panel) if panel else None,
        pad_of(panel) if panel else None,
        coach_of(panel, job.entry_failed, desk.workshop.shelf.tables) if panel else None,
        ASKS[panel.kind] if panel else "",
        [_code_line(n, typed) for n in range(IN_SIGHT)] if panel else [],
        [_code_line(n, typed) for n in range(IN_SIGHT, MOST_READ_CODES)] if panel else [],
        typed,
        desk.error is not None and issubclass(desk.error.of, InNoTable),
        machine.checks.get(LAMP_TEST),
        live_lines(panel, None) if panel else [],
        [] if panel else _meanings(machine),
        frozenset(typed.get("codes", "").split()),
        _readings(job, machine),
        _before(desk),
        _round(job, machine),
    )


def _code_line(n: int, typed: dict[str, str]) -> CodeLine:
    name = LINE.format(n)
    return CodeLine(NTH[n], name, typed.get(name, ""))


def _meanings(machine: MachineType) -> list[tuple[str, list[Code]]]:
    families: dict[str, list[Code]] = {}
    for code in machine.meanings.values():
        families.setdefault(code.record.family or "", []).append(code)
    return list(families.items())


def _readings(job: Job, machine: MachineType) -> list[ReadLine]:
    return [
        ReadLine(entry.event.at, told(machine, body)[1], entry.since_clear, photo=body.photo)
        for entry in reversed(job.live)
        if isinstance(body := entry.body, PanelRead)
    ]


def _before(desk: Desk) -> list[ReadLine]:
    return [
        ReadLine(line.at, line.came, False, other.number)
        for other in jobs_before(desk.workshop, desk.answer)
        for line in reversed(other.lines)
        if line.kind == "panel_read"
    ]


def _round(job: Job, machine: MachineType) -> PanelRound | None:
    """Return where the round stands, its codes in words."""
    found = clearing_round(job)
    if found is None:
        return None
    back, away = (
        [code_words(machine, code) for code in codes] for codes in (found.back, found.away)
    )
    return PanelRound(found.due, back, away)
