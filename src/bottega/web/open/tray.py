"""The tray seen from above: a cell for each thing that is off, its fasteners drawn to scale and
counted, those of another length apart."""

import re
from dataclasses import dataclass

from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Fastener

TRAY_PX_MM = 1.7
"""Drawing units a millimetre; chosen, a screw of 16 mm is seen at arm's length."""
CELL_WIDEST = 210.0
"""Drawing units that fasteners are drawn one by one over; the rest is counted."""
TRAY_ROW, TRAY_PAD = 26.0, 8.0
USUAL_MM = {"screw": (4.0, 13.0), "bolt": (8.0, 30.0), "nut": (13.0, 7.0), "clip": (8.0, 14.0)}
"""Width and length of what has no size; chosen, the usual of sheet metal work."""
OTHER_MM = (10.0, 12.0)
_SIZE = re.compile(r"M?(\d+(?:\.\d+)?)(?:\s*x\s*(\d+(?:\.\d+)?))?")


@dataclass(frozen=True)
class DrawnFastener:
    """One fastener from the side: where its head and its shank stand."""

    x: float
    y: float
    width: float
    length: float

    @property
    def path(self) -> str:
        """Return head and shank as lines."""
        half, head = self.width / 2, self.width
        return (
            f"M{self.x:.1f} {self.y - head:.1f}v{2 * head:.1f}M{self.x:.1f} {self.y - half:.1f}"
            f"h{self.length:.1f}v{self.width:.1f}h{-self.length:.1f}"
        )


@dataclass(frozen=True)
class TrayRow:
    """The fasteners of one kind in a cell: drawn, counted, named with where they go."""

    drawn: tuple[DrawnFastener, ...]
    y: float
    text: str
    text_x: float
    left_hand: bool


@dataclass(frozen=True)
class Cell:
    """One cell of the tray: the operation it belongs to, its fasteners, how high it is drawn."""

    operation: str
    name: str
    rows: tuple[TrayRow, ...]
    height: float


def tray_of(machine: MachineType, off: tuple[str, ...]) -> list[Cell]:
    """Return the cells that are full, the last filled first."""
    cells = []
    for name in reversed(off):
        record = machine.operations.get(name)
        if record is None or not record.fasteners:
            continue
        laid = [one for one in record.fasteners if not one.slacken]
        rows = tuple(_row(one, n) for n, one in enumerate(laid))
        if rows:
            cells.append(Cell(name, record.name, rows, len(rows) * TRAY_ROW + TRAY_PAD))
    return cells


def _row(fastener: Fastener, place: int) -> TrayRow:
    width, length = _size(fastener)
    y = place * TRAY_ROW + TRAY_ROW / 2 + TRAY_PAD / 2
    step = length * TRAY_PX_MM + 9
    shown = max(1, min(fastener.count, int(CELL_WIDEST / step)))
    drawn = tuple(
        DrawnFastener(TRAY_PAD + n * step, y, width * TRAY_PX_MM / 2, length * TRAY_PX_MM)
        for n in range(shown)
    )
    parts = [f"{fastener.count} × {fastener.kind}", fastener.size or "", fastener.place or ""]
    text = ", ".join(part for part in parts if part)
    return TrayRow(drawn, y, text, TRAY_PAD + shown * step + 6, fastener.hand == "left")


def _size(fastener: Fastener) -> tuple[float, float]:
    usual = USUAL_MM.get(fastener.kind, OTHER_MM)
    match = _SIZE.search(fastener.size or "")
    width = float(match.group(1)) if match else usual[0]
    length = fastener.length_mm or (float(match.group(2)) if match and match.group(2) else usual[1])
    return min(width, 14.0), min(length, 60.0)
