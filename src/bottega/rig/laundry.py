"""The laundry as a store of water: it drinks, drips, and gives back in the spin."""

from math import exp

from bottega.rig.drives import RAD_S
from bottega.rig.state import STEP_S
from bottega.rig.values import Values
from bottega.rig.works import Works

DRINKS_L_KG, DRIPS_L_KG = 2.0, 1.6
"""Litre a kilogram of cotton holds lying in water, and hung up; 1.5 to 2.5 by its weave."""
LEFT_BY_G = -0.21
"""The power of the acceleration, in times that of falling, with which what is left goes: 0.46 of
its weight at 370, 0.6 at 100; as spins are rated."""
TUMBLED_S, LYING_S, SPUN_S, DRIPPING_S = 40.0, 150.0, 25.0, 60.0
"""Within what time it comes near that; chosen."""
SPINS_FROM_RPM = 100.0
"""From here on laundry lies at the drum's wall, and is spun; chosen, one to one and a half times
the weight."""
SOAKED_L = 1e-4
"""A step's change that counts as none, in litre; chosen."""
SNAGS_MM, STAINS_SHARE, OILS_MM, TEARS_MM = 0.2, 0.9, 30.0, 10.0
"""A burr that snags a thread, mould that stains, a trail of oil that reaches the laundry, fins bent
so that they tear. Chosen."""
G = 9.81


def held_l_kg(rpm: float, radius_m: float) -> float:
    """Return the water a kilogram of cotton keeps in a spin, in litre, in the end."""
    times = (rpm * RAD_S) ** 2 * radius_m / G
    return float(DRIPS_L_KG * min(1.0, times**LEFT_BY_G))


def soak(m: Works) -> bool:
    """Let the laundry take up water for a step, or give it back; return whether it has come to
    rest. Water that fills no more than the sump does not reach it."""
    v, now, warmth = m.v, m.now, m.warmth
    if now.drum_rpm > SPINS_FROM_RPM:
        ends, within = held_l_kg(now.drum_rpm, v.drum_radius_m) * v.load_kg, SPUN_S
    elif warmth.free_l > v.sump_l:
        tumbles = now.drum_rpm > 1
        ends, within = DRINKS_L_KG * v.load_kg, TUMBLED_S if tumbles else LYING_S
    else:
        ends, within = min(DRIPS_L_KG * v.load_kg, warmth.held_l), DRIPPING_S
    moved = (ends - warmth.held_l) * (1 - exp(-STEP_S / within))
    if now.drum_rpm > SPINS_FROM_RPM:
        moved = min(moved, 0.0)
    warmth.held_l += min(moved, warmth.free_l)
    return abs(moved) < SOAKED_L


def marked_share(v: Values) -> float:
    """Return how much laundry is marked, from one on so that it is seen: by a burr that snags,
    mould, oil, or bent fins, whichever is worst."""
    return max(
        v.drum_burr_mm / SNAGS_MM,
        v.mould_share / STAINS_SHARE,
        v.gear_oil_mm / OILS_MM,
        v.fins_bent_mm / TEARS_MM,
    )
