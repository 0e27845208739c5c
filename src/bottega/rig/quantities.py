"""What can be seen, felt, heard and measured of a machine: its values, what follows from them,
and what a run showed."""

from functools import lru_cache

from bottega.core.library.machine_type import MachineType
from bottega.core.measure.thermistor import thermistor_ohm
from bottega.rig.air_loop import VAPOUR_J_KG
from bottega.rig.body import damping_ratio, swing_ratio
from bottega.rig.circuit import insulations
from bottega.rig.drives import LEAST_SUPPLY_V, position_share
from bottega.rig.faults import BROKEN_OHM
from bottega.rig.knocking import gear_db
from bottega.rig.laundry import marked_share
from bottega.rig.loads import FILM_LAG_S
from bottega.rig.machine import Machine, hole_mm2, machine_of
from bottega.rig.parameters import PLACES, joints, loads, parameters
from bottega.rig.programmes import BATH, COLD_C, spin_rpm, wash_litres
from bottega.rig.pump import filter_open, pumping
from bottega.rig.sensing import NO_SIGNAL_OHM
from bottega.rig.state import OPEN_OHM, Seen
from bottega.rig.traces import traces_of
from bottega.rig.units import MICRO, MINUTE_S
from bottega.rig.values import Values
from bottega.rig.water import in_series, trapped_pa

CLOSED_OHM, TRICKLES_L_MIN, NEVER_S = 0.1, 0.4, 20_000.0
"""A closed contact; a flow below which nobody waits for the end; and what is read then. Chosen."""
ROOM_C, NTC_PER_K, RIM_BY_PLAY = 20.0, 0.037, 2.5
"""Warmth at which a thermistor is probed; by which share its resistance falls a kelvin there; and
how far a drum's rim moves for each millimetre in its bearings. Chosen, the last by a drum's
lengths."""
UNDER_TUB = ("under_tub", "seam", "tub_wall", "shaft_seal")
"""Joints whose water runs along under the tub."""
LEAK_PHASES = ("fill", "wash", "drain", "spin")
USUAL_HEAT_SHARE = 0.88
"""Of its plate's watts, what a sound element at a usual socket brings into the water: under load
its volts fall by four per cent, and the tub loses some. Whoever uses a machine knows no other."""
CREEP = 1.01
"""Motor's speed over the drum's and the ratio of a belt that does not slip; a poly-V belt creeps
about a per cent."""
OVERLOAD = 1000.0
"""What a ratio counts as where one of its readings is an open circuit."""
RACES_S = 2.5
"""How long it has to race to be seen to, in second; chosen."""
ALWAYS_SHARE = 0.6
"""From this share of the fastest dripping on, what drips at rest drips always; chosen."""
LEAST_HEAT_S = 60.0
"""Heating that can be judged, in second; chosen."""
REFILLED = "refilled_l"
"""What comes in once the plug is in again, in litre: only its own run shows it."""
TRIPS_AT_ONCE_S = 3.0
"""A breaker that trips within so many seconds leaves a machine that is dead; chosen."""


