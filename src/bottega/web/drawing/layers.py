"""The strip-down as layers: every operation a slab, in rows by how deep it lies, what is off and
what comes next."""

from dataclasses import dataclass
from graphlib import TopologicalSorter

from bottega.app.answer import Answer
from bottega.core.library.machine_type import MachineType
from bottega.core.machine.reach import Reach
from bottega.web.drawing.text import lines

SLAB_WIDTH, SLAB_HEIGHT, SLANT = 138.0, 38.0, 14.0
"""A slab and its slant, in drawing units; chosen, so that two lines of a name fit."""
SLABS_LEFT, SLABS_TOP = 16.0, 14.0
"""Where the first slab stands, in drawing units; chosen."""
DESK, PHONE = 5, 2
"""Slabs in a row; chosen, so that their names are read at a drawing's own size on either screen."""
LIFTED = 6.0
"""How far a slab that is off is shifted at the most, in drawing units; chosen."""
BETWEEN, BELOW = 4.0, 12.0
"""Between rows of one depth, and below a depth, in drawing units; chosen."""
LETTERS = 21
"""Letters in a line of a slab; measured at 13 px."""
MOST_DOTS = 12
"""Fasteners counted on a slab; chosen, more run into each other."""
SLAB_LINE = 13.0
"""From line to line, in drawing units; chosen for type of 13 units."""


@dataclass(frozen=True)
class TextLine:
    """One line of a slab's name."""

    y: float
    text: str


@dataclass(frozen=True)
class Layer:
    """One operation of the strip-down as a slab: off or on, next on the way or not. Coordinates in
    drawing units."""

    operation: str
    name: str
    x: float
    y: float
    off: bool
    step: int
    minutes: float
    fasteners: int
    """How many hold it."""

    @property
    def dots(self) -> list[float]:
        """Return where its fasteners are counted along its front edge, left to right; not where
        they sit. None where it is not on the way."""
        shown = min(self.fasteners, MOST_DOTS) if self.step else 0
        return [round(self.x + SLAB_WIDTH * (n + 0.5) / shown, 1) for n in range(shown)]

    @property
    def dots_y(self) -> float:
        """Return the height of that edge."""
        return self.y + 34

    @property
    def text(self) -> list[TextLine]:
        """Return the lines of its name where they stand."""
        shown = lines(self.name, LETTERS)
        first = self.y + (13 if len(shown) > 1 else 20)
        return [TextLine(first + n * SLAB_LINE, line) for n, line in enumerate(shown)]

    @property
    def slab(self) -> str:
        """Return the outline of the slab."""
        return f"M{self.x + 12:g} {self.y:g}h{SLAB_WIDTH:g}l-12 32h-{SLAB_WIDTH:g}z"

    @property
    def edge(self) -> str:
        """Return the front edge of the slab."""
        return f"M{self.x:g} {self.y + 32:g}v4h{SLAB_WIDTH:g}l12 -32v-4"

    @property
    def text_x(self) -> float:
        """Return where its name begins."""
        return self.x + SLANT

    @property
    def number_at(self) -> tuple[float, float]:
        """Return where the number of its step stands."""
        return (self.x + SLAB_WIDTH - 4, self.y + 9)


@dataclass(frozen=True)
class LayerStack:
    """All slabs, and the size of the drawing that holds them."""

    layers: tuple[Layer, ...]
    width: float
    height: float


def layers_of(answer: Answer, reach: Reach | None, across: int = DESK) -> LayerStack:
    """Return the strip-down as slabs in rows by how deep they lie, so many in a row; what is off,
    and the steps of ``reach`` numbered."""
    machine, off = answer.machine, answer.job.state.off
    steps = [step.to for step in reach.steps if step.kind == "operation"] if reach else []
    layers, y = [], SLABS_TOP
    for row in _rows(machine):
        row.sort(
            key=lambda op: (
                op not in steps and op not in off,
                steps.index(op) if op in steps else 0,
            )
        )
        for place, operation in enumerate(row):
            if place and place % across == 0:
                y += SLAB_HEIGHT + BETWEEN
            layers.append(
                Layer(
                    operation=operation,
                    name=machine.operations[operation].name,
                    x=SLABS_LEFT + (place % across) * (SLAB_WIDTH + SLANT),
                    y=y,
                    off=operation in off,
                    step=steps.index(operation) + 1 if operation in steps else 0,
                    minutes=machine.operations[operation].minutes,
                    fasteners=sum(one.count for one in machine.operations[operation].fasteners),
                )
            )
        y += SLAB_HEIGHT + BELOW
    bottom = layers[-1].y + 48 if layers else 0.0
    return LayerStack(tuple(layers), SLABS_LEFT + across * (SLAB_WIDTH + SLANT) + LIFTED, bottom)


def _rows(machine: MachineType) -> list[list[str]]:
    """Return the operations by how many lie over them, those with none first."""
    above = {
        name: [o for o in op.after if o in machine.operations]
        for name, op in machine.operations.items()
    }
    depth: dict[str, int] = {}
    for name in TopologicalSorter(above).static_order():
        depth[name] = 1 + max((depth[o] for o in above[name]), default=-1)
    rows: list[list[str]] = [[] for _ in range(max(depth.values(), default=-1) + 1)]
    for name in machine.operations:
        rows[depth[name]].append(name)
    return rows
