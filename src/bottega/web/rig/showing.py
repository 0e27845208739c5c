"""What the panel of a machine of physics shows of its memory, as the browser plays it."""

import json
from dataclasses import dataclass

from bottega.app.rig.stand import Stand
from bottega.core.library.machine_type import Code
from bottega.core.panel.encoder import shown
from bottega.core.panel.segments import glyph
from bottega.rig.memory import codes_shown


@dataclass(frozen=True)
class Showing:
    """What the panel shows: the schedule for its lamps as JSON, and the same in words for who
    cannot see it; whether it is heard instead."""

    schedule: str
    words: str
    heard: bool


def showing_of(at: Stand) -> Showing | None:
    """Return what the panel shows once its memory is asked, None for a machine without a panel."""
    panel = at.machine_type.panel
    if panel is None:
        return None
    if not at.asked_panel:
        return Showing("", "", False)
    if at.machine.now.volts <= 0:
        return Showing("", "The panel is dark.", False)
    codes = codes_shown(at.bench, at.machine_type, "stand")
    if not codes:
        return Showing("", "Nothing is stored.", False)
    first = at.machine_type.codes[codes[at.shown_code % len(codes)]]
    schedule = _schedule(at, first)
    heard = panel.kind in ("beeps", "melody")
    words = (
        f"Code {at.shown_code % len(codes) + 1} of {len(codes)} {'sounds' if heard else 'shows'}."
    )
    return Showing(json.dumps(schedule), words, heard)


def _schedule(at: Stand, code: Code) -> dict[str, object]:
    panel = at.machine_type.panel
    assert panel is not None
    found = shown(panel, code)
    dark = round(at.machine.v["lamps_dead"])
    bars = [glyph(panel.segments, letter) or "" for letter in found.text]
    lit = [[0 if n < dark else state for n, state in enumerate(page)] for page in found.lit]
    return {
        "taps": [[tap.at_s, tap.lamp, max(tap.held_s, 0.3)] for tap in found.taps],
        "lit": lit,
        "bars": bars,
        "kind": panel.kind,
    }
