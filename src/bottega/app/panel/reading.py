"""Read the panel: what was written down, tapped or touched, decoded by the sheet."""

from typing import get_args

from bottega.app.errors import BadValue, InNoTable
from bottega.app.panel.elsewhere import elsewhere
from bottega.app.panel.heard import look_up
from bottega.core.job.events import Order, PanelRead
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf
from bottega.core.panel.decoder import IN_NO_TABLE, Decoded

MOST_READ_CODES = 8
"""Codes of one reading; chosen, twice what any sheet's panel holds."""
LINE = "seen_{}"
"""The field of one code, numbered from nought."""
ORDERS: tuple[Order, ...] = get_args(Order)


def read_panel(shelf: Shelf, job: Job, machine: MachineType, fields: dict[str, str]) -> PanelRead:
    """Return the event of a reading from a form's fields and ``result``: codes, none or unreadable;
    unknown for codes of which some are in no table.

    Fields are seen_N, written as ``notation`` has it, ``order``, ``stays`` and ``version``. Raises
    BadValue for what is no showing of this panel, and InNoTable, then with the codes one step
    away.
    """
    result = fields.get("result", "")
    if result not in ("codes", "unknown", "none", "unreadable"):
        raise BadValue(f"Found '{result}', expected codes, none or unreadable.", "result")
    lines = [fields.get(LINE.format(n), "").strip() for n in range(MOST_READ_CODES)]
    lines = [line[:40] for line in lines if line]
    if result in ("none", "unreadable") and lines:
        raise BadValue("Codes are typed in as well. Empty them, or keep them as codes.", "result")
    version = fields.get("version", "").strip()[:40]
    if result == "none":
        return PanelRead(result="none", version=version)
    if result == "unreadable":
        return PanelRead(result="unreadable", attempts=min(job.entry_failed, 99))
    if not lines:
        raise BadValue(
            "No code is written down. If the memory is empty, choose “None stored”.", "codes"
        )
    order = next((known for known in ORDERS if known == fields.get("order", "")), None)
    if order is None:
        raise BadValue("Found another order of the codes, expected one offered.", "order")
    decoded = [(line, _decoded(shelf, machine, line)) for line in lines]
    strange = [(line, found) for line, found in decoded if found.code is None]
    if strange and result != "unknown":
        raise InNoTable(
            _in_no_table(*strange[0]) + elsewhere(shelf, machine, strange[0][0]), "codes"
        )
    return PanelRead(
        result="codes",
        shown=tuple(found.shown for _, found in decoded if found.shown and found.code),
        codes=tuple(found.code.id for _, found in decoded if found.code is not None),
        unlisted=tuple(line for line, _ in strange),
        order=order,
        stays=bool(fields.get("stays")),
        version=version,
    )


def _decoded(shelf: Shelf, machine: MachineType, line: str) -> Decoded:
    """Return what a line stands for; one this panel cannot show may be another model's."""
    try:
        return look_up(machine, line)
    except BadValue as error:
        raise BadValue(str(error) + elsewhere(shelf, machine, line), "codes") from error


def _in_no_table(line: str, found: Decoded) -> str:
    near = ", ".join(f"{code.id} ({code.record.name})" for code in found.near)
    hint = f" One step away: {near}." if near else ""
    return f"{line} is {IN_NO_TABLE}. Watch it again.{hint}"
