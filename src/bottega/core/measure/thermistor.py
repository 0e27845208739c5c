"""Thermistors by their curve, both ways. Source: beta equation, IEC 60539-1."""

from math import exp, log
from typing import NamedTuple

ZERO_C_K = 273.15
REFERENCE_K = 298.15
"""25 °C, at which a thermistor is named."""


class ThermistorCurve(NamedTuple):
    """A thermistor's curve: ``beta_k`` in kelvin, and its ohm at 25 °C."""

    beta_k: float
    r25_ohm: float


def thermistor_ohm(r25_ohm: float, beta_k: float, celsius: float) -> float:
    """Return the ohm at a temperature: R = R25·exp(B(1/T - 1/298.15 K))."""
    return r25_ohm * exp(beta_k * (1 / (celsius + ZERO_C_K) - 1 / REFERENCE_K))


def thermistor_c(r25_ohm: float, beta_k: float, ohm: float) -> float:
    """Return the temperature in °C at which it has so many ohm: the same, turned round."""
    return 1 / (1 / REFERENCE_K + log(ohm / r25_ohm) / beta_k) - ZERO_C_K


def thermistor_curve(
    first_ohm: float, first_c: float, second_ohm: float, second_c: float
) -> ThermistorCurve:
    """Return the curve through two readings: B = ln(R1/R2)/(1/T1 - 1/T2)."""
    if abs(first_c - second_c) < 1:
        raise ValueError(
            f"found {first_c:g} and {second_c:g} °C, expected two temperatures a degree apart"
        )
    inverse = 1 / (first_c + ZERO_C_K) - 1 / (second_c + ZERO_C_K)
    beta = log(first_ohm / second_ohm) / inverse
    at_25 = first_ohm * exp(beta * (1 / REFERENCE_K - 1 / (first_c + ZERO_C_K)))
    return ThermistorCurve(beta, at_25)


def thermistor_ratio(beta_k: float, cold_c: float, warm_c: float) -> float:
    """Return by what its ohm should fall from one temperature to a warmer one; its size does not
    matter."""
    return thermistor_ohm(1.0, beta_k, cold_c) / thermistor_ohm(1.0, beta_k, warm_c)