def still(machine: Machine) -> dict[str, float]:
    """Return what a machine shows without being run, by name: its values with what follows from
    them."""
    v = machine.v
    middle = parameters(machine.kind, machine.specimen.machine.sheet)
    flow = in_series(v.tap_l_min_kpa, v.hose_l_min_kpa) * v.tap_kpa**0.5
    probe = thermistor_ohm(v.ntc_r25_ohm, v.ntc_beta_k, ROOM_C)
    nominal = thermistor_ohm(middle["ntc_r25_ohm"].value, middle["ntc_beta_k"].value, ROOM_C)
    windings = [v.phase_u_ohm, v.phase_v_ohm, v.phase_w_ohm]
    mass = v.tub_kg
    zeta = damping_ratio(mass, v.spring_n_m, v.damper_ns_m)
    seats = max(v.cold_seat_open_share, v.hot_seat_open_share)
    alive = v.outlet_ohm + v.cord_ohm + v.fuse_ohm + v.filter_ohm < 1000
    sensing = v.level_signal > 0.5 and v.level_plug_ohm < 1000 and v.level_supply_v > 3
    tacho = v.tacho_coil_ohm + v.tacho_plug_ohm < NO_SIGNAL_OHM and v.tacho_magnet_share >= 0.4
    found = {
        **v,
        **traces_of(machine),
        **{f"{name}_mm2": hole_mm2(v, name) for name in joints()},
        "tap_l_min": flow,
        "capacitor_share": v.capacitor_uf / machine.specimen.sound.capacitor_uf,
        "seat_leak_ml_min": 1000 * machine.inlet_l_min * seats,
        "board_low_v": v.board_volts if alive else 0.0,
        "upper_back_mm2": hole_mm2(v, "valve_body") + hole_mm2(v, "fill_hose"),
        "under_pump_mm2": hole_mm2(v, "pump_body") + hole_mm2(v, "outlet_joint"),
        "under_tub_all_mm2": sum(hole_mm2(v, name) for name in UNDER_TUB),
        "seam_or_wall_mm2": v.seam_mm2 + v.tub_wall_mm2,
        "swing_ratio": swing_ratio(zeta),
        "ntc_probe_ohm": probe,
        "ntc_off_share": abs(probe / nominal - 1),
        "ntc_wires_ohm": v.ntc_wire_ohm + v.ntc_plug_ohm,
        "ntc_ratio": probe / thermistor_ohm(v.ntc_r25_ohm, v.ntc_beta_k, 40)
        if probe < 1e6
        else OVERLOAD,
        "standpipe_mm": 1000 * v.standpipe_m,
        "rim_play_mm": RIM_BY_PLAY * v.bearing_play_mm,
        "belt_give_mm": 1500 / max(v.belt_n, 10),
        "winding_ratio": max(windings) / min(windings),
        "phase_worst_ohm": max(windings) + v.phase_wire_ohm,
        "tacho_pulses": float(tacho),
        "tacho_swing_v": v.tacho_v * v.tacho_magnet_share
        if v.tacho_coil_ohm < NO_SIGNAL_OHM
        else 0.0,
        "speed_pulses": float(_has_pulses(v)),
        "speed_swing_v": v.speed_supply_v * v.speed_signal_share
        if v.speed_plug_ohm < NO_SIGNAL_OHM
        else 0.0,
        "position_swing_v": v.position_supply_v * position_share(v) ** 2,
        "lid_open_ohm": CLOSED_OHM if v.lid_contact_held > 0.5 else BROKEN_OHM,
        "balance_ohm": CLOSED_OHM if max(v.balance_switch_held, v.lever_held) > 0.5 else BROKEN_OHM,
        "air_sensor_ratio": 1 + v.air_sensor_off_k * NTC_PER_K,
        "air_read_off_k": v.air_sensor_off_k + (50.0 if v.air_plug_ohm > NO_SIGNAL_OHM else 0.0),
        "insulation_ohm": 1 / sum(1 / ohm for ohm in insulations(machine.wiring, v)),
        "pump_a": _pump_a(v),
        "filter_open_share": filter_open(v),
        "marks_share": marked_share(v),
        "gear_knock_db": gear_db(v),
        "level_hz": machine.sensing.level_hz if sensing else 0.0,
        "suds_share": machine.suds_share,
        "drive_moves": 0.0,
    }
    for load in loads():
        way = v[f"{load}_out_ohm"] + v[f"{load}_wire_ohm"]
        found[f"{load}_supply_v"] = v.mains_v if way < OPEN_OHM and alive else 0.0
    return found


def _pump_a(v: Values) -> float:
    """Return the current of the pump in ampere while it should drain: more where its rotor is
    jammed and makes no EMF."""
    return pumping(v, v.mains_v, v.hertz, v.standpipe_m, has_water=True).ampere


def _has_pulses(v: Values) -> bool:
    wired = v.speed_plug_ohm < NO_SIGNAL_OHM and v.speed_supply_v > LEAST_SUPPLY_V
    return wired and v.speed_signal_share > 0.5


