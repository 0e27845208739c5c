"""What the motors can give: torque at the drum by its speed, of brushes, of two windings with a
capacitor, of three phases; what the belt carries of it."""

from cmath import phase
from collections.abc import Callable
from dataclasses import dataclass
from math import cos, exp, hypot, inf, pi, sin, sqrt

from bottega.rig.units import MICRO, NEARLY_NOTHING
from bottega.rig.values import Values

RAD_S = 2 * pi / 60
"""From turns a minute to radian/second."""


BREAKDOWN_SLIP = 0.25
"""Slip at which an induction motor pulls hardest; usual of small ones with a capacitor. A motor on
electronics is taken to run at this slip."""
STARTS_SHARE = 0.67
"""Of its breakdown torque, what a motor starts with on its electronics; chosen."""
MAGNETISES_SHARE = 0.2
"""Of a locked rotor's current, what a motor takes in step to be magnetised; usual of small ones,
whose locked rotor takes three to four times the full current, and no load two thirds of it."""
INVERTER_FROM = 0.6
"""Share of its rated volts an inverter works from; chosen."""
INVERTER_SHARE, RECTIFIER_FACTOR = 0.95, 0.6
"""What an inverter passes on of its power, and the power factor of its rectifier with a smoothing
capacitor; usual of such drives."""
WINDING_FACTOR = 0.9
"""The most of volts times ampere that two windings turn into watts; chosen."""
BRUSH_ENDS_MM, BRUSH_FADES_MM = 6.0, 0.4
"""Length of a brush at which its spring comes to its end, and within what length its pressure
fades, in millimetre; chosen."""
DIRECT_RATIO = 1.0
TURNS_RAD_S = 9.0
"""Speed of a motor from which it counts as turning for its electronics; chosen."""
JERKS_SHARE = 0.12
"""The least that is left of a motor's mean torque without its position, where it pulls forward and
back in turn; chosen."""
LOST_PHASE_SHARE = 0.5
"""What is left of a motor's mean torque on two of three phases: it goes with the square of the sine
of the rotor's angle."""
GREEN_OHM, LEAST_SUPPLY_V = 3.0, 3.5
"""What a plug green all over adds to a phase, in ohm; and the least a position sensor works with.
Chosen."""
PHASES = 3
UNEVEN_LEAVES, SPLINE_HOLDS, SHORTED_OHM = 0.2, 0.2, 0.3
"""The least that uneven windings leave of a torque; the share of a spline that still drives; and a
winding below which it is shorted. Chosen."""
OPEN_PHASE_OHM = 1e4
"""From here on a phase carries no current."""


@dataclass(frozen=True)
class Torque:
    """What a drive can give at a speed: newton metre at the drum, and the ampere it takes for
    that."""

    nm: float
    ampere: float


@dataclass(frozen=True)
class Drawn:
    """What a motor draws for the torque that is used of it: ampere and watts from the mains, and
    the watts that warm its windings."""

    ampere: float
    watts: float
    heat_w: float


STANDS = Drawn(0.0, 0.0, 0.0)


def universal(
    volts: float, motor_rad_s: float, ohm: float, reactance_ohm: float, *, k: float
) -> Torque:
    """Return the torque at the motor's shaft of a series motor: the current by U against R + kω
    and X, the torque k·I² (Fitzgerald, Electric Machinery, on series motors)."""
    ampere = volts / sqrt((ohm + k * motor_rad_s) ** 2 + reactance_ohm**2)
    return Torque(k * ampere * ampere, ampere)


def two_windings(volts: float, slip: float, v: Values, hertz: float) -> Torque:
    """Return the torque at its shaft of a motor with a main and a start winding, the second behind
    a capacitor: the phasors of their currents make a field that turns forward and one that turns
    back, each with Kloss's torque by slip. The current falls with the slip from that of the
    locked rotor to what magnetises."""
    pull, locked_a = _pull(volts, slip, v, hertz)
    ampere = locked_a * hypot(MAGNETISES_SHARE, rotor_share(slip) * sqrt(1 - MAGNETISES_SHARE**2))
    return Torque(v.breakdown_nm * pull / v.sound_pull, ampere)


