"""What can hurt somebody as a machine stands, said at the step where it hurts."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.library.invariant_record import InvariantTable
from bottega.core.library.records import StoredCharge
from bottega.core.machine.state import MachineState
from bottega.core.wording import upper_first


@dataclass(frozen=True)
class Caution:
    """One caution: what of the state it belongs to, its words, and whether it is a danger to
    life."""

    about: Literal["power", "charge", "water"]
    words: str
    live: bool = False


def left_v(charge: StoredCharge, touch_below_v: float, minutes: float) -> float:
    """Return the volts still expected some minutes after the plug came out.

    A capacitor over its bleeder falls as exp(-t / RC), a first-order discharge; RC follows from the
    wait after which it is safe. A bleeder may be open: this never replaces measuring.
    """
    safe = touch_below_v / charge.full_v
    return charge.full_v * float(safe ** (minutes / charge.wait_minutes))


def cautions(
    state: MachineState,
    charge: StoredCharge | None,
    table: InvariantTable,
    unplugged_min: float = 0.0,
) -> tuple[Caution, ...]:
    """Return what to beware of as the machine stands, what can kill first. ``charge`` is what the
    machine stores, ``table`` says below which voltage it may be touched, ``unplugged_min`` how long
    ago the plug came out."""
    found = []
    if state.charge != "none" and charge:
        found.append(_charged(charge, table, unplugged_min if state.power == "off" else 0.0))
    if state.power != "off":
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


def fallen(charge: StoredCharge, unplugged_min: float) -> bool:
    """Return whether a stored charge should have gone by its own discharge."""
    return unplugged_min >= charge.wait_minutes


def _charged(charge: StoredCharge, table: InvariantTable, unplugged_min: float) -> Caution:
    where = f"{upper_first(charge.where)}"
    limit = f"at most {table.touch_below_v:g} V"
    rule = f"{upper_first(charge.source)}. {table.touch_source}."
    if fallen(charge, unplugged_min):
        return Caution(
            "charge",
            f"Measure before touching: {charge.where} should have lost its charge by itself, "
            f"{limit}. What discharges it may be broken. {rule}",
        )
    return Caution(
        "charge",
        f"{where} may still be charged, some "
        f"{left_v(charge, table.touch_below_v, unplugged_min):.0f} V by now. "
        f"Wait {charge.wait_minutes:g} minutes from the plug, then measure: {limit}. {rule}",
        live=True,
    )


def live_and_open(state: MachineState) -> bool:
    """Return whether the machine is plugged in while something is off it: live parts can be
    touched."""
    return state.power == "on" and bool(state.off)
