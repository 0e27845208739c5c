"""The supply and its way: drop, loop, leakage, earth."""

from typing import NamedTuple


class Drop(NamedTuple):
    """What a load takes from the mains: volts, and per cent."""

    volts: float
    percent: float


class Loop(NamedTuple):
    """The way to the socket and back: its ohm, and the ampere it would let through at a short."""

    ohm: float
    short_ampere: float


def voltage_drop(idle_v: float, loaded_v: float) -> Drop:
    """Return by how much the mains falls under a load."""
    if loaded_v > idle_v:
        raise ValueError(
            f"found {loaded_v:g} V under load and {idle_v:g} V idle, expected less under load"
        )
    return Drop(idle_v - loaded_v, (idle_v - loaded_v) / idle_v * 100)


def loop_ohm(idle_v: float, loaded_v: float, ampere: float) -> Loop:
    """Return the resistance of the supply by two readings: Z = (U0 - U1)/I (Ohm; a quick look, no
    loop test by IEC 61557-3)."""
    ohm = voltage_drop(idle_v, loaded_v).volts / ampere
    return Loop(ohm, idle_v / ohm if ohm else float("inf"))


def leakage_ma(volts: float, megohm: float) -> float:
    """Return the current in milliampere that leaks through an insulation at the mains: I = U/R
    (Ohm; capacities of filters leak more)."""
    return volts / megohm / 1000


def earth_ohm(millivolts: float, ampere: float) -> float:
    """Return the resistance of an earth by the volts it drops at a test current: R = U/I (IEC
    60335-1 clause 27 tests so, at 10 A or more)."""
    return millivolts / 1000 / ampere