def on_electronics(volts: float, v: Values, hertz: float, *, starts: bool) -> Torque:
    """Return the torque of a two-winding motor whose electronics keep it at its breakdown slip,
    whatever speed they ask for. A motor that starts pulls with the difference of its two fields:
    sound windings give ``STARTS_SHARE`` of the breakdown torque, worse ones less in proportion."""
    given = two_windings(volts, BREAKDOWN_SLIP, v, hertz)
    if not starts:
        return given
    pull, ampere = _pull(volts, 1.0, v, hertz)
    return Torque(STARTS_SHARE * v.breakdown_nm * pull / v.sound_start_pull, ampere)


def rotor_share(slip: float, at_breakdown: float = BREAKDOWN_SLIP) -> float:
    """Return a rotor's current over that of the locked one by slip, √((1 + sₖ²) / (1 + (sₖ/s)²)),
    from the simplified equivalent circuit whose torque is Kloss's."""
    if abs(slip) < NEARLY_NOTHING:
        return 0.0
    return sqrt((1 + at_breakdown**2) / (1 + (at_breakdown / slip) ** 2))


def sound_pulls(v: Values) -> tuple[float, float]:
    """Return the pull of sound windings at breakdown, and as they start. The pull of a machine's
    windings over these gives its torque."""
    runs, starts = (_pull(v.mains_v, slip, v, v.hertz)[0] for slip in (BREAKDOWN_SLIP, 1.0))
    return runs, starts


def _pull(volts: float, slip: float, v: Values, hertz: float) -> tuple[float, float]:
    """Return the pull at a slip, in square ampere of the main winding, and the ampere taken."""
    main = volts / complex(v.main_ohm, v.main_ohm * v.winding_reactance_share)
    forward, back, start = _fields(volts, v, hertz, main)
    return forward**2 * kloss(slip) - back**2 * kloss(2 - slip), abs(main + start)


def _fields(volts: float, v: Values, hertz: float, main: complex) -> tuple[float, float, complex]:
    """Return the field that turns forward and the one that turns back, in ampere of the main
    winding, and the start winding's current."""
    omega, share = 2 * pi * hertz, v.winding_reactance_share
    farad, start = v.capacitor_uf * MICRO, 0j
    if farad > 0 and v.start_ohm < OPEN_PHASE_OHM:
        start = volts / complex(v.start_ohm, v.start_ohm * share - 1 / (omega * farad))
    lead = phase(start) - phase(main) if abs(start) and abs(main) else 0.0
    across = complex(cos(lead), sin(lead)) * abs(start) * v.start_turns_share
    return abs(abs(main) - 1j * across) / 2, abs(abs(main) + 1j * across) / 2, start


def kloss(slip: float, at_breakdown: float = BREAKDOWN_SLIP) -> float:
    """Return the torque over that at breakdown by slip, 2/(s/sₖ + sₖ/s) (Kloss)."""
    if abs(slip) < NEARLY_NOTHING:
        return 0.0
    return 2 / (slip / at_breakdown + at_breakdown / slip)


def three_phases(v: Values, drum_rad_s: float, volts_share: float = 1.0) -> Torque:
    """Return the torque at the drum of a permanent-magnet motor on its inverter: what the
    current limit gives, less above the speed where the back-EMF has eaten the volts (a share of
    the rated ones). Where its position is wrong it pulls back instead of forward; on two phases its
    torque comes and goes; a bridge that is shorted is switched off by its own protection."""
    windings = phases_ohm(v)
    whole = [ohm for ohm in windings if ohm < OPEN_PHASE_OHM]
    broken = v.bridge_stuck > 0.5 or v.bridge_dead > 0.5
    if v.bus_v < 100 or len(whole) < 2 or broken:
        return Torque(0.0, 0.0)
    share = 1.0 if len(whole) == PHASES else LOST_PHASE_SHARE
    uneven = (max(whole) - min(whole)) / max(min(whole), MICRO)
    share *= max(UNEVEN_LEAVES, 1 - uneven) * max(JERKS_SHARE, 2 * position_share(v) - 1)
    base = v.base_rpm * RAD_S * volts_share
    nm = v.phase_nm * v.magnet_share * share * (1.0 if drum_rad_s <= base else base / drum_rad_s)
    return Torque(nm, v.phase_a * share)


