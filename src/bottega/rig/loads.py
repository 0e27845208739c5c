"""Lock and element, a step at a time."""

from bottega.rig.state import STEP_S
from bottega.rig.works import Works

BOLT_S, COOL_S = 2.0, 45.0
"""How long a lock's element takes to push its bolt, and to let it go."""


def lock(m: Works) -> None:
    """Push the bolt of the lock for a step, or let it go."""
    v, now, asks = m.v, m.now, m.asks
    volts = m.volts_at("lock", asks.lock)
    if volts:
        m.take(volts, "lock")
    pushes = volts > 0.5 * v["mains_v"] and 300 < v["lock_coil_ohm"] < 1e5
    reach = v["hook_gap_mm"] < 3 and v["lock_miss_mm"] < 4
    if pushes:
        before, now.bolt_s = now.bolt_s, min(now.bolt_s + STEP_S, BOLT_S + COOL_S)
        if before < BOLT_S <= now.bolt_s:
            m.seen.add("clicks", 1.0)
        if now.bolt_s >= BOLT_S:
            now.locked = reach
            if not reach:
                now.bolt_s = 0.0
    else:
        now.bolt_s = max(0.0, min(now.bolt_s, COOL_S) - STEP_S)
        if now.bolt_s <= 0 and v["lock_bolt_stuck"] < 0.5:
            now.locked = False


def heat(m: Works) -> None:
    """Heat the water for a step, and note what there is to notice of it."""
    volts = m.volts_at("element", m.asks.element)
    watts = 0.0
    if volts:
        coil = m.v["element_coil_ohm"] + m.v["cut_out_ohm"]
        watts = m.warmth.heat(volts * volts / coil, STEP_S)
        if watts:
            m.take(volts, "element")
            hot = volts / coil
            if 0.1 < m.v["spade_ohm"] < 200:
                m.seen.most("smell_share", min(1.0, hot * hot * m.v["spade_ohm"] / 40))
    else:
        m.warmth.heat(0.0, STEP_S)
    if m.asks.element:
        m.seen.add("heat_asked_s", STEP_S)
        m.seen.add("heat_given_j", watts * STEP_S)
        if "heat_from_c" not in m.seen.figures:
            m.seen.put("heat_from_c", m.warmth.water_c)
        if watts:
            m.seen.most("heat_a", hot)
        m.seen.most("heat_to_c", m.warmth.water_c)
        m.seen.most("hiss_db", 30 + (14 if watts > 300 else 0))
    elif watts > 300:
        m.seen.put("heats_unasked", 1.0)
    m.seen.most("hot_c", m.warmth.water_c if m.warmth.litres > 1 else 0.0)
