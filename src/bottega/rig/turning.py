"""The drum, a step at a time: what drives it, what holds it back, how it shakes and sounds."""

from math import inf, sqrt

from bottega.rig.body import level_db, spin_db
from bottega.rig.drives import (
    BRUSHES,
    CAPACITOR,
    DIRECT_KINDS,
    RAD_S,
    Torque,
    braked_nm_s,
    carried_nm,
)
from bottega.rig.knocking import GEARED, SMOOTH_SHARE, G, knock_db, rough_mm
from bottega.rig.programmes import TOP_LOADERS
from bottega.rig.shaking import shake
from bottega.rig.state import OPEN_OHM, STEP_S, Turning
from bottega.rig.units import MINUTE_S
from bottega.rig.values import Values
from bottega.rig.warming import warm_brushes, warm_motor, warm_plug
from bottega.rig.works import Works

LIFTED_SHARE, LOAD_SHARE = 0.22, 0.6
"""Of the laundry's weight times the drum's radius, what lifting it takes on average, and of its
mass times the radius squared what it adds to the inertia; chosen, it fills a segment."""
STROKES_NM = 0.9
"""What a top loader's laundry holds its plate back with, by the root of its weight; chosen."""
NO_TORQUE = Torque(0.0, 0.0)
STANDS_RAD_S = 0.2
"""Below this a drum stands, and its motor draws what it does at rest; chosen."""
IDLE_NM = 0.02
"""Torque a motor needs at its own shaft for its bearings and brushes; chosen, 0.7 A of a series
motor that turns nothing."""
SQUEALS_DB = 55.0
"""Loudness of a belt that slips with one watt, in decibel; chosen, so that twenty are heard over a
wash."""
SMELLS_FROM_J, SMELL_OF_BELT = 4000.0, 0.7
"""Heat of slipping from which a belt smells, and how much; chosen, ten grams of rubber warmed by
200 K."""
SOFT_RAD_S2, CLUTCH_RAD_S2 = 10.0, 4.0
"""How fast a board's electronics, and the clutch of a motor that is simply switched on, let a drum
gather speed, in radian/second squared; chosen, a wash's 48 turns within half a second, a full spin
within ten to thirty."""
CHURNS_NM, BELOW_DRUM_L = 7e-4, 8.0
"""What a litre of water around a drum holds it back with, in newton metre by the square of its
speed in radian/second, and how many litres lie below the drum; chosen, so that a full tub holds
any motor under two turns a second."""
RUNS_AWAY_RPM = 20_000.0
"""Speed no drum comes to: what a motor with nothing to hold it back is asked for; chosen."""
HALVINGS = 14
"""How often the range of speeds a drum can come to is halved; so the speed is found to a
ten-thousandth of the full spin."""
LIFTS_BELOW_RAD_S = 8.0
"""Speed under which laundry is lifted and falls, and over which it lies at the wall, in
radian/second; the acceleration is that of falling at 6.5 on this radius."""
WASHES_TO_RPM = 60.0
"""Speed up to which a top loader's drive is washing, in turns a minute; faster is spinning;
chosen."""
COASTS_FROM_RPM = 300.0
"""Speed from which running on is a coasting that can be timed; chosen."""
MOTOR_STANDS_RPM, HUMS_BELOW_NM = 2.0, 0.3
"""A motor hums that stands, takes current, and gives less than so much torque; chosen."""
CLAMPED_S = 5.0
"""When a motor's start is read at the clamp, in second from the start; as the check says."""
HUMS_FROM_A = 0.3
"""Ampere from which a motor that stands is heard; chosen."""
CLOTH_NM_MM = 0.28
"""What a millimetre of cloth in the gap holds a drum back with, in newton metre; chosen."""
WORN_LINING_MM = 2.2
"""Lining of a brake below which it no longer holds in full, in millimetre; chosen."""
HELD_SLIP, MOST_BENT, ALL_BENT_MM = 0.1, 0.7, 30.0
"""Slip of a hub that is not noticed; the most that bent fins take of a stroke; and how far they are
bent then, in millimetre. Chosen."""
SHIFTS_S, SPRING_BACK = 6.0, 3.0
"""Seconds a shifter's motor takes from wash to spin, and how much faster its spring brings it back;
chosen, such motors turn their cam half round at five turns a minute."""
SHIFTER_STARTS, SHIFTER_LEAST_OHM = 0.5, 500.0
"""Share of its rated volts a shifter's motor starts at, and the coil below which it is shorted;
chosen."""
GRINDS_DB, CLUTCH_DB = 40.0, 45.0
"""Decibel of a clutch that meshes, and by how much one without teeth is louder; chosen."""
SPIN_SLIPS, CLUTCH_NM, WHOLE_TEETH = 0.9, 45.0, 0.9
"""How much a slipping gear takes of a spin's torque, what a whole clutch carries, and the share of
its teeth from which it meshes quietly. Chosen."""
BLIND_SHARE, BLIND_RPM = 2.2, 500.0
"""How far a board that gets no pulses drives beyond what it wants; chosen."""
SPINS_NM, SWIMS_NM_L, SWIMS_BELOW_RAD_S, SUDS_FROM_RAD_S, WIND_NM_S2 = 0.2, 0.02, 12.0, 20.0, 6.5e-5
"""What holds a drum back beside its bearings: laundry that lies at the wall, in newton metre; a
litre of water, below a speed; suds, above one; wind by the square of the speed. Chosen."""
ROUGH_NM = 1.2
"""What a motor's rough bearings hold a drum back with, in newton metre; chosen."""
OVER_SHARE_SEEN, OVER_WASH_RPM, OVER_SPIN_RPM = 1.2, 8.0, 40.0
"""How much faster than asked a drum has to turn to be seen racing; chosen."""
ROARS_FROM_RPM, KNOCKS_FROM_RPM, RIVETS_HOLD = 350.0, 10.0, 0.02
"""Speed from which bearings are heard, speed from which a drum knocks, and the share a brake holds
on its rivets. Chosen."""
SUDS_PA, SUDS_PA_ROOT_S, SUDS_GAP_M, SUDS_M2, SUDS_AT_M = 20.0, 3.0, 0.015, 0.6, 0.25
"""Wet foam between drum and tub: its yield stress and its consistency, in pascal and in pascal by
the root of a second (Denkov and others, Soft Matter 2009: exponent one half); the gap, the drum's
mantle and its radius, in metre and square metre."""