def shown(machine: Machine) -> dict[str, float]:
    """Return what a run showed: shares of what should be, decibel, millilitres by place. What
    the run did not come to is not in it: a machine that is dead neither hums nor drains."""
    seen, board = machine.seen, machine.board
    stopped = board.stopped
    dead = not seen.get("alive") or (
        seen.get("tripped") > 0 and seen.get("run_s") < TRIPS_AT_ONCE_S
    )
    taken = not dead and not (stopped is None and seen.get("stopped_start"))
    entered = {phase.kind for phase in board.phases[: board.at + 1]} if taken else set()
    found = {
        "alive": float(not dead),
        "tripped": seen.get("tripped"),
        "stopped_after_start": float(stopped is not None and stopped not in ("start", "unlock")),
        **{
            f"stopped_{name}": float(stopped == name)
            for name in ("fill", "wash", "drain", "spin", "unlock")
        },
        "smell_share": seen.get("smell_share"),
        **_leaks(machine),
    }
    if not dead:
        found["stopped_start"] = float(stopped == "start" or seen.get("stopped_start") > 0)
    if not dead and not taken:
        found |= {"clicks": 0.0, "lock_tries": 0.0}
    if "lock" in entered or "spin" in entered:
        found |= {"clicks": seen.get("clicks"), "lock_tries": seen.get("lock_tries")}
    if "unlock" in entered:
        found["locked_at_end"] = float(stopped == "unlock")
    for reached, told in (
        (seen.get("fill_asked_s") > 0, _filling),
        (seen.get("turn_asked") > 0, _turning),
        (_came_to_heat(machine), _heating),
        (seen.get("drain_asked_s") > 0, _draining),
        (seen.get("spin_entered") > 0, _spinning),
        ("dry" in entered, _drying),
    ):
        if reached:
            found |= told(machine)
    if machine.programme == BATH and stopped is None and not dead:
        found |= _bath(machine)
    return found


def _came_to_heat(machine: Machine) -> bool:
    """Return whether a run came as far as warming its water, or had the time to and did not."""
    warms = any(phase.temperature_c > COLD_C for phase in machine.board.phases)
    long_enough = machine.seen.get("heat_asked_s") >= LEAST_HEAT_S or machine.board.stopped is None
    return warms and machine.seen.get("turn_asked") > 0 and long_enough


def _leaks(machine: Machine) -> dict[str, float]:
    seen = machine.seen
    leaks = [seen.get(f"leak_{place}_ml") for place in PLACES]
    when = [
        seen.get(f"leak_{phase}_ml") / max(seen.get(f"in_{phase}_s"), 1.0) for phase in LEAK_PHASES
    ]
    stand = seen.get("leak_stand_ml")
    idle_s = seen.get("in_lock_s") + seen.get("in_unlock_s")
    always = stand / max(idle_s, 1.0) > ALWAYS_SHARE * max(when)
    return {
        "floor_ml": sum(leaks),
        **{f"leak_{place}_ml": amount for place, amount in zip(PLACES, leaks, strict=True)},
        "leak_most": float(leaks.index(max(leaks)) + 1),
        "leak_when": float(when.index(max(when)) + 1),
        "leak_stand_ml": stand,
        "leak_rest_ml": stand if always else 0.0,
    }


def _filling(machine: Machine) -> dict[str, float]:
    seen, kind = machine.seen, machine.specimen.machine
    asked_s, litres = seen.get("fill_asked_s"), wash_litres(machine.specimen.machine)
    most_flow = parameters(machine.kind, kind.sheet)["valve_most_l_min"].value
    flow, kept = seen.get("filled_l") / asked_s * MINUTE_S, seen.get("most_l")
    share = min(flow, kept / asked_s * MINUTE_S) if kept < 0.5 * litres else flow
    level, tub_l = machine.sensing.level_l, machine.now.tub_l
    read = 0.0 if level is None else level / tub_l if tub_l > 1 else 1.0
    return {
        "fill_share": share / most_flow,
        "over_share": kept / litres,
        "wet_share": min(1.0, kept / litres),
        "valve_hums": seen.get("valve_hums"),
        "level_read_share": read,
        "level_span_hz": _span_hz(machine),
        "fill_5l_s": 5 * MINUTE_S / share if share > TRICKLES_L_MIN else NEVER_S,
        "fill_time_s": litres * MINUTE_S / share if share > TRICKLES_L_MIN else NEVER_S,
    }


def _turning(machine: Machine) -> dict[str, float]:
    seen = machine.seen
    turned = seen.get("turned") / seen.get("turn_asked")
    return {
        "turned_share": turned,
        "throw_share": seen.get("thrown") / seen.get("turn_asked"),
        "drive_moves": turned,
        "motor_hum_s": seen.get("motor_hum_s"),
        "motor_start_a": seen.get("motor_start_a"),
        "knock_db": seen.get("knock_db"),
        "squeal_db": seen.get("squeal_db"),
        "slip_ratio": _slip_ratio(seen),
        "protector_opened": seen.get("protector_opened"),
    }


def _slip_ratio(seen: Seen) -> float:
    """Return the motor's turns over the drum's and the ratio of the belt, in the whole run."""
    drum = seen.get("drum_turned")
    return CREEP * seen.get("motor_turned") / drum if drum > 0 else OVERLOAD


