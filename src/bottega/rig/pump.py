"""The drain pump: head against flow, a rotor that steps or slips, what stands in its way."""

from cmath import phase
from dataclasses import dataclass
from math import acos, cos, hypot, sin, sqrt

from bottega.rig.values import Values
from bottega.rig.water import in_series

SHAFT_W, IDLE_W, DRAG_W = 17.0, 4.0, 20.0
"""Watts at the shaft of a pump that moves water, of one that spins in air, and of all the drag its
bushes can have; chosen, so that a sound one takes 25 to 35 W."""
SOUND_COIL_OHM = 120.0
"""Below this a coil has shorted turns, and its field goes with it; chosen."""
JAMS_FROM = 0.5
"""Share of jamming from which a rotor does not turn; chosen."""
OPEN_COIL_OHM = 1e5
LINT_CLOSES = 1.2
"""Power with which lint closes a filter by the share it covers; chosen."""
RATED_HERTZ = 50.0


@dataclass(frozen=True)
class Pump:
    """How a pump runs now: its flow in litre/minute, whether its rotor turns, its current in
    ampere, and its power in watt."""

    l_min: float
    turns: bool
    ampere: float
    watts: float


NOTHING = Pump(0.0, False, 0.0, 0.0)


def synchronous(
    volts: float, ohm: float, reactance_ohm: float, emf_v: float, *, shaft_w: float
) -> tuple[float, float] | None:
    """Return ampere and watts of a permanent-magnet synchronous motor that gives so many watts at
    its shaft, or None where they pull it out of step.

    P = VE/Z cos(θ - δ) - E²R/Z² with Z = R + jX = Z∠θ and the load angle δ, I = (V - E∠-δ)/Z
    (Fitzgerald, Electric Machinery, on steady-state power-angle characteristics).
    """
    impedance = complex(ohm, reactance_ohm)
    size, angle = abs(impedance), phase(impedance)
    most = volts * emf_v / size
    if most <= 0:
        return None
    cosine = (shaft_w + emf_v**2 * ohm / size**2) / most
    if cosine > 1:
        return None
    lags = angle - acos(cosine)
    current = (volts - emf_v * complex(cos(lags), -sin(lags))) / impedance
    return abs(current), volts * current.real


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


def filter_open(v: Values) -> float:
    """Return the share of a filter that is open: lint closes its slots and what lies on them."""
    return v.filter_open_share * float((1 - v.filter_lint_share) ** LINT_CLOSES)


def pumping(v: Values, volts: float, hertz: float, lift_m: float, *, has_water: bool) -> Pump:
    """Return how the pump of a machine with the values ``v`` runs at so many volts; none while
    it has no current."""
    coil, per_hertz = v.pump_coil_ohm, hertz / RATED_HERTZ
    if not volts or coil > OPEN_COIL_OHM:
        return NOTHING
    reactance = v.pump_reactance_ohm * per_hertz
    field = v.pump_rotor_share * min(1.0, coil / SOUND_COIL_OHM)
    shaft_w = (SHAFT_W if has_water else IDLE_W) + DRAG_W * v.pump_drag_share
    runs = synchronous(
        volts, coil, reactance, v.pump_emf_v * field * per_hertz, shaft_w=shaft_w * per_hertz
    )
    turns = runs is not None and v.pump_jam_share < JAMS_FROM
    stands = volts / hypot(coil, reactance)
    ampere, watts = runs if runs is not None and turns else (stands, stands * stands * coil)
    if not turns or not has_water:
        return Pump(0.0, turns, ampere, watts)
    way = in_series(
        v.way_filter_l_min * filter_open(v),
        v.way_sump_l_min * v.sump_open_share,
        v.way_hose_l_min * v.outlet_open_share,
        v.way_hose_l_min * (1 - v.pump_object_share),
    )
    speed = v.pump_blade_share * per_hertz
    return Pump(
        flow_l_min(v.pump_head_m, v.pump_open_l_min, lift_m, way, speed=max(speed, 1e-3)),
        turns,
        ampere,
        watts,
    )
