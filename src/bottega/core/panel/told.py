"""Codes that somebody tells of in words: it shows 21, error E77, the lamp flashes six times, then
once."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import takewhile

from bottega.core.library.machine_type import Code, MachineType
from bottega.core.panel.decoder import PanelError, decode, decode_text
from bottega.core.panel.notation import TONES

SHOWS = re.compile(
    r"\b(?:show(?:s|ed|ing)?|display(?:s|ed|ing)?|say(?:s|ing)?|said|read(?:s|ing)?|error|code|fault"
    r"|message|flash(?:es|ed|ing)?|blink(?:s|ed|ing)?|beep(?:s|ed|ing)?|light(?:s)?|bar)\b",
    re.IGNORECASE,
)
"""Words behind which people say what a panel shows."""
WINDOW = 12
"""Words behind such a word in which the code is looked for; chosen, a clause and a half."""
FIGURES = {"zero": 0, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}
FIGURES |= {"seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12}
FIGURES |= {"once": 1, "twice": 2}
UNITS = {"hour", "hours", "minute", "minutes", "min", "seconds", "degrees", "litres", "rpm"}
"""Words behind a figure that is none of a code."""
_WORD = re.compile(r"[^\W_]+", re.ASCII)


@dataclass(frozen=True)
class CodeTold:
    """A code of the sheet that somebody told of, and the words of it as they stand in the text."""

    code: Code
    words: str


def codes_told(machine: MachineType, text: str) -> tuple[CodeTold, ...]:
    """Return the codes of a machine's sheet that are told of in a text, each once; none for a
    machine without a panel. Figures count only behind a word for showing: 21 minutes are no
    code."""
    if machine.panel is None:
        return ()
    found: dict[str, CodeTold] = {}
    for start in SHOWS.finditer(text):
        told = _first(machine, text, start.end())
        if told is not None:
            found.setdefault(told.code.id, told)
    return tuple(found.values())


def _first(machine: MachineType, text: str, after: int) -> CodeTold | None:
    """Return the first code behind a place in a text, or None."""
    words = list(_WORD.finditer(text, after))[:WINDOW]
    for first in range(len(words)):
        for code, last in _readings(machine, [word.group().lower() for word in words[first:]]):
            if code is not None:
                told = text[words[first].start() : words[first + last].end()]
                return CodeTold(code, told)
    return None


def _readings(machine: MachineType, words: Sequence[str]) -> Iterator[tuple[Code | None, int]]:
    """Yield what a panel may show by the words from the first on, and how many words behind it the
    last one stands that was used."""
    kind = machine.panel.kind if machine.panel else ""
    if kind == "display":
        yield _by_text(machine, words[0]), 0
        if len(words) > 1:
            yield _by_text(machine, words[0] + words[1]), 1
    elif kind == "bar":
        if words[0] in TONES:
            yield from _by_figures(machine, words, [TONES.index(words[0])])
    elif kind == "melody":
        tones = list(takewhile(lambda word: word in TONES, words))
        if tones:
            yield _decoded(machine, tuple(TONES.index(tone) for tone in tones)), len(tones) - 1
    else:
        yield from _by_figures(machine, words, [])


def _by_text(machine: MachineType, word: str) -> Code | None:
    try:
        return decode_text(machine, word).code
    except PanelError:
        return None


def _by_figures(
    machine: MachineType, words: Sequence[str], known: list[int]
) -> Iterator[tuple[Code | None, int]]:
    """Yield what the figures among the words stand for, two and more of them, or one behind what
    is ``known``."""
    figures = list(known)
    for place, word in enumerate(words):
        figure = int(word) if word.isdecimal() and len(word) < 4 else FIGURES.get(word)
        if figure is None or not UNITS.isdisjoint(words[place + 1 : place + 2]):
            if not figures:
                return
            continue
        figures.append(figure)
        if len(figures) > 1:
            yield _decoded(machine, tuple(figures)), place


def _decoded(machine: MachineType, show: tuple[int, ...]) -> Code | None:
    try:
        return decode(machine, show).code
    except PanelError:
        return None
