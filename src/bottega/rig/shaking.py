"""How a machine shakes: the tub on its springs and dampers, the stops of its travel, the cabinet on
its feet."""

from bottega.rig.body import carried_n, swing_m
from bottega.rig.drives import RAD_S
from bottega.rig.knocking import G
from bottega.rig.works import Works

STOP_N_M, SWINGS_M = 1e5, 0.08
"""How stiff the cabinet is where the tub strikes it, in newton/metre, and how far a tub can swing
at all; chosen, sheet steel gives a millimetre for a hundred newton."""
SHAKE_STEP_RPM = 20.0
"""Steps of speed in which shaking is worked out."""
FOOT_S = 0.02
"""Within what time a rubber foot stops a cabinet that rocks, in second; chosen."""


def rocking_n(force_n: float, rad_s: float, gap_mm: float, mass_kg: float) -> float:
    """Return the blow of a cabinet that rocks on two feet, in newton: it swings freely, by F/Mω² at
    most, until the gap under the third is closed, and stops there within its foot's give."""
    if rad_s <= 0:
        return 0.0
    swung = min(gap_mm / 1000, force_n / (mass_kg * rad_s**2))
    return mass_kg * swung * rad_s / FOOT_S


def shake(m: Works, rpm: float) -> None:
    """Note how far the tub swings and how hard it pulls at the feet at a speed."""
    at = int(rpm / SHAKE_STEP_RPM)
    if at not in m.shake:
        v, rad_s = m.v, rpm * RAD_S
        mass = v.tub_kg + v.load_kg
        swing = swing_m(rad_s, m.unbalance, mass, v.spring_n_m, damper_ns_m=v.damper_ns_m)
        force = carried_n(rad_s, min(swing, SWINGS_M), v.spring_n_m, v.damper_ns_m)
        force += STOP_N_M * max(0.0, min(swing, SWINGS_M) - v.travel_m)
        if v.transit_bolts > 0:
            force = m.unbalance * rad_s**2
        stands_kg = mass + v.cabinet_kg
        force += rocking_n(force, rad_s, v.feet_gap_mm, stands_kg)
        beyond = 0.0 if v.transit_bolts > 0 else max(0.0, min(swing, SWINGS_M) - v.travel_m)
        m.shake[at] = force / (v.floor_friction * G * stands_kg), 1000 * beyond
    m.seen.most("shake_share", m.shake[at][0])
    m.now.strikes_mm = m.shake[at][1]
