"""How tight a screw is drawn. Sources: ISO 898-1 (proof stress, stress area), the torque of a
thread by friction (VDI 2230, the metric profile of ISO 68-1)."""

from math import pi
from typing import NamedTuple

PROOF_SHARE = 0.75
"""Of the proof load that a screw is drawn to; chosen, the usual for joints that are opened
again (VDI 2230 speaks of up to 0.9 of the yield)."""
STRESS_AREA, FLANK = 0.9382, 0.6495
"""Of the pitch that stress diameter and flank diameter are smaller by (ISO 898-1, ISO 724)."""
THREAD_FRICTION = 0.577
"""Half of flank diameter over the cosine of 30 degrees."""
HEAD_SHARE = 1.3
"""Mean diameter under the head over that of the thread; chosen, hexagon heads of ISO 4017."""


class Tight(NamedTuple):
    """A drawn screw: torque in newton metre, and what it pulls, in newton."""

    torque_nm: float
    pull_n: float


def bolt_torque(thread_mm: float, pitch_mm: float, proof_mpa: float, friction: float) -> Tight:
    """Return how tight to draw a screw of metal in metal: F = 0.75·Sp·As, T = F(P/2pi +
    0.577·mu·d2 + mu·Dk/2)."""
    if pitch_mm >= thread_mm / 2:
        raise ValueError(f"found a pitch of {pitch_mm:g} on M{thread_mm:g}, expected a finer one")
    area = pi / 4 * (thread_mm - STRESS_AREA * pitch_mm) ** 2
    pull = PROOF_SHARE * proof_mpa * area
    flank = thread_mm - FLANK * pitch_mm
    arm = pitch_mm / (2 * pi) + friction * (THREAD_FRICTION * flank + HEAD_SHARE * thread_mm / 2)
    return Tight(pull * arm / 1000, pull)
