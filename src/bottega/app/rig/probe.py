"""What a meter's leads touch between two points of a machine of physics, as it stands and runs."""

from dataclasses import replace

from bottega.app.rig.stand import Stand
from bottega.rig.circuit import Contacts, meter_ohm, meter_volts
from bottega.rig.machine import Machine
from bottega.rig.parameters import loads

OHM_A_MEGOHM = 1e6
SUPPLY = {"mains", "socket", "plug", "fuse", "filter", "board"}
"""Where all that the machine takes comes through."""


def between(at: Stand, first: str, second: str, quantity: str) -> float | None:
    """Return what is to be read of a quantity between two points, in its unit; None for an open
    circuit, for what these leads cannot read, and for ohms of a live machine. Raises
    NoSuchPoint."""
    machine = at.machine
    if quantity in ("current", "power"):
        return _flowing(machine, first, second)[quantity]
    wiring, v = machine.wiring, machine.v
    stands = Contacts(machine.closed, plugged=at.live, water_c=machine.warmth.water_c, turns=True)
    if quantity == "ac_volts":
        return meter_volts(wiring, v, stands, first, second)
    if quantity not in ("resistance", "insulation") or at.live:
        return None
    ohm = meter_ohm(wiring, v, replace(stands, turns=False), first, second)
    return ohm if ohm is None or quantity == "resistance" else ohm / OHM_A_MEGOHM


def _flowing(machine: Machine, first: str, second: str) -> dict[str, float]:
    """Return current and power: of one load with a clamp or a power meter on its two wires, of the
    whole machine from the board back to the wall, nothing where none flows."""
    ends = {point.split(".")[0] for point in (first, second)}
    load = next(iter(ends)) if len(ends) == 1 else ""
    if load in loads():
        ampere, watts = machine.now.taken.get(load, (0.0, 0.0))
    elif ends <= SUPPLY:
        ampere, watts = machine.now.ampere, machine.now.watts
    else:
        ampere = watts = 0.0
    return {"current": ampere, "power": watts}