def phases_ohm(v: Values) -> tuple[float, float, float]:
    """Return the resistance of each phase from the inverter, with its wire."""
    plug = GREEN_OHM * v.drive_plug_green_share**2
    return v.phase_u_ohm + v.phase_wire_ohm + plug, v.phase_v_ohm + plug, v.phase_w_ohm + plug


def position_share(v: Values) -> float:
    """Return the share of a turn in which a rotor's position is told rightly; none without the
    sensor's supply."""
    return v.position_share if v.position_supply_v > LEAST_SUPPLY_V else 0.0


def braked_nm_s(v: Values) -> float:
    """Return what a motor with permanent magnets is braked with whose bridge is shorted, in newton
    metre for each radian/second: 3/2 kₑ²/R with the EMF constant kₑ = 2/3 · M/I (Fitzgerald, on
    synchronous machines, at speeds whose reactance is small)."""
    if v.bridge_stuck < 0.5:
        return 0.0
    emf_v_s = 2 / PHASES * v.phase_nm * v.magnet_share / v.phase_a
    return PHASES / 2 * emf_v_s**2 / v.phase_v_ohm


def belt_nm(tension_n: float, friction: float, wrap_rad: float, radius_m: float) -> float:
    """Return the most torque in newton metre a belt carries on a pulley of that radius
    (Eytelwein): both strands are tightened to ``tension_n`` at rest, slack and tight differ
    by e^(μα)."""
    if tension_n <= 0:
        return 0.0
    grip = exp(friction * wrap_rad)
    return 2 * tension_n * (grip - 1) / (grip + 1) * radius_m


Drive = Callable[[Values, float, float, float], Torque]
"""Values, volts, hertz and the motor's speed in radian/second; the torque at its shaft."""


def contact_ohm(v: Values) -> float:
    """Return the resistance of a motor's brushes, in ohm: one too short for its spring no longer
    presses."""
    return v.brush_ohm * (1 + exp((BRUSH_ENDS_MM - v.brush_mm) / BRUSH_FADES_MM))


def by_brushes(v: Values, volts: float, hertz: float, motor_rad_s: float) -> Torque:
    """Return what a motor with brushes gives."""
    ohm = v.motor_coil_ohm + contact_ohm(v)
    if ohm > OPEN_PHASE_OHM or v.motor_coil_ohm < SHORTED_OHM:
        return Torque(0.0, 0.0)
    given = universal(volts, motor_rad_s, ohm, v.motor_reactance_ohm, k=v.motor_k)
    return Torque(given.nm * v.commutator_share, given.ampere)


def synchronous_rad_s(v: Values, hertz: float) -> float:
    """Return the speed of the mains' field in a motor of so many pairs of poles."""
    return 2 * pi * hertz / v.pole_pairs


def by_capacitor(v: Values, volts: float, hertz: float, motor_rad_s: float) -> Torque:
    """Return what an induction motor with a capacitor gives; none above the speed of its field."""
    if v.motor_coil_ohm > OPEN_PHASE_OHM:
        return Torque(0.0, 0.0)
    if v.pole_pairs:
        slip = max(0.0, 1 - motor_rad_s / synchronous_rad_s(v, hertz))
        given = two_windings(volts, slip, v, hertz)
    else:
        given = on_electronics(volts, v, hertz, starts=motor_rad_s < TURNS_RAD_S)
    return Torque(max(0.0, given.nm), given.ampere)