def turning_of(v: Values, kind: str) -> Turning:
    """Return what stays the same of a drum of these values."""
    return Turning(
        inertia=v.drum_inertia + v.load_kg * LOAD_SHARE * v.drum_radius_m**2,
        steady_nm=v.bearing_nm
        + (v.belt_drag_nm if kind not in DIRECT_KINDS and v.belt_n > 0 else 0.0)
        + v.motor_obstructed_nm
        + CLOTH_NM_MM * v.gap_cloth_mm
        + ROUGH_NM * max(0.0, v.motor_rough_share - SMOOTH_SHARE),
        carried_nm=carried_nm(v),
        lift_nm_kg=LIFTED_SHARE * G * v.drum_radius_m
        if kind not in TOP_LOADERS
        else STROKES_NM / max(v.load_kg, 0.5) ** 0.5,
        load_m2=LOAD_SHARE * v.drum_radius_m**2,
        knock_db=knock_db(v, geared=kind in GEARED),
        braked_nm_s=braked_nm_s(v) if kind in DIRECT_KINDS else 0.0,
    )


def drum(m: Works) -> None:
    """Turn the drum for a step: as fast as asked, as far as what drives it gives."""
    v, now, asks = m.v, m.now, m.asks
    asked = asks.rpm
    stuck = m.motor_stuck and m.alive and not asks.motor_cut
    if stuck:
        asked = _fastest_rpm(m)
        m.seen.add("races_s", STEP_S)
    volts = m.volts_at("motor") if asked and not asks.motor_cut else 0.0
    _shift(m)
    now.driven_s = now.driven_s + STEP_S if asked else 0.0
    if not asked and now.drum_rpm < 0.1:
        now.drum_rpm = now.motor_rpm = now.slip_w = now.strikes_mm = 0.0
        warm_motor(m, 0.0)
        if m.board.meant_rpm:
            m.seen.add("turn_asked", m.board.meant_rpm)
        return
    rad_s = now.drum_rpm * RAD_S
    inertia = m.turning.inertia + m.turning.load_m2 * m.warmth.held_l
    drag = _drag_nm(m, rad_s, asked)
    ratio = _ratio(m)
    target = _wanted_rad_s(m, asked)
    given = 0.0
    torque = NO_TORQUE
    if volts and not now.protector_open:
        motor_at = now.motor_rpm * RAD_S
        if v.pole_pairs:
            most = max(target, rad_s)
            motor_at = ratio * _comes_to(m, volts, ratio, rad_s, drag, inertia=inertia, most=most)
        torque = m.drive.gives(v, volts, v.hertz, motor_at)
        given = _through(m, min(torque.nm, m.turning.carried_nm) * ratio)
        _notice_hum(m, torque)
    most = inf if stuck else CLUTCH_RAD_S2 if m.kind == "TG" else SOFT_RAD_S2
    wanted = min((target - rad_s) / STEP_S, most) * inertia + drag
    if v.lock_contact_ohm > 1e3 and m.kind == "TG":
        given = 0.0
    nm = min(given, wanted) if wanted > 0 else 0.0
    slips = torque.nm > m.turning.carried_nm and wanted > given
    motor_rad_s = (target if slips else rad_s) * ratio
    heat_w = 0.0
    if torque.ampere:
        stalls = motor_rad_s < STANDS_RAD_S and not slips
        used = (torque.nm if stalls else nm / ratio) + IDLE_NM
        drawn = m.drive.draws(v, volts, used, motor_rad_s, torque)
        m.flows("motor", drawn.ampere, drawn.watts)
        heat_w = drawn.heat_w
    if now.driven_s == CLAMPED_S:
        m.seen.put("motor_start_a", now.taken.get("motor", (0.0, 0.0))[0])
    warm_plug(m)
    warm_motor(m, heat_w)
    if m.drive is BRUSHES:
        warm_brushes(m, now.taken.get("motor", (0.0, 0.0))[0])
    stop = brake_nm(v) if m.kind in TOP_LOADERS and not asked else 0.0
    before = now.drum_rpm
    _notice_coasting(m, asked)
    rad_s = max(0.0, rad_s + (nm - drag - stop) / inertia * STEP_S)
    now.drum_rpm = min(rad_s, max(target, rad_s - 1e-9)) / RAD_S
    _follow_drum(m, target if slips else None, ratio)
    _let_fall(m)
    _notice_drum(m, asked, before)


