"""The drain pump: head against flow, a rotor that steps or slips, what stands in its way."""

from dataclasses import dataclass
from math import sqrt

from bottega.rig.water import in_series

LOAD_SHARE = 0.35
"""Of a sound rotor's torque, what turning in water asks for; chosen from the margin such motors
are built with."""


@dataclass(frozen=True)
class Pump:
    """How a pump runs now: its flow in litre/minute, whether its rotor turns, and its current in
    ampere."""

    l_min: float
    turns: bool
    ampere: float


def head_m(l_min: float, shut_off_m: float, open_l_min: float, speed: float = 1.0) -> float:
    """Return the head in metre a pump gives at a flow, H = H₀n²(1 - (q/(q₀n))²): a parabola
    through its two ends, scaled by the affinity laws with the share ``speed`` of its rated
    speed."""
    return shut_off_m * speed**2 * (1 - (l_min / (open_l_min * speed)) ** 2)


def flow_l_min(
    shut_off_m: float, open_l_min: float, lift_m: float, way: float, *, speed: float = 1.0
) -> float:
    """Return the flow in litre/minute where the pump's head meets lift and loss, ``way`` being
    what passes at one metre of loss. Nought when the lift is too high."""
    spare = shut_off_m * speed**2 - lift_m
    if spare <= 0 or way <= 0:
        return 0.0
    return sqrt(spare / (shut_off_m / open_l_min**2 + 1 / way**2))


def pumping(
    v: dict[str, float], volts: float, hertz: float, lift_m: float, *, has_water: bool
) -> Pump:
    """Return how the pump of a machine with the values ``v`` runs at so many volts; none while
    it has no current."""
    coil = v["pump_coil_ohm"]
    if volts < 0.5 * v["mains_v"] or coil > 1e5:
        return Pump(0.0, False, 0.0)
    reactance = v["pump_reactance_ohm"] * hertz / 50
    ask = (LOAD_SHARE if has_water else 0.05) + v["pump_drag_share"]
    strength = v["pump_rotor_share"] * min(1.0, (volts / v["mains_v"]) ** 2) * min(1.0, coil / 120)
    turns = strength > ask and v["pump_jam_share"] < 0.5
    ampere = volts / sqrt(coil**2 + (reactance * (1.0 if turns else 0.75)) ** 2)
    if not turns or not has_water:
        return Pump(0.0, turns, ampere)
    way = in_series(
        v["way_filter_l_min"] * v["filter_open_share"],
        v["way_sump_l_min"] * v["sump_open_share"],
        v["way_hose_l_min"] * v["outlet_open_share"],
        v["way_hose_l_min"] * (1 - v["pump_object_share"]),
    )
    speed = v["pump_blade_share"] * hertz / 50
    return Pump(
        flow_l_min(v["pump_head_m"], v["pump_open_l_min"], lift_m, way, speed=max(speed, 1e-3)),
        turns,
        ampere,
    )
