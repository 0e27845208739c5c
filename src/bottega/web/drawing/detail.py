"""The enlarged detail of a part that leads: which of its spots are hatched, and what its numbers
stand for."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import suspicion

LEAST = ("none", "faint")
"""Suspicions too weak to be hatched; the fault the detail is drawn for is hatched all the same."""


@dataclass(frozen=True)
class Detail:
    """A part drawn enlarged: the drawing's name, what it shows, the fault it is drawn for, the
    suspicion at each of its spots, what is touched at 1, 2, 3."""

    id: str
    name: str
    fault: str
    marks: dict[str, str]
    touch: tuple[str, ...]


def detail_of(answer: Answer, fault: str) -> Detail | None:
    """Return the detail a fault is seen in, hatched as suspected now, or None when it is not drawn
    enlarged."""
    machine, belief = answer.machine, answer.belief
    name = machine.detail_of(fault)
    if name is None:
        return None
    record = machine.details[name]
    marks = {}
    for spot, seen in record.spots.items():
        there = [f for f in seen if f in machine.faults]
        mark = suspicion(belief.any_of(dict.fromkeys(there, 1.0))) if there else "none"
        marks[spot] = "wide" if fault in there and mark in LEAST else mark
    return Detail(name, record.name, machine.faults[fault].name, marks, record.touch)
