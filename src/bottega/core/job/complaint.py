"""Sort a complaint as typed: which of the library's phrases it holds, and in which phase of the
cycle they fall."""

import re
from dataclasses import dataclass

from bottega.core.library.machine_type import Complaint, MachineType
from bottega.core.library.vocabulary import PHASES

_DENIED = re.compile(r"\b(?:no|not|never|without|isn't|doesn't|nothing)\s+(?:\w+\s+)?$")


@dataclass(frozen=True)
class Heard:
    """A phrase heard in a complaint, and the words that gave it away."""

    complaint: Complaint
    words: str


def hear(machine: MachineType, text: str) -> list[Heard]:
    """Return the phrases found in a customer's words, in the order of the cycle's phases. Denied
    words do not count."""
    lower = " ".join(text.lower().replace("’", "'").split())
    found = []
    for complaint in machine.complaints.values():
        words = next((w for w in complaint.record.words if _stands(w.lower(), lower)), None)
        if words:
            found.append(Heard(complaint, words))
    return sorted(found, key=lambda heard: PHASES.index(heard.complaint.record.phase))


def by_phase(machine: MachineType) -> list[tuple[str, list[Complaint]]]:
    """Return all phrases grouped by phase, phases in the order of a cycle, empty ones left out."""
    grouped = [
        (phase, [c for c in machine.complaints.values() if c.record.phase == phase])
        for phase in PHASES
    ]
    return [(phase, phrases) for phase, phrases in grouped if phrases]


def _stands(words: str, text: str) -> bool:
    return any(
        not _DENIED.search(text[: match.start()])
        for match in re.finditer(rf"\b{re.escape(words)}\b", text)
    )
