"""What grows warm of a motor: its windings with their protector, its brushes, the plug of its
feed."""

from bottega.rig.drives import contact_ohm
from bottega.rig.state import STEP_S
from bottega.rig.works import Works

ARC_V = 20.0
"""Volts of an arc between copper and carbon; chosen."""
BRUSH_J_K, BRUSH_W_K, BRUSH_SMELLS_C = 15.0, 0.2, 200.0
"""Heat capacity of two brushes with their holders, what they lose by each kelvin, and the warmth
from which they smell; chosen, ten grams of carbon and twenty of brass."""
PROTECTOR_CLOSES_K = 40.0
"""By how much windings cool before their protector closes; chosen, bimetals in motors have 30 to
60."""
PLUG_SMELLS_W, PLUG_WARMS_S = 15.0, 20.0
"""Watts in a plug from which it smells, and how fast it comes to its warmth, in second; chosen, a
hot iron's tip."""


def warm_motor(m: Works, heat_w: float) -> None:
    """Warm the motor's windings by their copper for a step, and let its protector open, and close
    once they have cooled."""
    v, now = m.v, m.now
    cools = v.motor_loss_w_k * (now.motor_c - v.room_c)
    now.motor_c += (heat_w - cools) / v.motor_heat_j_k * STEP_S
    if now.motor_c > v.protector_opens_c:
        now.protector_open = True
        m.seen.put("protector_opened", 1.0)
    elif now.motor_c < v.protector_opens_c - PROTECTOR_CLOSES_K:
        now.protector_open = False


def warm_plug(m: Works) -> None:
    """Let a corroded plug in the motor's feed smell by the watts that are lost in it."""
    ampere = m.now.taken.get("motor", (0.0, 0.0))[0]
    watts = ampere * ampere * m.v.board_plug_ohm
    m.now.plug_w += (watts - m.now.plug_w) * STEP_S / PLUG_WARMS_S
    if m.now.plug_w > PLUG_SMELLS_W:
        m.seen.most("smell_share", min(1.0, m.now.plug_w / (2 * PLUG_SMELLS_W)))


def warm_brushes(m: Works, ampere: float) -> None:
    """Warm the brushes for a step by what they turn into heat: in their contact, and in the arcs
    over a commutator that is no longer whole; let them smell."""
    v, now = m.v, m.now
    watts = ampere * ampere * contact_ohm(v) + ampere * ARC_V * (1 - v.commutator_share)
    now.brush_c += (watts - BRUSH_W_K * (now.brush_c - v.room_c)) / BRUSH_J_K * STEP_S
    if now.brush_c > BRUSH_SMELLS_C:
        m.seen.most("smell_share", min(1.0, now.brush_c / (2 * BRUSH_SMELLS_C)))
