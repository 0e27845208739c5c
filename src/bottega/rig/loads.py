"""Lock and element, a step at a time."""

from math import exp, log10

from bottega.rig.state import STEP_S
from bottega.rig.works import Works

LOCK_OUT_C, LOCK_BACK_C = 85.0, 55.0
"""At which warmth of its heater a lock's bolt snaps out, and back; chosen, so that a sound one
takes two seconds and three quarters of a minute, as such locks do."""
PTC_KNEE_C, PTC_PER_K = 95.0, 0.12
"""Where a heater with a positive temperature coefficient begins to throttle itself, and by how much
its resistance grows a kelvin from there (e to the power of it); IEC 60738-1, by shape."""
HOOK_REACHES_MM, BOLT_REACHES_MM = 3.0, 4.0
"""How far hook and bolt may be off and still meet; chosen."""
STRIKER_MM, HANGS_SHARE = 10.0, 0.3
"""Length of a lid's striker, in millimetre; and the share of what a door hangs low, or a lid lies
aside, that hook and bolt miss by at once. Chosen."""
FILM_LAG_S = 12.0
"""By how much the water's warming lags behind the element's, in second."""
HISS_SHARE, HEARING_W = 1.6e-11, 1e-12
"""Share of an element's watts that sounds, chosen so that 1.5 kW are as loud as a fridge; and the
watt of nought decibel (ISO 3744)."""
STUCK = 0.5
"""From this share on something is stuck; chosen."""
HEATER_SHORTED_OHM = 300.0
"""Below this a lock's heater is bridged, and warms nothing; chosen, a third of a sound one's."""


def heater_ohm(cold_ohm: float, at_c: float) -> float:
    """Return the resistance of a heater that throttles itself at a warmth in °C: as cold up to its
    knee, and e^(β(T - T₀)) times that above."""
    return cold_ohm * exp(PTC_PER_K * max(0.0, at_c - PTC_KNEE_C))


def hiss_db(watts: float) -> float:
    """Return how loud an element hisses in its water, in decibel: bubbles that collapse sound with
    a share of its watts."""
    return 10 * log10(max(watts * HISS_SHARE / HEARING_W, 1.0))


def lock(m: Works) -> None:
    """Warm the heater of the lock for a step, or let it cool, and let its bolt follow."""
    v, now = m.v, m.now
    volts = m.volts_at("lock")
    ohm = heater_ohm(v.lock_coil_ohm, now.lock_c)
    watts = volts * volts / ohm
    if volts:
        m.flows("lock", volts / ohm, watts)
    warms = watts if v.lock_coil_ohm > HEATER_SHORTED_OHM else 0.0
    cools = v.lock_loss_w_k * (now.lock_c - v.room_c)
    before = now.lock_c
    now.lock_c += (warms - cools) / v.lock_heat_j_k * STEP_S
    if before < LOCK_OUT_C <= now.lock_c:
        m.seen.add("clicks", 1.0)
    hook_mm = v.hook_gap_mm + STRIKER_MM * (1 - v.striker_share)
    miss_mm = v.lock_miss_mm + HANGS_SHARE * max(v.door_drop_mm, v.lid_miss_mm)
    met = hook_mm < HOOK_REACHES_MM and miss_mm < BOLT_REACHES_MM
    if now.lock_c >= LOCK_OUT_C:
        now.locked = now.locked or (met and m.door_shut)
    elif now.lock_c <= LOCK_BACK_C and v.lock_bolt_stuck < STUCK:
        now.locked = False


def heat(m: Works) -> None:
    """Heat the water for a step, and note what there is to notice of it."""
    volts, before_c = m.volts_at("element"), m.warmth.water_c
    watts = 0.0
    if volts:
        coil = m.v.element_coil_ohm
        watts = m.warmth.heat(volts * volts / coil, STEP_S)
        if watts:
            m.take(volts, "element")
            hot = volts / coil
            if 0.1 < m.v.spade_ohm < 200:
                m.seen.most("smell_share", min(1.0, hot * hot * m.v.spade_ohm / 40))
    else:
        m.warmth.heat(0.0, STEP_S)
    if m.asks.element:
        m.seen.add("heat_asked_s", STEP_S)
        if m.seen.get("heat_asked_s") > FILM_LAG_S and not m.now.in_l_min:
            m.seen.add("warmed_k", m.warmth.water_c - before_c)
            m.seen.add("warmed_s_by_j_k", STEP_S / m.warmth.store_j_k)
        if "heat_from_c" not in m.seen.figures:
            m.seen.put("heat_from_c", m.warmth.water_c)
        if watts:
            m.seen.most("heat_a", hot)
        m.seen.most("heat_to_c", m.warmth.water_c)
        m.seen.most("hiss_db", hiss_db(watts))
    m.seen.most("hot_c", m.warmth.water_c if m.warmth.litres > 1 else 0.0)