def direct(v: Values, volts: float, hertz: float, motor_rad_s: float) -> Torque:
    """Return what a motor on the drum's own shaft gives."""
    if volts < INVERTER_FROM * v.rated_v or v.spline_share < SPLINE_HOLDS:
        return Torque(0.0, 0.0)
    return three_phases(v, motor_rad_s, min(1.0, volts / v.rated_v))


def carried_nm(v: Values) -> float:
    """Return the most torque at the motor's shaft, in newton metre, that what lies between motor
    and drum carries: a belt until it slips, a common shaft all."""
    if v.belt_ratio == DIRECT_RATIO:
        return inf
    return belt_nm(v.belt_n, v.belt_friction, v.belt_wrap_rad, v.pulley_m)


def drawn_by_brushes(
    v: Values, volts: float, nm: float, motor_rad_s: float, given: Torque
) -> Drawn:
    """Return what a series motor draws for a torque at its shaft: I = √(M/k), and the watts I²(R +
    kω), those of its windings and brushes and those of its back-EMF."""
    motor_nm = nm / max(v.commutator_share, LEAST_SHARE)
    ampere = min(sqrt(motor_nm / v.motor_k), given.ampere)
    ohm = v.motor_coil_ohm + contact_ohm(v)
    heat = ampere * ampere * ohm
    works = ampere * ampere * v.motor_k * motor_rad_s
    return Drawn(ampere, min(heat + works, ampere * volts), heat)


def drawn_by_capacitor(
    v: Values, volts: float, nm: float, motor_rad_s: float, given: Torque
) -> Drawn:
    """Return what two windings draw for a torque at the shaft: on the mains the current of their
    slip, and the watts their field carries over; on electronics as many volts as the torque takes,
    which goes with the square of the volts, and the current with the volts."""
    if v.pole_pairs:
        ampere, works = given.ampere, nm * synchronous_rad_s(v, v.hertz)
    elif given.nm <= 0:
        ampere, works = given.ampere, 0.0
    else:
        ampere, works = given.ampere * sqrt(min(1.0, nm / given.nm)), nm * motor_rad_s
    heat = ampere * ampere * v.main_ohm
    return Drawn(ampere, min(heat + works, WINDING_FACTOR * ampere * volts), heat)


def drawn_direct(v: Values, volts: float, nm: float, motor_rad_s: float, given: Torque) -> Drawn:
    """Return what an inverter draws for a torque: the current of three windings goes
    with the torque (3/2 I²R of heat), and the rectifier takes its watts at its power factor."""
    if given.ampere <= 0:
        return STANDS
    phase_a = v.phase_a * nm / (v.phase_nm * max(v.magnet_share, LEAST_SHARE))
    heat = PHASES / 2 * phase_a * phase_a * v.phase_v_ohm
    watts = (heat + nm * motor_rad_s) / INVERTER_SHARE
    return Drawn(watts / (RECTIFIER_FACTOR * volts), watts, heat)


Draws = Callable[[Values, float, float, float, Torque], Drawn]
"""Values, volts, the torque used at the motor's shaft, its speed in radian/second, and the torque
there would be; what is drawn for it."""


@dataclass(frozen=True)
class Motor:
    """What turns a drum: the torque it can give, and what it draws for the torque that is used."""

    gives: Drive
    draws: Draws


BRUSHES = Motor(by_brushes, drawn_by_brushes)
CAPACITOR = Motor(by_capacitor, drawn_by_capacitor)
DIRECT = Motor(direct, drawn_direct)
DRIVES: dict[str, Motor] = {
    "FB": BRUSHES, "WD": BRUSHES, "FI": CAPACITOR, "FD": DIRECT, "TD": DIRECT,
    "TS": CAPACITOR, "SL": CAPACITOR, "TG": CAPACITOR,
}  # fmt: skip
"""By kind of machine, what turns its drum."""
DIRECT_KINDS = frozenset(kind for kind, motor in DRIVES.items() if motor is DIRECT)
"""Kinds whose motor sits on the drum's own shaft."""
LEAST_SHARE = 0.05
"""Below this a share of torque counts as no less; chosen."""
