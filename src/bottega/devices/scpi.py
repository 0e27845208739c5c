"""What is said to a meter and what it answers. Source: SCPI-99, volumes 2 and 4; overload is
9.9E37."""

from dataclasses import dataclass

OVERLOAD = 9.9e37
"""What a meter answers beyond its range (SCPI-99, 7.2.1)."""


@dataclass(frozen=True)
class Function:
    """One function of a meter: what SCPI calls it, and what its number is multiplied by to be in
    the unit of the quantity."""

    node: str
    factor: float = 1.0


FUNCTIONS: dict[str, Function] = {
    "resistance": Function("RES"),
    "insulation": Function("RES:INS", 1e-6),
    "ac_volts": Function("VOLT:AC"),
    "dc_volts": Function("VOLT"),
    "current": Function("CURR:AC"),
    "capacitance": Function("CAP", 1e6),
    "frequency": Function("FREQ"),
    "temperature": Function("TEMP"),
    "power": Function("POW"),
}
"""By the quantity a check measures."""


class MeterError(Exception):
    """A meter that gives no reading: says what was found."""


class NoMeter(MeterError):
    """It does not answer, or went away."""


class Garbage(MeterError):
    """It answered what is no number."""


class WrongFunction(MeterError):
    """It is set to something else."""


def number_of(text: str) -> float | None:
    """Return the number a meter answered, None at overload. Raises Garbage."""
    try:
        value = float(text.strip())
    except ValueError as error:
        raise Garbage(f"found '{text.strip()[:30]}', expected a number from the meter") from error
    if value != value:
        raise Garbage("found no number (NaN), expected one from the meter")
    return None if abs(value) >= OVERLOAD * 0.99 else value
