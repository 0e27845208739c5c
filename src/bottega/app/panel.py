"""Read the panel: counts as typed or tapped, decoded by the sheet."""

from bottega.app.errors import BadValue
from bottega.core.job.events import PanelRead
from bottega.core.library.machine_type import MachineType
from bottega.core.panel.flash import PanelError, decode

MOST_TRAINS = 8


def read_flashes(machine: MachineType, fields: dict[str, str]) -> PanelRead:
    """Return the event of a reading from fields named LAMP_N, and ``result`` codes, none or unreadable.

    Raises BadValue for counts that are no number, half a train, or in no table; then with the codes one flash away.
    """
    result = fields.get("result", "")
    if result not in ("codes", "none", "unreadable"):
        raise BadValue(f"Found '{result}', expected codes, none or unreadable.", "result")
    lamps = machine.panel.lamps if machine.panel else ()
    trains = [train for n in range(MOST_TRAINS) if (train := _train(lamps, fields, n))]
    if result != "codes":
        if trains:
            raise BadValue("Counts are typed in as well. Empty them, or keep them as codes.", "result")
        return PanelRead(result="none" if result == "none" else "unreadable")
    if not trains:
        raise BadValue("No count is typed in. If the memory is empty, choose “None stored”.", "codes")
    codes = []
    for train in trains:
        try:
            decoded = decode(machine, train)
        except PanelError as error:
            raise BadValue(str(error)[0].upper() + str(error)[1:] + ".", "codes") from error
        if decoded.code is None:
            near = ", ".join(f"{code.id} ({code.record.name})" for code in decoded.near)
            hint = f" One flash away: {near}." if near else ""
            shown = "-".join(str(count) for count in train)
            raise BadValue(f"{shown} is in no table: a misread or a bad lamp. Watch it again.{hint}", "codes")
        codes.append(decoded.code.id)
    return PanelRead(result="codes", shown=tuple(trains), codes=tuple(codes))


def _train(lamps: tuple[str, ...], fields: dict[str, str], n: int) -> tuple[int, ...]:
    typed = [fields.get(f"{lamp}_{n}", "").strip() for lamp in lamps]
    if not any(typed):
        return ()
    counts = []
    for lamp, text in zip(lamps, typed, strict=True):
        if not text.isdigit():
            raise BadValue(f"Found '{text or 'nothing'}' for {lamp} flashes, expected a whole number.", "codes")
        counts.append(int(text[:4]))
    return tuple(counts)