def _heating(machine: Machine) -> dict[str, float]:
    seen = machine.seen
    return {
        "heat_share": _heat_share(machine),
        "hiss_db": seen.get("hiss_db"),
        "heating_a": seen.get("heat_a"),
    }


def _draining(machine: Machine) -> dict[str, float]:
    seen = machine.seen
    wet_s = seen.get("drain_wet_s")
    drained = seen.get("drained_l") / wet_s * MINUTE_S if wet_s else 12.0 * seen.get("pump_purrs")
    return {
        "drain_l_min": drained,
        "pump_moves_l_min": drained,
        "pump_sounds": max(seen.get("pump_purrs"), seen.get("pump_hums")),
        "pump_rattle_db": seen.get("pump_rattle_db"),
        "empty_10l_s": 10 * MINUTE_S / drained if drained > TRICKLES_L_MIN else NEVER_S,
    }


def _spinning(machine: Machine) -> dict[str, float]:
    seen = machine.seen
    return {
        "coast_s": seen.get("coast_s"),
        "spin_share": seen.get("spin_rpm") / spin_rpm(machine.specimen.machine),
        "roar_db": seen.get("roar_db"),
        "shake_share": seen.get("shake_share"),
        "races": float(seen.get("races_s") > RACES_S),
        "shifter_moves": seen.get("shifter_moves"),
        "clutch_grind_db": seen.get("clutch_grind_db"),
        "slip_ratio": _slip_ratio(seen),
    }


def _drying(machine: Machine) -> dict[str, float]:
    """Return what a person notices of drying: how loud the fan is, how warm the air, whether water
    runs; and the rate at which water leaves, over what the heater's watts would turn into vapour,
    since a programme that dries ends by its clock."""
    seen, v = machine.seen, machine.v
    due_g_s = 1000 * v.rated_v**2 / machine.specimen.sound.drying_coil_ohm / VAPOUR_J_KG
    return {
        "dried_share": seen.get("dries_g_s") / due_g_s,
        **{name: seen.get(name) for name in ("fan_db", "condenser_l_min", "air_c")},
    }


def _bath(machine: Machine) -> dict[str, float]:
    """Return how much longer a bath took than its card says, as a share of that; and by how much
    its water grew warmer than it was to be or came in, in kelvin."""
    seen, v = machine.seen, machine.v
    meant_c = max(phase.temperature_c for phase in machine.board.phases)
    return {
        "length_share": seen.get("run_s") / card_s(machine.specimen.machine),
        "over_k": max(0.0, seen.get("hot_c") - max(meant_c, v.cold_tap_c, v.room_c)),
    }


@lru_cache(maxsize=64)
def card_s(machine: MachineType) -> float:
    """Return how long a bath takes by the card, in second: as long as a sound machine of the kind
    and sheet takes."""
    sound = machine_of(machine, "card")
    sound.run(BATH)
    return sound.seen.get("run_s")


def _heat_share(machine: Machine) -> float:
    """Return how fast the water warmed over what it usually does by its plate, while no water came
    in, or all the time where some always does; nought where it was not even switched on."""
    seen, v = machine.seen, machine.v
    asked_s = seen.get("heat_asked_s")
    if asked_s < LEAST_HEAT_S:
        return 0.0
    watts = v.rated_v**2 / machine.specimen.sound.element_coil_ohm
    warmed_k, by = seen.get("warmed_k"), seen.get("warmed_s_by_j_k")
    if not by:
        warmed_k = seen.get("heat_to_c") - seen.get("heat_from_c")
        by = (asked_s - FILM_LAG_S) / machine.warmth.store_j_k
    return max(0.0, warmed_k / (USUAL_HEAT_SHARE * watts * by))


def _span_hz(machine: Machine) -> float:
    """Return by how much the level signal falls over ten litres, in hertz."""
    v = machine.v
    if machine.sensing.level_l is None:
        return 0.0
    above = machine.tub.height_m(10.0) - v.chamber_mouth_m
    reaches = 1.0 if v.chamber_lag_s < 30 and v.tube_leak_per_s < 0.01 else 0.15
    pascal = trapped_pa(above, v.chamber_ml * MICRO, v.chamber_mm2 * MICRO) * reaches
    return v.level_hz_pa * v.level_gain_share * pascal


def names_of(machine: MachineType) -> set[str]:
    """Return every name of a quantity a recipe may speak of."""
    one = machine_of(machine, "names")
    one.run("short")
    return {*still(one), *shown(one), *_heating(one), *_drying(one), *_bath(one), REFILLED}
