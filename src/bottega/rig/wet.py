"""Water through the machine, a step at a time: in by the valves, out by pump and siphon, out
where it should not."""

from bottega.rig.laundry import soak
from bottega.rig.parameters import Joint
from bottega.rig.programmes import TOP_LOADERS
from bottega.rig.pump import pumping
from bottega.rig.state import OPEN_OHM, STEP_S
from bottega.rig.units import MICRO, MINUTE_S
from bottega.rig.values import Values
from bottega.rig.water import in_series, orifice_l_s, trapped_pa
from bottega.rig.works import Works

EVEN_PUMP_DB, RATTLE_DB = 40.0, 26.0
"""How loud a pump is whose rotor strikes nothing, and how much louder one is that rattles most;
chosen."""
RATTLES_MM, ALL_PLAY_MM, BLADE_WEIGHS = 0.3, 0.7, 1.2
"""Play from which a rotor rattles, play at which it rattles most, and what a missing blade counts
beside an object. Chosen."""
DRAINS_FROM_L = 1.5
"""Water from which a pump's flow is judged; chosen, less runs in by itself."""
SIPHONS_SHARE, SPILLS_SHARE, AIR_LEAKS_SHARE = 0.55, 0.12, 0.3
"""Of a hose's own conductance what passes as a siphon, through a pump that stands; of what flows
in, what a drawer that is all clogged spills; and of a chamber's air what a leaking tube loses at a
kilopascal. Chosen."""
MM_WATER_PA = 9.79
"""Pressure of a millimetre of water at 20 °C."""
FOAM_LOCKS_SHARE, FOAMS_OVER, FOAM_ML_S = 0.6, 0.4, 1.0
"""Share of its flow a pump loses to a tub all full of foam, the suds from which foam rises through
the dispenser, and the millilitres of water a second that it carries out at most. Chosen."""
SEALS_MM = 180.0
"""How deep a hose seals its standpipe, so that it siphons; chosen, one less deep draws air."""
HEAD_M_KPA = 0.102
"""Metre of water a kilopascal."""
COUNTS_AS: dict[str, str] = {"lock": "stand", "unlock": "stand", "dry": "wash"}
"""Phases whose drops are counted with another's."""
SETTLED_PA = 0.01
"""Off by less, the sensor has come to rest: a thousandth of a millimetre of water."""
PULLS_IN = 0.75
"""Share of its rated volts at which a solenoid pulls in; chosen, makers promise 0.8 to 0.85."""
LEAST_L, PUMPS_L_MIN = 0.05, 0.5
"""Water that still wets a joint, and a flow by which a pump counts as pumping; chosen."""
SPLASH_M, SPLASH_SHARE, SPLASHES_RPM, SPLASHES_L = 0.012, 0.2, 20.0, 3.0
"""Thickness of the sheet that laundry throws at a joint, in metre; the share of the time it is
there; and the speed and the water from which it throws. Chosen: eight square millimetres in a
bellows lose half a millilitre a second."""
FLUNG_M, FLINGS_RPM = 0.03, 300.0
"""Head of the ring of water a spin flings at its seal, in metre, and from which speed; chosen."""
MOST_BESIDE, ALL_BESIDE_MM2 = 0.5, 900.0
"""The most of what flows in that runs beside the drawer's way, and the gap, in square millimetre,
through which all of it would; chosen."""
PUMP_HEAD_M = 0.9
"""Pressure behind a leak of the drain's way while it pumps, in metre of water."""


def most_inlet(m: Works) -> float:
    """Return what the open valve lets in, in litre/minute: its way in series, and its flow
    regulator."""
    v = m.v
    way = in_series(
        v.tap_l_min_kpa,
        v.hose_l_min_kpa * v.fill_hose_share,
        v.screen_l_min_kpa * v.screen_open_share,
        v.valve_l_min_kpa,
    )
    return float(min(way * v.tap_kpa**0.5, v.valve_most_l_min))


def _inlet(m: Works) -> tuple[float, float]:
    """Return what comes in now through the cold valve and the hot one, in litre/minute."""
    v = m.v
    found = []
    for load in ("cold", "hot"):
        volts = m.volts_at(load)
        if volts:
            m.take(volts, load)
        pushed = v.tap_kpa > v.valve_opens_kpa
        works = pushed and volts > PULLS_IN * v.rated_v and 1000 < v[load + "_coil_ohm"] < OPEN_OHM
        share = 1.0 if works else v[load + "_seat_open_share"]
        if works and load == "cold":
            m.seen.put("valve_hums", 1.0)
        found.append(m.inlet_l_min * share if m.tap_open else 0.0)
    return found[0], found[1]