def _fastest_rpm(m: Works) -> float:
    """Return the speed of a drum whose motor is fed and not held back: an induction motor's field
    holds it, which is that of the mains with two poles where its electronics do not drive it."""
    induction = m.drive is CAPACITOR and not m.v.pole_pairs
    return MINUTE_S * m.v.hertz / m.v.belt_ratio if induction else RUNS_AWAY_RPM


def _comes_to(
    m: Works, volts: float, ratio: float, rad_s: float, drag: float, *, inertia: float, most: float
) -> float:
    """Return the drum's speed at the end of a step on the mains, in radian/second, at most so fast:
    the one to which the motor's torque at that very speed brings the drum (Euler's implicit step,
    by halving), since near its field's speed the torque falls steeply. A drum that rests starts
    only if the motor pulls at rest: one without its capacitor does not."""

    def brought_to(at_rad_s: float) -> float:
        nm = m.drive.gives(m.v, volts, m.v.hertz, at_rad_s * ratio).nm
        given = _through(m, min(nm, m.turning.carried_nm) * ratio)
        return rad_s + (given - drag) / inertia * STEP_S

    if brought_to(rad_s) <= 0:
        return 0.0
    if brought_to(most) >= most:
        return most
    low, high = 0.0, most
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if brought_to(middle) > middle:
            low = middle
        else:
            high = middle
    return low


