"""Belt, speeds and what they do: ratio, slip, pulses, force at the wall, and running out."""

from math import pi
from typing import NamedTuple

from bottega.core.measure.level import GRAVITY


class Slip(NamedTuple):
    """How a belt drives: motor speed over ratio, over drum speed; and what is lost, in per
    cent."""

    quotient: float
    slip_percent: float


class Synchronous(NamedTuple):
    """A motor on the mains: the speed of its field in revolutions a minute, and its slip in per
    cent."""

    field_rpm: float
    slip_percent: float


class DrumPull(NamedTuple):
    """What a turning drum does: g at its wall, and the wall's speed in metre/second."""

    g: float
    wall_m_s: float


class Pull(NamedTuple):
    """What an unbalance does: newton round and round, and how many kilogram would weigh so
    much."""

    newton: float
    weighs_kg: float


class RunningOut(NamedTuple):
    """A drum running out: its moment of inertia in kg·m², and what brakes it in newton metre."""

    inertia_kg_m2: float
    brake_nm: float


def belt_ratio(drum_mm: float, motor_mm: float) -> float:
    """Return the ratio of a belt by the diameters of its pulleys."""
    return drum_mm / motor_mm


def belt_slip(motor_rpm: float, drum_rpm: float, ratio: float) -> Slip:
    """Return how much of the motor's speed reaches the drum."""
    quotient = motor_rpm / ratio / drum_rpm
    return Slip(quotient, (1 - 1 / quotient) * 100)


def tacho_rpm(hertz: float, pulses: float) -> float:
    """Return revolutions a minute from a tacho's frequency and its pulses a turn."""
    return hertz / pulses * 60


def synchronous(hertz: float, poles: float, rpm: float) -> Synchronous:
    """Return the speed of a motor's field, 120·f/p, and its slip (IEC 60034-1)."""
    field = 120 * hertz / poles
    return Synchronous(field, (1 - rpm / field) * 100)


def wall_force(rpm: float, drum_mm: float) -> DrumPull:
    """Return how the laundry is pressed to the wall: omega²·r/g."""
    omega, radius = rpm * 2 * pi / 60, drum_mm / 2000
    return DrumPull(omega * omega * radius / GRAVITY, omega * radius)


def unbalance(kilograms: float, drum_mm: float, rpm: float) -> Pull:
    """Return what so much laundry on one side pulls with: m·omega²·r."""
    omega = rpm * 2 * pi / 60
    newton = kilograms * omega * omega * drum_mm / 2000
    return Pull(newton, newton / GRAVITY)


def coast_down(drum_kg: float, drum_mm: float, rpm: float, seconds: float) -> RunningOut:
    """Return what brakes a drum that runs out: T = J·omega/t, with the drum a hoop, J = m·r²
    (Newton)."""
    inertia = drum_kg * (drum_mm / 2000) ** 2
    return RunningOut(inertia, inertia * rpm * 2 * pi / 60 / seconds)


def detents(counted: float, turns: float) -> float:
    """Return the steps of a permanent-magnet rotor in a turn; a pump's has as many as poles, most
    often two or four."""
    return counted / turns


class Clicks(NamedTuple):
    """What was heard: clicks a minute, and how many in all."""

    per_minute: float
    counted: float


def clicks(counted: float, seconds: float) -> Clicks:
    """Return how often something clicks in a minute, and how many clicks it was: one is one however
    short the while, and two are a lock that tries again."""
    return Clicks(counted / seconds * 60, counted)