def water(m: Works) -> None:
    """Let water in and out for a step, let it leak, and bring its height to the sensor."""
    v, now, warmth = m.v, m.now, m.warmth
    cold, hot = _inlet(m)
    if m.has_fan:
        _down_condenser(m)
    now.in_l_min = cold + hot
    if now.in_l_min:
        spilt = _spill_at_drawer(m, now.in_l_min / MINUTE_S * STEP_S)
        litres = now.in_l_min / MINUTE_S * STEP_S
        at_c = (
            cold * (v.hot_tap_c if v.cold_hose_is_hot else v.cold_tap_c) + hot * v.hot_tap_c
        ) / (cold + hot)
        now.water_in_l += litres
        now.leaked_l += spilt
        warmth.pour(litres - spilt, at_c)
        if m.asks.cold:
            m.seen.add("filled_l", litres)
    elif m.tight and not m.asks.pump and not now.hose_l and warmth.free_l == m.still_l:
        return
    _foam_over(m)
    soaked = soak(m)
    now.tub_l = warmth.free_l
    now.height_m = m.tub.height_m(now.tub_l)
    now.out_l_min = _pumped(m) + _siphoned(m)
    _run_back(m)
    if now.out_l_min:
        now.water_out_l += warmth.drain(now.out_l_min / MINUTE_S * STEP_S)
    if m.holes:
        _leak(m)
    over = warmth.free_l - v.spills_l
    if over > 0:
        _drop(m, warmth.drain(over), "opening" if m.kind not in TOP_LOADERS else "sides")
    now.tub_l = warmth.free_l
    m.seen.most("most_l", now.tub_l)
    settled = _sense(m)
    m.still_l = now.tub_l if settled and soaked and not now.out_l_min else -1.0


def _foam_over(m: Works) -> None:
    """Let foam rise through the dispenser while a drum turns in too many suds, and its water with
    it."""
    over = m.suds_share - FOAMS_OVER
    if over > 0 and m.now.drum_rpm > SPLASHES_RPM and m.warmth.free_l > SPLASHES_L:
        _drop(m, m.warmth.drain(FOAM_ML_S / 1000 * over / (1 - FOAMS_OVER) * STEP_S), "front")


def rattle_db(v: Values) -> float:
    """Return how loud a turning pump rattles: with something in it, a blade gone, or play."""
    play = v.pump_play_mm if v.pump_play_mm > RATTLES_MM else 0.0
    blade = BLADE_WEIGHS * (1 - v.pump_blade_share)
    worst = max(v.pump_object_share, blade, min(1, play / ALL_PLAY_MM))
    return EVEN_PUMP_DB + RATTLE_DB * worst


def _pumped(m: Works) -> float:
    v, now = m.v, m.now
    volts = m.volts_at("pump")
    if m.asks.pump and now.tub_l > DRAINS_FROM_L:
        m.seen.add("drain_wet_s", STEP_S)
    now.pump_rpm = 0.0
    if not volts:
        return 0.0
    lift = max(v.standpipe_m, v.hose_end_m) - v.tub_above_floor_m - now.height_m
    pump = pumping(v, volts, v.hertz, lift, has_water=now.tub_l > LEAST_L)
    now.pump_rpm = MINUTE_S * v.hertz if pump.turns else 0.0
    moved_l_min = pump.l_min * (1 - FOAM_LOCKS_SHARE * m.suds_share)
    m.flows("pump", pump.ampere, pump.watts)
    if m.asks.pump:
        seen = m.seen
        seen.add("pump_s", STEP_S)
        if pump.turns:
            seen.most("pump_rattle_db", rattle_db(v))
            seen.put("pump_purrs", 1.0)
        elif v.pump_coil_ohm < OPEN_OHM:
            seen.put("pump_hums", 1.0)
        if now.tub_l > DRAINS_FROM_L:
            seen.add("drained_l", moved_l_min / MINUTE_S * STEP_S)
    return moved_l_min


def _run_back(m: Works) -> None:
    """Let what stands in the outlet hose run back into the tub once the pump has stopped."""
    v, now = m.v, m.now
    if now.out_l_min:
        now.hose_l = min(v.hose_holds_l, now.hose_l + now.out_l_min / MINUTE_S * STEP_S)
    elif now.hose_l:
        now.water_out_l -= now.hose_l
        m.warmth.pour(now.hose_l, m.warmth.water_c)
        now.hose_l = 0.0


