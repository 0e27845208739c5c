"""What a meter's leads touch between two points of a machine of physics, as it stands and runs."""

from bottega.app.rig.stand import Stand
from bottega.rig.circuit import net_of, resistance_ohm, volts_between
from bottega.rig.machine import MOTOR_OHM, Machine
from bottega.rig.parameters import loads

SWITCHED = ("cold", "hot", "pump", "element", "lock", "fan", "drying")
"""Loads whose contact the board closes."""
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
    on = frozenset(load for load in SWITCHED if getattr(machine.asks, load))
    if quantity == "ac_volts":
        turning = max(machine.v.motor_coil_ohm, MOTOR_OHM)
        v = machine.v.but(motor_coil_ohm=turning)
        net = net_of(v, machine.warmth.water_c, on, None, plugged=at.live)
        return volts_between(net, machine.v.mains_v, first, second)
    if quantity not in ("resistance", "insulation") or at.live:
        return None
    net = net_of(machine.v, machine.warmth.water_c, on, None, plugged=False)
    ohm = resistance_ohm(net, first, second)
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
