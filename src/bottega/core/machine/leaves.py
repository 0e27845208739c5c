"""How a machine stands once a check was made on it: what the check did to it."""

from bottega.core.library.machine_type import Check
from bottega.core.library.vocabulary import Act
from bottega.core.machine.state import MachineState

Left = dict[str, str]
"""What of the state a check changes, by field."""


def left_by(
    check: Check, outcome: str, state: MachineState, acts: tuple[Act, ...] | None = None
) -> Left:
    """Return what of ``state`` is otherwise after a check with this outcome: nothing that it needs
    to be so. ``acts`` are those of the service step it was made in, where it was.

    Water that was run in stands in it. What pumps well is empty, and what does not, nobody knows.
    A run with the taps open may leave water, but for one that was watched to its end and went well.
    """
    does, left = acts or check.acts, Left()
    well = outcome == check.outcomes[0].id
    if "open_door" in does:
        left["door"] = "open"
    if "pump" in does:
        left["water"] = "out" if well else "unknown"
    elif "fill" in does:
        left["water"] = "in"
    elif "run" in does and check.needs.water is None and state.taps != "shut":
        left["water"] = "out" if check.watches and well else "unknown"
    return {field: to for field, to in left.items() if getattr(state, field) != to}
