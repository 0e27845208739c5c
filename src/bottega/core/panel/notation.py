"""How a showing is written down in a line: 3-2 for flashes, hllhl for a melody, o-*.--o for lamps,
high-4 for a bar, a word for a display."""

import re

from bottega.core.library.panel_record import PanelRecord
from bottega.core.panel.decoder import PanelError

STATES = "-o*"
"""Dark, lit and blinking lamps; 0, 1 and 2 are read as well."""
TONES = ("low", "high")


def written(panel: PanelRecord, show: tuple[int, ...]) -> str:
    """Return a showing as it is written down; of a display its text is that already."""
    if panel.kind == "melody":
        return "".join(panel.lamps[tone][0] for tone in show)
    if panel.kind == "lamp_pattern":
        signs = "".join(STATES[state] for state in show)
        row = len(panel.face.lamps[0]) if panel.face.lamps else len(signs)
        return ".".join(signs[n : n + row] for n in range(0, len(signs), row))
    if panel.kind == "bar":
        return f"{TONES[show[0]]}-{show[1]}"
    return ("." if panel.kind == "lamp_weights" else "-").join(str(count) for count in show)


def parsed(panel: PanelRecord, text: str) -> tuple[int, ...] | str:
    """Return a showing from what somebody wrote; a text for a display. Capitals, spaces and the
    sign between figures do not matter. Raises PanelError."""
    plain = text.strip().lower()
    if panel.kind == "display":
        return plain
    if panel.kind == "melody":
        return _tones(panel, plain)
    if panel.kind == "lamp_pattern":
        return _states(plain)
    if panel.kind == "bar":
        return _bar(plain)
    words = [word for word in re.split(r"[\s,.;:/+-]+", plain) if word]
    if not words or not all(word.isascii() and word.isdecimal() for word in words):
        raise PanelError(f"found '{text}', expected whole numbers: " + " then ".join(panel.lamps))
    return tuple(int(word[:4]) for word in words)


def _tones(panel: PanelRecord, plain: str) -> tuple[int, ...]:
    tones = {lamp[0].lower(): n for n, lamp in enumerate(panel.lamps)}
    letters = [c for c in plain if not c.isspace() and c not in "-,."]
    if not letters or not set(letters) <= set(tones):
        raise PanelError(f"found '{plain}', expected a letter for each tone: {' or '.join(tones)}")
    return tuple(tones[c] for c in letters)


def _states(plain: str) -> tuple[int, ...]:
    signs = [c for c in plain if not c.isspace() and c not in ".,/"]
    known = {sign: n for n, sign in enumerate(STATES)} | {str(n): n for n in range(len(STATES))}
    if not signs or not set(signs) <= set(known):
        raise PanelError(
            f"found '{plain}', expected - for a dark lamp, o for a lit one, * blinking"
        )
    return tuple(known[c] for c in signs)


def _bar(plain: str) -> tuple[int, ...]:
    match = re.fullmatch(r"(l|h|0|1)[a-z]*[\s.,:-]*(\d{1,3})", plain, re.ASCII)
    if match is None:
        raise PanelError(f"found '{plain}', expected low or high and the length of the bar: low 4")
    return int(match[1] in "h1"), int(match[2])
