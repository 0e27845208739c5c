"""How a machine moves while it is listened to: its own run, moment by moment, from which its sound
is made."""

from dataclasses import dataclass, fields

import numpy as np
import numpy.typing as npt

from bottega.rig.machine import Machine

Floats = npt.NDArray[np.float64]
STEP_OF = {"spin": "spin", "wash": "turn", "drain": "drain"}
"""By what is listened to, the service step that is run."""
POURED_L = {"wash": 12.0, "drain": 12.0}
"""Litres poured in by hand before it."""
FASTEST = 0.99
"""Share of the fastest turning that counts as full speed."""
MOST_S = 900.0
"""How long a run may last, in second; chosen, three times a sound one."""


@dataclass(frozen=True)
class Motion:
    """How it moves over a time, each figure as a course, (N,): seconds since the beginning; turns a
    minute of drum and motor; ampere of the motor and watts of what slips at its belt; the pump's
    ampere, turns a minute and litre/minute; litres in the tub, and litre/minute that come in;
    clicks so far; how far the tub goes beyond its travel, in millimetre."""

    at_s: Floats
    drum_rpm: Floats
    motor_rpm: Floats
    motor_a: Floats
    slip_w: Floats
    pump_a: Floats
    pump_rpm: Floats
    pump_l_min: Floats
    tub_l: Floats
    in_l_min: Floats
    clicks: Floats
    strikes_mm: Floats

    def at(self, at_s: Floats) -> "Motion":
        """Return the motion at other moments, each read on a line between its neighbours."""
        own = {field.name: getattr(self, field.name) for field in fields(self)}
        return Motion(**{name: np.interp(at_s, self.at_s, y) for name, y in own.items()})

    def part(self, begin_s: float, end_s: float) -> "Motion":
        """Return the part of the motion between two moments, in second."""
        within = (self.at_s >= begin_s) & (self.at_s <= end_s)
        return Motion(**{field.name: getattr(self, field.name)[within] for field in fields(self)})


def motion_of(machine: Machine, of: str, seconds: float) -> Motion:
    """Return how a machine like this one, with the same faults acting, moves in the part of a phase
    that is listened to: the last of a spin's full speed, the first of a wash or of draining. Raises
    KeyError for a phase that is not one of spin, wash and drain."""
    step = STEP_OF[of]
    run = Machine(machine.specimen, machine.acting, empty=machine.empty)
    run.door_shut, run.plugged, run.tap_open = machine.door_shut, machine.plugged, machine.tap_open
    run.now.tripped = machine.now.tripped
    if of in POURED_L:
        run.warmth.pour(POURED_L[of], run.v.cold_tap_c)
    moments: list[tuple[float, ...]] = []
    asked: list[bool] = []

    def look(one: Machine) -> None:
        moments.append(_moment(one))
        asked.append(one.asks.pump if of == "drain" else one.asks.rpm > 0)

    look(run)
    run.telemetry = look
    run.run(step, most_s=MOST_S)
    course = Motion(*np.array(moments).T)
    begin = _heard_from(course, np.array(asked), of, seconds)
    return course.part(begin, begin + seconds)


def _heard_from(course: Motion, asked: npt.NDArray[np.bool_], of: str, seconds: float) -> float:
    """Return the second from which the machine is listened to: in a spin the last of the motor's
    full speed."""
    if of == "spin" and course.motor_rpm.max() > 0:
        fastest = np.flatnonzero(course.motor_rpm >= FASTEST * course.motor_rpm.max())
        return max(0.0, float(course.at_s[fastest[-1]]) - seconds)
    return float(course.at_s[np.argmax(asked)]) if asked.any() else 0.0


def _moment(m: Machine) -> tuple[float, ...]:
    """Return how a machine moves now, its figures in the order of those of a motion."""
    now = m.now
    return (
        now.seconds,
        now.drum_rpm,
        now.motor_rpm,
        now.taken.get("motor", (0.0, 0.0))[0],
        now.slip_w,
        now.taken.get("pump", (0.0, 0.0))[0],
        now.pump_rpm,
        now.out_l_min if now.pump_rpm else 0.0,
        now.tub_l,
        now.in_l_min,
        m.seen.get("clicks"),
        now.strikes_mm,
    )
