"""What bare hands do to a machine: turn what turns, push, lift and rock, and what they feel."""

from collections.abc import Callable
from dataclasses import dataclass
from math import cos, exp, pi, sin, sqrt

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.stand import Stand
from bottega.rig.body import damping_ratio
from bottega.rig.programmes import TOP_LOADERS

STEPS = 120
"""Points of a curve that is felt."""
ROTOR_POLES = 2
"""Detents of a pump's rotor in half a turn; two poles, as synchronous pumps have."""
PLATE_NM, HUB_TEETH, SLIPS_BELOW = 3.0, 12, 0.7
"""What a hand on the plate has to give against a held basket, teeth of its hub, and below which
share of its grip it slips over them; chosen."""
PUSHED_MM, PUSHED_S = 40.0, 2.5
"""How far a tub is pushed down, and how long it is watched; chosen."""
LIFTED_MM, RIM_N_MM = 4.0, 60.0
"""How far a rim is lifted at most, and how stiff it is once its play is out; chosen."""


@dataclass(frozen=True)
class Curve:
    """What a hand feels: its name, what it is felt along, and the figures one after the other.
    ``wheel`` is true where it is felt over one turn, in newton metre, and may be turned."""

    name: str
    along: str
    values: tuple[float, ...]
    wheel: bool = False


def felt(at: Stand, what: str) -> Curve:
    """Return what a hand feels that does ``what``. Raises BadValue for what no hand does, Refused
    for what is behind something."""
    if what not in GESTURES:
        raise BadValue(f"Found '{what[:20]}', expected one of {', '.join(GESTURES)}.", "what")
    return GESTURES[what](at)


def wheels(at: Stand) -> list[Curve]:
    """Return what can be turned as it stands: the drum, a top loader's plate, and the pump's rotor
    once it is in sight."""
    found = []
    names = ["drum", "rotor"] + ["plate"] * (at.machine.kind in TOP_LOADERS)
    for name in names:
        try:
            found.append(felt(at, name))
        except Refused:
            continue
    return found


def _rotor(at: Stand) -> Curve:
    missing = _in_front_of(at, "drain_pump")
    if missing:
        raise Refused(f"The rotor is not in sight. First: {', '.join(missing)}.", "what")
    v = at.machine.v
    if v["pump_jam_share"] > 0.5:
        return Curve("Pump rotor", "one turn", (0.4,) * STEPS, wheel=True)
    step, drag = 0.06 * v["pump_detent_share"], 0.12 * v["pump_drag_share"]
    rough = 0.3 * drag if v["pump_drag_share"] > 0.18 else 0.02 * drag
    nm = (
        drag + step * sin(2 * ROTOR_POLES * _angle(n)) + rough * sin(23 * _angle(n))
        for n in range(STEPS)
    )
    return Curve("Pump rotor", "one turn", tuple(nm), wheel=True)


def _drum(at: Stand) -> Curve:
    v = at.machine.v
    drag = v["bearing_nm"] + (0.4 if v["gap_cloth_mm"] > 8 else 0.0)
    grain = 0.5 * v["bearing_nm"] * min(1.0, v["bearing_spall_mm"]) + 0.05 * v["gap_metal_mm"]
    tick = 0.15 * (v["lifter_object_g"] > 1)
    nm = (
        drag + grain * sin(31 * _angle(n)) + (tick if n % STEPS in (40, 41) else 0.0)
        for n in range(STEPS)
    )
    return Curve("Drum", "one turn", tuple(nm), wheel=True)


def _plate(at: Stand) -> Curve:
    """The wash plate or agitator turned with the basket held: what its hub or block passes on, and
    gives way at every tooth where it slips."""
    v = at.machine.v
    grip = min(1.0 - max(0.0, v["plate_slip_share"] - 0.1), v["agitator_grip_share"])
    slips = grip < SLIPS_BELOW
    nm = (
        PLATE_NM * grip * (abs(sin(HUB_TEETH * _angle(n) / 2)) if slips else 1.0)
        for n in range(STEPS)
    )
    return Curve("Wash plate", "one turn", tuple(nm), wheel=True)


def _push(at: Stand) -> Curve:
    """The tub pushed down and let go: x = x₀·e^(-ζω₀t)·cos(ω_d·t) of a mass on a spring with a
    damper (Rao, Mechanical Vibrations)."""
    v = at.machine.v
    zeta = min(damping_ratio(v["tub_kg"], v["spring_n_m"], v["damper_ns_m"]), 0.99)
    own = sqrt(v["spring_n_m"] / v["tub_kg"])
    times = (PUSHED_S * n / STEPS for n in range(STEPS))
    down = (-PUSHED_MM * exp(-zeta * own * t) * cos(own * sqrt(1 - zeta * zeta) * t) for t in times)
    return Curve("Tub pushed down and let go", f"{PUSHED_S:g} seconds", tuple(down))


def _lift(at: Stand) -> Curve:
    """The drum lifted at its edge: nothing until the play is out, then the bearings hold."""
    play = at.machine.v["bearing_play_mm"]
    lifted = (LIFTED_MM * n / STEPS for n in range(STEPS))
    return Curve(
        "Drum lifted at its edge",
        f"{LIFTED_MM:g} millimetres",
        tuple(RIM_N_MM * max(0.0, mm - play) for mm in lifted),
    )


def _rock(at: Stand) -> Curve:
    """The cabinet pressed at one corner: it follows until all four feet stand."""
    gap = at.machine.v["feet_gap_mm"]
    pressed = (LIFTED_MM * n / STEPS for n in range(STEPS))
    return Curve(
        "Cabinet pressed at a corner",
        f"{LIFTED_MM:g} millimetres",
        tuple(RIM_N_MM * max(0.0, mm - gap) for mm in pressed),
    )


def _in_front_of(at: Stand, component: str) -> list[str]:
    needs = at.machine_type.components[component].reach
    return [at.machine_type.operations[o].name for o in needs.off if o not in at.hands.off]


def _angle(n: int) -> float:
    return 2 * pi * n / STEPS


GESTURES: dict[str, Callable[[Stand], Curve]] = {
    "drum": _drum,
    "rotor": _rotor,
    "plate": _plate,
    "push": _push,
    "lift": _lift,
    "rock": _rock,
}
"""What bare hands do, by the name the form sends."""
