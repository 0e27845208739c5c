"""What knocks and clatters in a wash: what is loose falls, teeth run dry, a tub comes to the end of
its travel."""

from bottega.rig.body import level_db, louder_db
from bottega.rig.values import Values
from bottega.rig.works import Works

G = 9.81
SMOOTH_SHARE, ROUGH_MM, DEBRIS_WEIGHS = 0.25, 0.7, 12.0
"""Roughness of a motor's bearings from which they are felt; how wide a spall they sound like; and
how many millimetres of debris sound like one of spall. Chosen."""
GEARED = frozenset({"TG", "TS", "SL"})
"""Kinds with a gear between motor and wash."""
DRY_DB, ROUGH_DB = 25.0, 20.0
"""Decibel by which a gear without oil, and one with rough teeth, is louder; chosen."""
KNOCK_DB, HELD_LESS_MM = 60.0, -0.1
"""How loud a millimetre of slack knocks, in decibel: speech a metre away; and slack that what is
clamped takes up as it gives. Chosen."""
LOOSENED_MM, ROTOR_SLIPS_NM, HUB_SLIPS_NM = 2.0, 15.0, 40.0
"""Slack of a bolt that is not clamped at all, and the torque below which the rotor's bolt and the
hub's nut let what they hold move; chosen, a half and two thirds of what they are tightened to."""
FALLS_SHARE, WET_KG_KG = 0.5, 3.0
"""Of wet laundry, how much falls at once; and its weight over the dry, with the two litres a
kilogram drinks. Chosen."""


def rough_mm(m: Works) -> float:
    """What roars as a spall of so many millimetres would: drum's bearings, debris at the rotor,
    motor's own."""
    v = m.v
    return max(
        v.bearing_spall_mm,
        v.rotor_debris_mm / DEBRIS_WEIGHS,
        ROUGH_MM * max(0.0, v.motor_rough_share - SMOOTH_SHARE),
    )


def gear_db(v: Values) -> float:
    """Return how loud a gear is, in decibel: teeth that are rough, or run dry of oil."""
    return v.gear_knock_db + DRY_DB * (1 - v.gear_oil_share) + ROUGH_DB * v.gear_rough_share


def loosened_mm(clamped_nm: float, slips_below_nm: float) -> float:
    """Return the slack of a joint whose bolt is clamped with so much torque, in millimetre: none
    from the torque on that holds what pulls at it."""
    return LOOSENED_MM * max(0.0, 1 - clamped_nm / slips_below_nm)


def struck_db(free_mm: float) -> float:
    """Return how loud what falls through its slack strikes, in decibel: with the energy of the
    fall, which goes with the way."""
    return KNOCK_DB + level_db(free_mm)


def loosest_mm(v: Values) -> float:
    """Return the slack of what is loosest at the drum beyond what a clamped joint takes up, in
    millimetre; less than none where all is held."""
    return HELD_LESS_MM + max(
        v.weight_slack_mm,
        v.pulley_slack_mm,
        LOOSENED_MM * (1 - v.magnet_share) + v.magnet_loose_share,
        loosened_mm(v.rotor_bolt_nm, ROTOR_SLIPS_NM),
        loosened_mm(v.hub_nut_nm, HUB_SLIPS_NM),
    )


def bob_mm(v: Values) -> float:
    """Return how far falling laundry drives the tub beyond its travel, in millimetre; less than
    none where it does not come to its end."""
    return 1000 * (FALLS_SHARE * v.load_kg * WET_KG_KG * G / v.spring_n_m - v.travel_m)


def knock_db(v: Values, *, geared: bool) -> float:
    """Return how loud a wash knocks: what is loose at each turn, the tub where falling laundry
    brings it to the end of its travel, and what knocks beside it."""
    strikes = [struck_db(mm) for mm in (loosest_mm(v), bob_mm(v)) if mm > 0]
    strikes += [gear_db(v)] if geared else []
    return louder_db(v.wash_db, v.noise_beside_db, *strikes)
