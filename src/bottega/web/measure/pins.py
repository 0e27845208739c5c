"""A plug drawn from the side that is probed: its pins with their wires, the pair to touch next
lit, and which pairs have which window."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.errors import AppError
from bottega.app.measure.reading import window_of
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import Check
from bottega.core.measure.units import amount_in, limits_in

STEP, PINS_TOP = 64, 40
"""Between pins, and above the first row, in drawing units."""
NO_END = 1e5
"""A limit so high is none."""
WIRE, STAGGER, WIDE = 29, 15, 4
"""How far below a pin its wire is named, and by how much every second one lower in a row of more
than so many."""


@dataclass(frozen=True)
class DrawnPin:
    """One pin: its number, where it stands, and where it stands seen from behind; the wire, where
    that goes, and the place of its pair in the order of touching, None where it is not touched."""

    number: int
    x: int
    mirrored_x: int
    y: int
    wire: str
    wire_y: int
    goes: str
    lit: tuple[int, ...]


@dataclass(frozen=True)
class PinMap:
    """A plug as it is drawn beside a check: its pins, and every pair of it with its window, the
    check's own marked."""

    name: str
    seen: str
    source: str
    width: int
    height: int
    pins: list[DrawnPin]
    pairs: list[tuple[str, str, str, bool]]


def pin_map(workshop: Workshop, answer: Answer, check: Check) -> PinMap | None:
    """Return the plug a measurement is made at, or None where none is drawn."""
    plugs = answer.machine.connectors.values()
    plug = next((plug for plug in plugs if check.id in plug.pairs), None)
    if plug is None:
        return None
    touched = plug.pairs[check.id]
    width = STEP * max(len(row) for row in plug.rows)
    pins = []
    for r, row in enumerate(plug.rows):
        for c, number in enumerate(row):
            x = STEP * c + STEP // 2
            lit = tuple(n for n, pair in enumerate(touched) if number in pair)
            wire, goes = plug.pins[number].wire, plug.pins[number].goes
            y = PINS_TOP + (STEP + STAGGER) * r
            wire_y = WIRE + (STAGGER * (c % 2) if len(row) > WIDE else 0)
            pins.append(DrawnPin(number, x, width - x, y, wire, wire_y, goes, lit))
    pairs = []
    for name, some in plug.pairs.items():
        other = answer.machine.checks.get(name)
        if other is not None and other.measure is not None:
            words = ", ".join(f"{a}–{b}" for a, b in some)
            pairs.append((words, other.name, _window(workshop, answer, other), name == check.id))
    height = PINS_TOP + (STEP + STAGGER) * len(plug.rows)
    source = f"{plug.grade}: {plug.source}" if plug.source else f"{plug.grade}, of its kind"
    return PinMap(plug.name, plug.seen, source, width, height, pins, pairs)


def _window(workshop: Workshop, answer: Answer, check: Check) -> str:
    try:
        window = window_of(workshop, answer.job, answer.machine, check)
    except AppError:
        return ""
    system = workshop.settings.units
    if window.high >= NO_END:
        return f"{amount_in(window.low, window.unit, system)} or more"
    return limits_in(window.low, window.high, window.unit, system)
