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
    live_test: str = ""
    """The check it is plugged in for while something is open; empty where none was declared."""

    def changed(
        self, what: str, to: str, holds_charge: bool, live_test: str = ""
    ) -> "MachineState":
        """Return the state after one change. What is plugged in, or was, holds a charge where the
        machine stores one; pulling the plug ends a live test."""
        changes = {what: to}
        if what == "power":
            plugged = "on" in (to, self.power) or self.power == "unknown"
            held = "held" if plugged else self.charge
            changes["charge"] = held if holds_charge else "none"
            changes["live_test"] = live_test if to == "on" else ""
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