def _siphoned(m: Works) -> float:
    v, now = m.v, m.now
    end_m = v.hose_end_m if v.hose_depth_mm > SEALS_MM else max(v.hose_end_m, v.standpipe_m)
    head = v.tub_above_floor_m + now.height_m - end_m
    if head <= 0 or now.tub_l <= LEAST_L:
        return 0.0
    return float(SIPHONS_SHARE * v.way_hose_l_min * head**0.5)


def _spill_at_drawer(m: Works, litres: float) -> float:
    clog = m.v.drawer_clog_share
    spilt = litres * SPILLS_SHARE * max(0.0, clog - 0.5)
    if spilt:
        _drop(m, spilt, "front")
    return spilt


def _leak(m: Works) -> None:
    v, now = m.v, m.now
    for joint, area in m.holes:
        if joint.wet_by == "flow":
            share = min(MOST_BESIDE, area / ALL_BESIDE_MM2)
            litres = m.warmth.drain(now.in_l_min / MINUTE_S * STEP_S * share)
        elif joint.wet_by == "mains":
            litres = orifice_l_s(area, v.tap_kpa * HEAD_M_KPA) * STEP_S if m.tap_open else 0.0
            now.water_in_l += litres
        else:
            head, share = _wetted(m, joint)
            litres = m.warmth.drain(share * orifice_l_s(area, head) * STEP_S) if head > 0 else 0.0
        if litres:
            _drop(m, litres, joint.lands)


def _wetted(m: Works, joint: Joint) -> tuple[float, float]:
    """Return the head of water before a joint, in metre, and the share of the time it is there:
    standing water, the pump's pressure, what laundry throws at it, what a spin flings."""
    now = m.now
    stands = max(0.0, now.height_m - joint.height_m) if now.tub_l > LEAST_L else 0.0
    if joint.wet_by == "pump" and now.out_l_min > PUMPS_L_MIN:
        return PUMP_HEAD_M, 1.0
    if stands or joint.wet_by in ("level", "pump"):
        return stands, 1.0
    if joint.wet_by == "spin":
        return (FLUNG_M, 1.0) if now.drum_rpm > FLINGS_RPM else (0.0, 0.0)
    splashes = now.drum_rpm > SPLASHES_RPM and now.tub_l > SPLASHES_L
    return (SPLASH_M, SPLASH_SHARE) if splashes else (0.0, 0.0)


def _drop(m: Works, litres: float, where: str) -> None:
    m.now.leaked_l += litres
    m.seen.add(f"leak_{where}_ml", litres * 1000)
    phase = m.board.phase
    kind = COUNTS_AS.get(phase.kind, phase.kind) if phase is not None else "stand"
    m.seen.add(f"leak_{kind}_ml", litres * 1000)


def _sense(m: Works) -> bool:
    """Let the trapped air, the tube and what blocks them bring the water's height to the sensor;
    return whether it has come there, and stays."""
    v, now = m.v, m.now
    above = now.height_m - v.chamber_mouth_m if now.tub_l > LEAST_L else 0.0
    if above <= 0:
        now.air = 1.0
    pascal = trapped_pa(above, v.chamber_ml * MICRO, v.chamber_mm2 * MICRO, now.air)
    if v.tube_leak_per_s > 0:
        now.air = max(0.0, now.air - v.tube_leak_per_s * STEP_S * (pascal / 1000) * AIR_LEAKS_SHARE)
        pascal = now.air * trapped_pa(above, v.chamber_ml * MICRO, v.chamber_mm2 * MICRO, now.air)
    off = pascal - v.tube_water_mm * MM_WATER_PA - now.sensed_pa
    there = abs(off) < SETTLED_PA
    now.sensed_pa += off if there else off * min(1.0, STEP_S / v.chamber_lag_s)
    return there and v.tube_leak_per_s <= 0


def _down_condenser(m: Works) -> None:
    """Let water run down the condenser into the tub for a step. Where no water stands in the tub it
    runs off below the drum, and neither warms nor cools the laundry."""
    v, now, warmth = m.v, m.now, m.warmth
    now.condenser_l_min = 0.0
    volts = m.volts_at("condenser")
    if not volts:
        return
    m.take(volts, "condenser")
    works = volts > PULLS_IN * v.rated_v and 1000 < v.condenser_coil_ohm < OPEN_OHM
    if not works or not m.tap_open:
        return
    now.condenser_l_min = v.condenser_l_min
    litres = v.condenser_l_min / MINUTE_S * STEP_S
    now.water_in_l += litres
    warmth.pour(litres, m.air.condenser_c if warmth.free_l > v.sump_l else warmth.water_c)
    if m.asks.condenser:
        m.seen.most("condenser_l_min", v.condenser_l_min)