def _ratio(m: Works) -> float:
    """Return how many turns the motor makes in one of the drum, or of a wash's strokes: a top
    loader's gear lies between where it washes."""
    washes = m.v.pole_pairs and not m.now.in_spin and m.asks.rpm <= WASHES_TO_RPM
    return m.v.belt_ratio * (m.v.gear_ratio if washes else 1.0)


def _let_fall(m: Works) -> None:
    """Let laundry that lay at the wall of a lying drum fall off it once the drum slows."""
    if m.kind in TOP_LOADERS:
        return
    now = m.now
    if now.drum_rpm * RAD_S > LIFTS_BELOW_RAD_S:
        now.at_wall = True
    elif now.at_wall:
        now.at_wall = False
        m.lie_anew()


def _follow_drum(m: Works, runs_away_rad_s: float | None, ratio: float) -> None:
    """Let the motor turn with the drum; where its belt slips it runs at the speed that is asked of
    it instead, and where the belt is off and nothing drives it, it stands. What slips squeals and
    heats by its power."""
    now, seen = m.now, m.seen
    seen.add("drum_turned", now.drum_rpm)
    now.slip_w = 0.0
    if runs_away_rad_s is None:
        grips = m.turning.carried_nm > 0
        now.motor_rpm = now.drum_rpm * ratio if grips else 0.0
        seen.add("motor_turned", now.drum_rpm)
        return
    now.motor_rpm = runs_away_rad_s / RAD_S * ratio
    lags = max(0.0, runs_away_rad_s - now.drum_rpm * RAD_S)
    watts = now.slip_w = m.turning.carried_nm * lags * ratio
    seen.add("motor_turned", runs_away_rad_s / RAD_S)
    if watts > 1:
        seen.most("squeal_db", SQUEALS_DB + level_db(watts))
    seen.add("slipped_j", watts * STEP_S)
    if seen.get("slipped_j") > SMELLS_FROM_J:
        seen.most("smell_share", SMELL_OF_BELT)


def _notice_coasting(m: Works, asked: float) -> None:
    """Count how long the drum runs on from a spin once nothing drives it."""
    if asked:
        m.seen.put("coast_s", 0.0)
        m.now.coasts = m.now.drum_rpm > COASTS_FROM_RPM
    elif m.now.coasts:
        m.seen.add("coast_s", STEP_S)


def _wanted_rad_s(m: Works, asked: float) -> float:
    """Return the speed the board drives at: what it asks for, or ever more where it gets no
    pulses."""
    if asked and m.sensing.speed_rpm is None:
        return min(asked * BLIND_SHARE, asked + BLIND_RPM) * RAD_S
    return asked * RAD_S


def _drag_nm(m: Works, rad_s: float, asked: float) -> float:
    """Return what holds the drum back, in newton metre: bearings, water, load to be lifted,
    suds, wind."""
    now, own = m.now, m.turning
    lifts = rad_s < LIFTS_BELOW_RAD_S and (m.kind not in TOP_LOADERS or asked <= WASHES_TO_RPM)
    lift = own.lift_nm_kg * (m.v.load_kg + m.warmth.held_l) if lifts else SPINS_NM
    water = SWIMS_NM_L * now.tub_l if rad_s < SWIMS_BELOW_RAD_S else 0.0
    water += CHURNS_NM * max(0.0, now.tub_l - BELOW_DRUM_L) * rad_s * rad_s
    suds = suds_nm(rad_s) * m.suds_share if rad_s > SUDS_FROM_RAD_S else 0.0
    plate = m.v.brake_drag_nm if asked else 0.0
    return (
        own.steady_nm
        + lift * (1 if now.drum_rpm > 1 or asked else 0)
        + water
        + suds
        + plate
        + own.braked_nm_s * rad_s
        + WIND_NM_S2 * rad_s * rad_s
    )


def suds_nm(rad_s: float) -> float:
    """Return what a tub full of suds holds a spinning drum back with, in newton metre. Herschel and
    Bulkley: the shear of foam grows by the root of its rate, which is speed over gap."""
    pascal = SUDS_PA + SUDS_PA_ROOT_S * sqrt(rad_s * SUDS_AT_M / SUDS_GAP_M)
    return pascal * SUDS_M2 * SUDS_AT_M


