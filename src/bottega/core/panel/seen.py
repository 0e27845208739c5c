"""What lit lamps, a bar or characters stand for when some were not seen for certain: every code of
the table with its chance, by Bayes."""

from functools import lru_cache
from itertools import product
from math import prod

from bottega.core.library.machine_type import MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.tables import PanelTable
from bottega.core.panel.decoder import PanelError, characters, panel_of, refuse_impossible
from bottega.core.panel.heard import PanelReadings, by_chance, showings
from bottega.core.panel.segments import strays

UNSURE = None
"""A lamp, tone or length nobody is sure of."""
Page = tuple[int | None, ...]
ANY_CHARACTER = "?"
MOST_WEIGHTS = 12
"""Lamps of a weighted row; chosen, their sums are gone through one by one."""


def seen(machine: MachineType, pages: tuple[Page, ...], slips: PanelTable) -> PanelReadings:
    """Return what lamps stand for, as ``Shown.lit`` lays them out, None where somebody is unsure.
    Each is misread with the chance of the panel's table; one nobody is sure of says nothing.
    Raises PanelError for what this panel has not."""
    panel = panel_of(machine)
    if panel.kind not in ("lamp_pattern", "lamp_weights", "bar"):
        raise PanelError(f"found lamps, expected what this panel shows: {panel.how}")
    _refuse_strange(panel, pages)
    slip = slips.lamp_misread
    unlisted = _fits(panel, _guess(panel, pages), pages, slip) / showings(panel)
    readings = by_chance(
        machine, lambda code: _fits(panel, code.record.show, pages, slip), unlisted, slips
    )
    return PanelReadings((), readings, ())


def seen_sums(machine: MachineType, sums: tuple[int, ...], slips: PanelTable) -> PanelReadings:
    """Return what the sums of a weighted row's pages stand for; one lamp more or less is the slip
    people make. Raises PanelError for sums that cannot be."""
    panel = panel_of(machine)
    refuse_impossible(panel, sums)
    slip = slips.lamp_misread

    near = slip / (2 * len(panel.weights))
    readings = by_chance(
        machine,
        lambda code: prod(
            1 - slip if a == b else near if abs(a - b) in panel.weights else 0.0
            for a, b in zip(code.record.show, sums, strict=True)
        ),
        (1 - slip) ** len(sums) / showings(panel),
        slips,
    )
    return PanelReadings((), readings, ())


def seen_text(machine: MachineType, text: str, slips: PanelTable) -> PanelReadings:
    """Return what characters stand for, a question mark where somebody is unsure. Raises
    PanelError."""
    panel = panel_of(machine)
    wanted = characters(panel, text, ANY_CHARACTER)
    slip = slips.lamp_misread
    sure = len(wanted) - wanted.count(ANY_CHARACTER)
    unlisted = (_LETTERS * (1 - slip)) ** sure
    readings = by_chance(
        machine, lambda code: _spelt(panel, code.record.text or "", wanted, slip), unlisted, slips
    )
    return PanelReadings((), readings, ())


_LETTERS = 1 / 30
"""The share of one character among those a display forms; rounded."""


def _spelt(panel: PanelRecord, known: str, text: str, slip: float) -> float:
    """Return P(the characters were read | a code's text was shown): one bar more or less is the
    slip people make."""
    if len(known) != len(text):
        return 0.0
    chance = 1.0
    for true, read in zip(known.lower(), text, strict=True):
        if read == ANY_CHARACTER:
            continue
        off = strays(panel.segments, true, read)
        chance *= 1 - slip if off == 0 else slip * (_LETTERS if off > 1 else _LETTERS * 5)
    return chance


def _refuse_strange(panel: PanelRecord, pages: tuple[Page, ...]) -> None:
    wanted = 1 if panel.kind == "lamp_pattern" else len(panel.lamps)
    if len(pages) != wanted:
        raise PanelError(f"found {len(pages)} pages of lamps, expected {wanted}")
    for page in pages:
        places = 1 if panel.kind == "bar" else len(panel.weights or panel.lamps)
        if len(page) != places:
            raise PanelError(f"found {len(page)} lamps, expected {places}")
    brightest = 2 if panel.blinks else 1
    most = [1, panel.most_flashes] if panel.kind == "bar" else [brightest] * len(pages)
    for page, high in zip(pages, most, strict=True):
        for lamp in page:
            if lamp is not None and not 0 <= lamp <= high:
                raise PanelError(f"found {lamp}, expected 0 to {high}")


def _guess(panel: PanelRecord, pages: tuple[Page, ...]) -> tuple[int, ...]:
    """Return what was seen as a code would show it, unsure places dark."""
    plain = [tuple(lamp or 0 for lamp in page) for page in pages]
    if panel.kind == "lamp_pattern":
        return plain[0]
    if panel.kind == "bar":
        return tuple(page[0] for page in plain)
    return tuple(sum(w * on for w, on in zip(panel.weights, page, strict=True)) for page in plain)


def _fits(panel: PanelRecord, show: tuple[int, ...], pages: tuple[Page, ...], slip: float) -> float:
    """Return P(the lamps were seen so | a code showed these figures)."""
    if panel.kind == "lamp_pattern":
        states = 3 if panel.blinks else 2
        return prod(_lamp(a, b, slip, states) for a, b in zip(show, pages[0], strict=True))
    if panel.kind == "bar":
        tone, length = pages[0][0], pages[1][0]
        return _lamp(show[0], tone, slip, 2) * _length(show[1], length, slip)
    return prod(
        sum(prod(_lamp(a, b, slip, 2) for a, b in zip(lit, page, strict=True)) for lit in rows)
        / max(1, len(rows))
        for total, page in zip(show, pages, strict=True)
        for rows in (_rows(panel.weights, total),)
    )


def _lamp(true: int, read: int | None, slip: float, states: int) -> float:
    if read is None:
        return 1.0
    return 1 - slip if true == read else slip / (states - 1)


def _length(true: int, read: int | None, slip: float) -> float:
    """Return P(a bar's length is read | its length); one segment off is the slip people make."""
    if read is None:
        return 1.0
    off = abs(true - read)
    return 1 - slip if off == 0 else slip / 2 if off == 1 else slip**2 / 10


@lru_cache(maxsize=256)
def _rows(weights: tuple[int, ...], total: int) -> tuple[tuple[int, ...], ...]:
    """Return every way lamps of a weighted row add up to a sum."""
    return tuple(
        lit
        for lit in product((0, 1), repeat=min(len(weights), MOST_WEIGHTS))
        if sum(w * on for w, on in zip(weights, lit, strict=True)) == total
    )
