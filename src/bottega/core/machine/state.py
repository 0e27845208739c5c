"""The state of the machine: plug, taps, water, stored charge, drum, door or lid, posture, what is
off."""

from dataclasses import dataclass, replace

from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import STATES


@dataclass(frozen=True)
class MachineState:
    """How the machine stands now. ``off`` holds the operations done and not yet undone, in
    order."""

    power: str = "on"
    taps: str = "open"
    water: str = "unknown"
    charge: str = "none"
    drum: str = "empty"
    posture: str = "upright"
    door: str = "shut"
    off: tuple[str, ...] = ()

    def changed(self, what: str, to: str, holds_charge: bool) -> "MachineState":
        """Return the state after one change. Pulling the plug leaves a charge where the machine
        stores one."""
        changes = {what: to}
        if what == "power":
            holds = to == "off" and holds_charge and self.power == "on"
            changes["charge"] = "none" if to == "on" else "held" if holds else self.charge
        return replace(self, **changes)  # type: ignore[arg-type]  # what is never "off" here

    def meets(self, needs: Needs) -> bool:
        """Return whether a step with these needs could start now."""
        return not self.lacks(needs)

    def lacks(self, needs: Needs) -> list[tuple[str, str]]:
        """Return what is missing as (field, wanted) pairs, operations as ("off", id)."""
        missing = [
            (field, wanted)
            for field in STATES
            if (wanted := getattr(needs, field)) is not None and getattr(self, field) != wanted
        ]
        return missing + [
            ("off", operation) for operation in needs.off if operation not in self.off
        ]