def _through(m: Works, nm: float) -> float:
    """Return what clutch, gear and plate pass on of a torque."""
    v = m.v
    slips = max(0.0, v.gear_slip_share - HELD_SLIP)
    plate = 1 - max(0.0, v.plate_slip_share - HELD_SLIP)
    washes = m.asks.rpm <= WASHES_TO_RPM
    if m.kind in ("TS", "SL"):
        if m.now.in_spin:
            return min(nm * (1 - SPIN_SLIPS * slips), CLUTCH_NM * v.clutch_teeth_share**2)
        return nm * (1 - slips) * plate
    if m.kind == "TG" and washes:
        return nm * v.gear_stroke_share
    return nm * plate if m.kind == "TD" and washes else nm


def _shift(m: Works) -> None:
    """Let the shifter's little motor turn its cam for a step, from wash to spin, or its spring
    bring it back; it meshes at the end of its way."""
    if m.kind not in ("TS", "SL"):
        return
    v, now = m.v, m.now
    driven = m.volts_at("shifter") > SHIFTER_STARTS * v.rated_v
    turns = driven and SHIFTER_LEAST_OHM < v.shifter_coil_ohm < OPEN_OHM and v.shifter_stuck < 0.5
    before = now.in_spin
    gone = now.shifted_s + STEP_S if turns else now.shifted_s - SPRING_BACK * STEP_S
    now.shifted_s = min(SHIFTS_S, max(0.0, gone))
    now.in_spin = now.shifted_s >= SHIFTS_S
    if turns:
        m.seen.put("shifter_moves", 1.0)
    if now.in_spin and not before:
        m.seen.most(
            "clutch_grind_db", GRINDS_DB + CLUTCH_DB * max(0.0, WHOLE_TEETH - v.clutch_teeth_share)
        )


def _notice_hum(m: Works, torque: Torque) -> None:
    still = m.now.motor_rpm < MOTOR_STANDS_RPM
    if still and torque.nm < HUMS_BELOW_NM and torque.ampere > HUMS_FROM_A:
        m.seen.add("motor_hum_s", STEP_S)


def _notice_drum(m: Works, asked: float, before: float) -> None:
    v, now, seen = m.v, m.now, m.seen
    rpm, now.strikes_mm = now.drum_rpm, 0.0
    meant = m.board.meant_rpm
    if meant:
        seen.add("turn_asked", meant)
        seen.add("turned", min(rpm, meant))
        seen.add("thrown", min(rpm, meant) * thrown_share(v))
    if asked and asked <= WASHES_TO_RPM:
        if rpm > OVER_SHARE_SEEN * asked + OVER_WASH_RPM and rpm > before:
            seen.add("races_s", STEP_S)
    elif asked > WASHES_TO_RPM:
        seen.most("spin_rpm", rpm)
        if rpm > OVER_SHARE_SEEN * asked + OVER_SPIN_RPM and rpm > before:
            seen.add("races_s", STEP_S)
        if rpm > ROARS_FROM_RPM:
            seen.most("roar_db", spin_db(rpm, rough_mm(m), v.quiet_db))
        shake(m, rpm)
    if asked and asked <= WASHES_TO_RPM and rpm > KNOCKS_FROM_RPM:
        seen.most("knock_db", m.turning.knock_db)


def brake_nm(v: Values) -> float:
    """Return what a brake holds with, in newton metre: less once its lining is thinner than its
    rivets stand."""
    return v.brake_nm * min(1.0, max(RIVETS_HOLD, v.brake_lining_mm / WORN_LINING_MM))


def thrown_share(v: Values) -> float:
    """Return what plate or agitator hands on to the laundry of a stroke: less where its hub slips,
    its blocks are worn, its fins are bent."""
    grip = min(1.0, v.agitator_grip_share) * (1 - max(0.0, v.plate_slip_share - HELD_SLIP))
    return grip * (1 - min(MOST_BENT, v.fins_bent_mm / ALL_BENT_MM))
