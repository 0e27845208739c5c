"""The sheet of the station *Panel*: how its codes are read, what was read, how the memory is
cleared."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.core.job.words import code_words
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.sheet import PanelRecord
from bottega.web.job.sheet import Desk, Sheet
from bottega.web.panel.heard import NTH, Pad, pad_of

LINES = {"flash_trains": 4, "beeps": 4, "display": 4, "lamp_pattern": 2, "lamp_weights": 2}
"""Codes that can be noted at once by the kind of panel; chosen, as many as are seen at one go."""


@dataclass(frozen=True)
class Cell:
    """One thing seen on the panel: the name of its field, what it shows, what was typed or ticked
    last."""

    name: str
    label: str
    typed: str


@dataclass(frozen=True)
class CodeLine:
    """One code as it is seen, or one page of it: which, and its cells."""

    nth: str
    page: str
    cells: list[Cell]


@dataclass(frozen=True)
class PanelSheet(Sheet):
    """What the station *Panel* shows; ``panel`` is None for a machine without a sheet."""

    template: ClassVar[str] = "panel/_sheet.html"
    panel: PanelRecord | None
    unit: str
    pad: Pad | None
    """Keys to tap along with; None where nothing flashes or beeps."""
    lines: list[CodeLine]
    meanings: list[tuple[str, list[Code]]]
    """Without a sheet what its board may store by meaning, by family."""
    ticked: frozenset[str]
    """Of those what was ticked before it was refused."""
    read: str
    """What was read last, in words; empty when nothing was."""


def panel_sheet(desk: Desk) -> PanelSheet:
    """Return the sheet of the station *Panel*."""
    panel, job = desk.answer.machine.panel, desk.answer.job
    typed = desk.error.typed if desk.error else {}
    read = ""
    if job.panel and job.panel.result == "codes":
        read = "; ".join(code_words(desk.answer.machine, code) for code in job.panel.codes)
    elif job.panel:
        read = "no code stored" if job.panel.result == "none" else "it could not be read"
    unit = "beeps" if panel and panel.kind == "beeps" else "flashes"
    return PanelSheet(
        panel,
        unit,
        pad_of(panel) if panel else None,
        _lines(panel, typed) if panel else [],
        [] if panel else _meanings(desk.answer.machine),
        frozenset(typed.get("codes", "").split()),
        read,
    )


def _meanings(machine: MachineType) -> list[tuple[str, list[Code]]]:
    families: dict[str, list[Code]] = {}
    for code in machine.meanings.values():
        families.setdefault(code.record.family or "", []).append(code)
    return list(families.items())


def _lines(panel: PanelRecord, typed: dict[str, str]) -> list[CodeLine]:
    """Return the lines to be filled in, by the way the panel shows its codes."""
    found = []
    for n in range(LINES[panel.kind]):
        if panel.kind == "lamp_weights":
            found += [
                CodeLine(
                    NTH[n], page, [_cell(f"{page}_{n}_{w}", str(w), typed) for w in panel.weights]
                )
                for page in panel.lamps
            ]
        elif panel.kind == "display":
            found.append(CodeLine(NTH[n], "", [_cell(f"text_{n}", panel.lamps[0], typed)]))
        else:
            ends = "_on" if panel.kind == "lamp_pattern" else ""
            cells = [_cell(f"{lamp}_{n}{ends}", lamp, typed) for lamp in panel.lamps]
            found.append(CodeLine(NTH[n], "", cells))
    return found


def _cell(name: str, label: str, typed: dict[str, str]) -> Cell:
    return Cell(name, label, typed.get(name, ""))
