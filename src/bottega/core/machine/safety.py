"""What can hurt somebody as a machine stands, said at the step where it hurts."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.library.records import StoredCharge
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Caution:
    """One caution: what of the state it belongs to, its words, and whether it is a danger to
    life."""

    about: Literal["power", "charge", "water"]
    words: str
    live: bool = False


def cautions(state: MachineState, charge: StoredCharge | None) -> tuple[Caution, ...]:
    """Return what to beware of as the machine stands, what can kill first. ``charge`` is what the
    machine stores."""
    found = []
    if state.charge == "held" and charge:
        found.append(
            Caution(
                "charge",
                f"{charge.where[:1].upper()}{charge.where[1:]} may still be charged. "
                f"Wait {charge.wait_minutes:g} minutes, or measure: at most "
                f"{charge.safe_below_v:g} V. "
                f"{charge.source[:1].upper()}{charge.source[1:]}.",
                live=True,
            )
        )
    if state.power == "on":
        found.append(
            Caution(
                "power",
                "Pull the plug itself; a switch may be wired wrong or break one pole only. "
                "In service mode it can fill, heat and spin regardless: somebody stays with it.",
            )
        )
    if state.water != "out":
        found.append(
            Caution(
                "water",
                "There may be water in the tub. Hot water scalds; feel how warm it is first. "
                "Let it out the way this machine is made for, a flat tray under it.",
            )
        )
    return tuple(found)


def live_and_open(state: MachineState) -> bool:
    """Return whether the machine is plugged in while something is off it: live parts can be
    touched."""
    return state.power == "on" and bool(state.off)
