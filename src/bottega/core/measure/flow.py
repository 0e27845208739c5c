"""Water by bucket and stopwatch, in and out."""

from typing import NamedTuple


class Filling(NamedTuple):
    """How long a level takes, and which share of the machine's time-out that is, in per cent."""

    seconds: float
    time_out_percent: float


class BothTaps(NamedTuple):
    """Cold and hot collected apart, in litre/minute, and the weaker of both."""

    cold_l_min: float
    hot_l_min: float
    weaker_l_min: float


class ValveTally(NamedTuple):
    """How often it ran on, in per cent of the tries, and in how many of a hundred a valve that
    sticks now and then would have shown itself by now."""

    ran_on_percent: float
    shown_percent: float


STICKS = 0.3
"""How often a valve that sticks now and then does so when it is shut; chosen, three times in
ten."""


def bucket(litres: float, seconds: float) -> float:
    """Return the flow in litre/minute of what was collected in a while."""
    return litres / seconds * 60


def drops(millilitres: float, seconds: float) -> float:
    """Return the flow in millilitre/minute of what ran on after the plug was pulled."""
    return millilitres / seconds * 60


def time_to_level(litres: float, l_min: float, time_out_s: float) -> Filling:
    """Return how long so much water takes at a flow, against the time the machine allows."""
    seconds = litres / l_min * 60
    return Filling(seconds, seconds / time_out_s * 100)


def bucket_both(
    cold_litres: float, cold_seconds: float, hot_litres: float, hot_seconds: float
) -> BothTaps:
    """Return the flow of both taps, each collected by itself."""
    cold, hot = bucket(cold_litres, cold_seconds), bucket(hot_litres, hot_seconds)
    return BothTaps(cold, hot, min(cold, hot))


def run_on_tally(tries: float, ran_on: float) -> ValveTally:
    """Return what so many tries of pulling the plug while it fills say: 1 - (1 - p)^n is the chance
    that a valve that sticks with p would have shown it (binomial)."""
    if ran_on > tries:
        raise ValueError(f"found {ran_on:g} of {tries:g} tries, expected at most as many")
    return ValveTally(ran_on / tries * 100, (1 - (1 - STICKS) ** tries) * 100)
