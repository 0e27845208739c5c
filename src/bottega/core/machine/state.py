"""The state of the machine: plug, taps, water, stored charge, drum, posture, what is off."""

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
    off: tuple[str, ...] = ()

    def changed(self, what: str, to: str, holds_charge: bool) -> "MachineState":
        """Return the state after one change. Pulling the plug leaves a charge where the machine
        stores one."""
        after = replace(self, **{what: to})  # type: ignore[arg-type]  # what is never "off" here
        if what == "power":
            after = replace(
                after,
                charge="held"
                if to == "off" and holds_charge and self.power == "on"
                else self.charge,
            )
            if to == "on":
                after = replace(after, charge="none")
        return after

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
