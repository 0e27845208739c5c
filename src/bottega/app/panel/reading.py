"""Read the panel: what was typed, tapped or ticked, decoded by the sheet."""

from bottega.app.errors import BadValue
from bottega.app.panel.heard import look_up
from bottega.core.job.events import PanelRead
from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import PanelRecord
from bottega.core.panel.decoder import IN_NO_TABLE, Decoded

MOST_CODES = 8
"""Codes of one reading; chosen, twice what any sheet's panel holds."""


def read_panel(machine: MachineType, fields: dict[str, str]) -> PanelRead:
    """Return the event of a reading from a form's fields and ``result``: codes, none or unreadable.

    Fields are LAMP_N for flashes and beeps, text_N for a display, LAMP_N_on for lit lamps, PAGE_N_W
    for weighted lamps. Raises BadValue for what is no number, half a code, or in no table; then
    with the codes one step away.
    """
    result = fields.get("result", "")
    if result not in ("codes", "none", "unreadable"):
        raise BadValue(f"Found '{result}', expected codes, none or unreadable.", "result")
    seen = (
        [one for n in range(MOST_CODES) if (one := _one(machine.panel, fields, n)) is not None]
        if machine.panel
        else []
    )
    if result != "codes":
        if seen:
            raise BadValue(
                "Codes are typed in as well. Empty them, or keep them as codes.", "result"
            )
        return PanelRead(result="none" if result == "none" else "unreadable")
    if not seen:
        raise BadValue(
            "No count is typed in. If the memory is empty, choose “None stored”.", "codes"
        )
    decoded = [_decoded(machine, one) for one in seen]
    return PanelRead(
        result="codes",
        shown=tuple(d.shown for d in decoded if d.shown),
        codes=tuple(d.code.id for d in decoded if d.code is not None),
    )


def _decoded(machine: MachineType, seen: tuple[int, ...] | str) -> Decoded:
    decoded = look_up(machine, seen)
    if decoded.code is None:
        near = ", ".join(f"{code.id} ({code.record.name})" for code in decoded.near)
        hint = f" One step away: {near}." if near else ""
        shown = seen if isinstance(seen, str) else "-".join(str(count) for count in seen)
        raise BadValue(f"{shown} is {IN_NO_TABLE}. Watch it again.{hint}", "codes")
    return decoded


def _one(panel: PanelRecord, fields: dict[str, str], n: int) -> tuple[int, ...] | str | None:
    """Return the n-th code as seen, or None when nothing was entered for it."""
    if panel.kind == "display":
        return fields.get(f"text_{n}", "").strip() or None
    if panel.kind == "lamp_pattern":
        lit = tuple(int(bool(fields.get(f"{lamp}_{n}_on"))) for lamp in panel.lamps)
        return lit if any(lit) else None
    if panel.kind == "lamp_weights":
        sums = tuple(
            sum(w for w in panel.weights if fields.get(f"{page}_{n}_{w}")) for page in panel.lamps
        )
        return sums if any(sums) else None
    typed = [fields.get(f"{lamp}_{n}", "").strip() for lamp in panel.lamps]
    if not any(typed):
        return None
    for lamp, text in zip(panel.lamps, typed, strict=True):
        if not (text.isascii() and text.isdecimal()):
            what = "beeps" if panel.kind == "beeps" else "flashes"
            raise BadValue(
                f"Found '{text or 'nothing'}' for {lamp} {what}, expected a whole number.", "codes"
            )
    return tuple(int(text[:4]) for text in typed)
