"""What is inside a bearing, how often its spots are met, how much it carries and how long. Sources:
kinematics of rolling bearings (ISO 15243, annex), ISO 281."""

from dataclasses import dataclass
from math import asin, degrees, floor

from bottega.core.bearings.mark import Bearing
from bottega.core.library.bearing_record import BearingTable

MILLION = 1e6
BALL_EXPONENT, LARGE_BALL_MM = 1.8, 25.4
"""Of ISO 281 for point contact, up to balls of this size."""


@dataclass(frozen=True)
class Inside:
    """The balls of a bearing as its proportions give them: how many, their size and the circle
    their centres run on, in mm."""

    balls: int
    ball_mm: float
    pitch_mm: float


def ball_rates_hz(
    turns_s: float, balls: int, ball_mm: float, pitch_mm: float, *, angle: float = 1.0
) -> dict[str, float]:
    """Return how often a spall is met on the outer ring, the inner ring and a ball, and how often
    the cage goes round, in hertz, the inner ring turning (kinematics of rolling bearings, ISO 15243
    annex). ``angle`` is the cosine of the contact angle."""
    share = ball_mm / pitch_mm * angle
    return {
        "outer": balls / 2 * turns_s * (1 - share),
        "inner": balls / 2 * turns_s * (1 + share),
        "ball": pitch_mm / (2 * ball_mm) * turns_s * (1 - share * share),
        "cage": turns_s / 2 * (1 - share),
    }


def inside(table: BearingTable, bearing: Bearing) -> Inside:
    """Return an estimate of a bearing's balls; makers differ by one ball and a twentieth of the
    size."""
    ball = table.balls.share * (bearing.outside_mm - bearing.bore_mm)
    pitch = (bearing.outside_mm + bearing.bore_mm) / 2
    between = 2 * degrees(asin(ball / pitch))
    return Inside(floor(table.balls.filled_deg / between + 1.5), ball, pitch)


def rating_n(table: BearingTable, within: Inside) -> float:
    """Return the dynamic load rating in newton: C = bm·fc·Z^(2/3)·Dw^1.8 (ISO 281)."""
    share = within.ball_mm / within.pitch_mm
    return float(
        table.rating.bm
        * _between(table.rating.fc, share)
        * within.balls ** (2 / 3)
        * within.ball_mm**BALL_EXPONENT
    )


def _between(points: dict[float, float], at: float) -> float:
    below = max((x for x in points if x <= at), default=min(points))
    above = min((x for x in points if x >= at), default=max(points))
    if above == below:
        return points[below]
    share = (at - below) / (above - below)
    return points[below] + share * (points[above] - points[below])


def bearing_life(
    rating_kn: float, load_n: float, rpm: float, hours_a_week: float
) -> tuple[float, float]:
    """Return the hours nine in ten bearings reach, L10h = (C/P)^3·10^6/(60·n), and the years that
    are at so many hours a week (ISO 281)."""
    hours = (rating_kn * 1000 / load_n) ** 3 * MILLION / (60 * rpm)
    return hours, hours / (hours_a_week * 365.25 / 7)


def impact_rates(
    rpm: float, balls: float, ball_mm: float, pitch_mm: float
) -> tuple[float, float, float, float]:
    """Return how often a spot is met on outer ring, inner ring and ball, and the cage's turns, in
    hertz, at a speed of the shaft."""
    if ball_mm >= pitch_mm:
        raise ValueError(
            f"found balls of {ball_mm:g} mm on a circle of {pitch_mm:g} mm, expected smaller ones"
        )
    rates = ball_rates_hz(rpm / 60, round(balls), ball_mm, pitch_mm)
    return rates["outer"], rates["inner"], rates["ball"], rates["cage"]
