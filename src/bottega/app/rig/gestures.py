"""What bare hands do to a machine: turn what turns, push, lift and rock, and what they feel."""

from collections.abc import Callable
from dataclasses import dataclass
from math import cos, exp, pi, sin, sqrt

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.law import TURNED, in_short, refuse, way_to
from bottega.app.rig.stand import Stand
from bottega.rig.body import damping_ratio
from bottega.rig.drives import DIRECT_KINDS
from bottega.rig.programmes import TOP_LOADERS

STEPS = 120
"""Points of a curve that is felt."""
ROTOR_POLES = 2
"""Poles of a pump's rotor, as synchronous pumps have: so many times a turn it holds."""
COGS, COGS_NM = 24, 0.15
"""How often in a turn the magnets of a direct drive catch at its teeth, and how hard, in newton
metre; chosen, the least common multiple of twelve teeth and eight poles."""
HAND_RAD_S = 2.0
"""How fast a hand turns a drum, in radian/second; chosen, a turn in three seconds."""
PLATE_NM, HUB_TEETH, SLIPS_BELOW = 3.0, 12, 0.7
"""What a hand on the plate has to give against a held basket, teeth of its hub, and below which
share of its grip it slips over them; chosen."""
BRAKED = frozenset({"TG", "TS", "SL"})
"""Kinds whose basket a brake holds while nothing runs."""
PUSHED_MM, PUSHED_S = 40.0, 2.5
"""How far a tub is pushed down, and how long it is watched; chosen."""
LIFTED_MM, RIM_N_MM = 4.0, 60.0
"""How far a rim is lifted at most, and how stiff it is once its play is out; chosen."""


@dataclass(frozen=True)
class FeltCurve:
    """What a hand feels: its name, what it is felt along, and the figures one after the other: of
    what is turned newton metre, of the tub millimetre, of rim and corner newton."""

    name: str
    along: str
    values: tuple[float, ...]


def offered(at: Stand) -> dict[str, str]:
    """Return what bare hands can do to a machine of its kind: the name a form sends, and its
    words."""
    plate = at.machine.kind in TOP_LOADERS
    return {name: words for name, (words, _) in GESTURES.items() if plate or name != "plate"}


def felt(at: Stand, what: str) -> FeltCurve:
    """Return what a hand feels that does ``what``. Raises BadValue for what no hand does, Refused
    for what is behind something, and for what turns while the plug is in."""
    if what not in offered(at):
        raise BadValue(f"Found '{what[:20]}', expected one of {', '.join(offered(at))}.", "what")
    refuse(at, "feel", what)
    return GESTURES[what][1](at)


def wheels(at: Stand) -> list[FeltCurve]:
    """Return what can be turned as it stands: the drum, a top loader's plate, and the pump's rotor
    once it is in sight."""
    found = []
    for name in TURNED:
        try:
            found.append(felt(at, name))
        except (BadValue, Refused):
            continue
    return found


def _rotor(at: Stand) -> FeltCurve:
    pump = at.machine_type.components["drain_pump"]
    missing = way_to(at, pump.reach)
    if missing:
        raise Refused(f"The rotor is not in sight. First: {in_short(missing)}.", "what")
    v = at.machine.v
    if v.pump_jam_share > 0.5:
        return FeltCurve("Pump rotor", "one turn", (0.4,) * STEPS)
    step, drag = 0.06 * v.pump_detent_share, 0.12 * v.pump_drag_share
    rough = 0.3 * drag if v.pump_drag_share > 0.18 else 0.02 * drag
    nm = (
        drag + step * sin(ROTOR_POLES * _angle(n)) + rough * sin(23 * _angle(n))
        for n in range(STEPS)
    )
    return FeltCurve("Pump rotor", "one turn", tuple(nm))


def _drum(at: Stand) -> FeltCurve:
    v = at.machine.v
    drag = at.machine.turning.steady_nm + (0.4 if v.gap_cloth_mm > 8 else 0.0)
    drag += v.brake_nm if at.machine.kind in BRAKED else 0.0
    grain = 0.5 * v.bearing_nm * min(1.0, v.bearing_spall_mm) + 0.05 * v.gap_metal_mm
    tick = 0.15 * (v.lifter_object_g > 1)
    drag += at.machine.turning.braked_nm_s * HAND_RAD_S
    cogs = COGS_NM * v.magnet_share if at.machine.kind in DIRECT_KINDS else 0.0
    nm = (
        drag
        + cogs * sin(COGS * _angle(n))
        + grain * sin(31 * _angle(n))
        + (tick if n % STEPS in (40, 41) else 0.0)
        for n in range(STEPS)
    )
    return FeltCurve("Drum", "one turn", tuple(nm))


def _plate(at: Stand) -> FeltCurve:
    """The wash plate or agitator turned with the basket held: what its hub or block passes on, and
    gives way at every tooth where it slips."""
    v = at.machine.v
    grip = min(1.0 - max(0.0, v.plate_slip_share - 0.1), v.agitator_grip_share)
    slips = grip < SLIPS_BELOW
    nm = (
        PLATE_NM * grip * (abs(sin(HUB_TEETH * _angle(n) / 2)) if slips else 1.0)
        for n in range(STEPS)
    )
    return FeltCurve("Wash plate", "one turn", tuple(nm))


def _push(at: Stand) -> FeltCurve:
    """The tub pushed down and let go: x = x₀·e^(-ζω₀t)·cos(ω_d·t) of a mass on a spring with a
    damper (Rao, Mechanical Vibrations)."""
    v = at.machine.v
    zeta = min(damping_ratio(v.tub_kg, v.spring_n_m, v.damper_ns_m), 0.99)
    own = sqrt(v.spring_n_m / v.tub_kg)
    times = (PUSHED_S * n / STEPS for n in range(STEPS))
    down = (-PUSHED_MM * exp(-zeta * own * t) * cos(own * sqrt(1 - zeta * zeta) * t) for t in times)
    return FeltCurve("Tub pushed down and let go", f"{PUSHED_S:g} seconds", tuple(down))


def _lift(at: Stand) -> FeltCurve:
    """The drum lifted at its edge: nothing until the play is out, then the bearings hold."""
    return _given("Drum lifted at its edge", at.machine.v.bearing_play_mm)


def _rock(at: Stand) -> FeltCurve:
    """The cabinet pressed at one corner: it follows until all four feet stand."""
    return _given("Cabinet pressed at a corner", at.machine.v.feet_gap_mm)


def _given(name: str, slack_mm: float) -> FeltCurve:
    """Return the force of what gives way so far and then holds."""
    moved = (LIFTED_MM * n / STEPS for n in range(STEPS))
    newton = tuple(RIM_N_MM * max(0.0, mm - slack_mm) for mm in moved)
    return FeltCurve(name, f"{LIFTED_MM:g} millimetres", newton)


def _angle(n: int) -> float:
    return 2 * pi * n / STEPS


GESTURES: dict[str, tuple[str, Callable[[Stand], FeltCurve]]] = {
    "drum": ("Turn the drum by hand", _drum),
    "plate": ("Turn the wash plate", _plate),
    "rotor": ("Turn the pump's rotor", _rotor),
    "push": ("Push the tub down", _push),
    "lift": ("Lift the drum", _lift),
    "rock": ("Press a corner", _rock),
}
"""What bare hands do, by the name the form sends: its words, and what is felt."""
