"""The sound of a machine, made from how it moves and from what strikes, rubs, slips and flows in
it; and the tones of its panel. As WAV. A machine that does not move is silent."""

import io
import wave
from collections.abc import Sequence

import numpy as np

from bottega.core.bearings.rates import ball_rates_hz
from bottega.core.panel.rhythm import Tap
from bottega.rig.drives import DIRECT_KINDS
from bottega.rig.knocking import GEARED, bob_mm, gear_db, loosest_mm, struck_db
from bottega.rig.machine import Machine
from bottega.rig.motion import STEP_OF, Floats, Motion, motion_of
from bottega.rig.units import MINUTE_S
from bottega.rig.wet import rattle_db

RATE_HZ = 22_050
HEARD = tuple(STEP_OF)
"""What can be listened to."""
FULL_DB, SIXTEEN_BIT = 92.0, 32_000
"""As loud as the file goes, chosen, and what that is in its samples."""
TONES_HZ, TONE_LEVEL, TONE_S = (620.0, 1240.0), 0.4, 0.18
"""Low and high tone of a panel, how loud they are, and how long at least; chosen, an octave
apart."""
RINGS: dict[str, tuple[float, float]] = {
    "bearing": (2400.0, 0.004), "thud": (110.0, 0.05), "joint": (850.0, 0.012),
    "object": (3600.0, 0.006), "pump": (1500.0, 0.005), "click": (2900.0, 0.003),
    "gear": (1300.0, 0.01),
}  # fmt: skip
"""What is struck: the tone it rings with, in hertz, and how fast that dies, in second. Chosen: a
tub's rim, a counterweight, a loose bolt, a coin in sheet steel, a pump's house, a lock, teeth."""
MOTOR_BALLS, MOTOR_BALL_MM, MOTOR_PITCH_MM = 8, 6.7, 28.5
"""The bearings of a motor with a shaft of its own; chosen, bore 17 mm of the light series."""
SEGMENTS, LIFTERS = 24, 3
"""Bars of a commutator, and ribs in a drum; chosen."""
RATED_RPM, SPALL_MM = 1000.0, 0.15
"""Speed and width of a spall at which bearings are as loud as the air; chosen."""
HUM_DB_A, COMMUTATOR_DB, SPLASH_DB, FLOW_DB, PUMP_DB_A, CAVITATES_DB = (
    30.0, 50.0, 42.0, 34.0, 72.0, 66.0,
)  # fmt: skip
"""Decibel of a motor's hum at one ampere, of its commutator at a thousand turns, of a wash's
splashing, of a litre a minute that comes in, of a pump's hum at one ampere, and of a pump that
draws air. Chosen."""
SCRAPE_DB_MM, SQUEAL_HZ, SQUEAL_DB = 52.0, 900.0, 55.0
"""Decibel of a millimetre of metal that scrapes once a turn; tone and loudness of a belt that slips
with one watt. Chosen."""
SLIPS, STROKES_A_TURN = 0.01, 2
"""By how much balls slide beside their rolling, as a share; and how often a wash falls in a turn.
Chosen."""
LEAST_WATER_L = 0.5
"""Water from which a pump draws no air; chosen."""


def sound_of(machine: Machine, of: str, seconds: float = 4.0) -> Floats:
    """Return the sound of a phase as samples between -1 and 1 at 22,050 a second, (N,): the machine
    is run, and what moves in it sounds. Raises KeyError for a phase that is not one of spin, wash
    and drain."""
    motion = motion_of(machine, of, seconds)
    at_s = np.arange(round(seconds * RATE_HZ)) / RATE_HZ
    spread = motion.at(at_s + motion.at_s[0])
    rng = np.random.default_rng(_seed(machine))
    made = _drum(machine, spread, rng) + _motor(machine, spread, rng)
    made += _knocks(machine, spread) + _pump(machine, spread, rng) + _water(machine, spread, rng)
    made += _clicks(spread)
    if machine.v.noise_beside_db > machine.v.wash_db:
        made += _level(machine.v.noise_beside_db) * np.convolve(
            rng.normal(0, 1, len(at_s)), np.ones(40) / 40, "same"
        )
    return np.asarray(np.clip(made, -1.0, 1.0))


def _seed(machine: Machine) -> int:
    return int.from_bytes(machine.specimen.seed.encode()[:6].ljust(6, b"0"), "big") % 2**32


def _level(decibel: float | Floats) -> Floats:
    return np.asarray(10 ** ((np.asarray(decibel) - FULL_DB) / 20))


def struck(rate_hz: Floats, level: Floats, what: str) -> Floats:
    """Return what rings when it is struck so often a second, (N,): each strike as loud as the
    ``level`` at its moment, dying away as ``what`` does."""
    turns = np.cumsum(rate_hz) / RATE_HZ
    strikes = np.diff(np.floor(turns), prepend=0.0) > 0
    hertz, dies_s = RINGS[what]
    since = np.arange(round(8 * dies_s * RATE_HZ)) / RATE_HZ
    ring = np.sin(2 * np.pi * hertz * since) * np.exp(-since / dies_s)
    return np.convolve(np.where(strikes, level, 0.0), ring)[: len(rate_hz)]


def _tone(hertz: Floats, level: Floats) -> Floats:
    return np.asarray(level * np.sin(2 * np.pi * np.cumsum(hertz) / RATE_HZ))


def _drum(machine: Machine, moves: Motion, rng: np.random.Generator) -> Floats:
    """Return air, the drum's own bearings, and metal that scrapes in its gap once a turn."""
    v, turns_s = machine.v, moves.drum_rpm / MINUTE_S
    speed = moves.drum_rpm / RATED_RPM
    air = _level(v.quiet_db) * speed * rng.normal(0, 1, len(speed))
    made = air + _bearing(
        turns_s, v.bearing_spall_mm, v.quiet_db, rng,
        inside=(int(v.bearing_balls), v.bearing_ball_mm, v.bearing_pitch_mm),
    )  # fmt: skip
    if v.gap_metal_mm or v.rotor_debris_mm:
        rubs = np.maximum(0.0, np.sin(2 * np.pi * np.cumsum(turns_s) / RATE_HZ)) ** 8
        mm = v.gap_metal_mm + v.rotor_debris_mm
        made += _level(SCRAPE_DB_MM) * mm * rubs * (speed > 0) * rng.normal(0, 1, len(speed))
    return np.asarray(made)


def _bearing(
    turns_s: Floats, spall_mm: float, quiet_db: float, rng: np.random.Generator,
    *, inside: tuple[int, float, float],
) -> Floats:  # fmt: skip
    """Return the strikes of a bearing's spall on both rings, by its geometry and its shaft's own
    turns."""
    if spall_mm <= 0:
        return np.zeros(len(turns_s))
    rates = ball_rates_hz(1.0, *inside)
    slides = 1 + SLIPS * np.repeat(rng.normal(0, 1, len(turns_s) // 400 + 1), 400)[: len(turns_s)]
    level = _level(quiet_db) * turns_s * MINUTE_S / RATED_RPM * spall_mm / SPALL_MM
    return struck(turns_s * rates["outer"] * slides, level, "bearing") + struck(
        turns_s * rates["inner"] * slides, level / 2, "bearing"
    )


def _motor(machine: Machine, moves: Motion, rng: np.random.Generator) -> Floats:
    """Return a motor's hum by its current, its commutator by its turns, its own bearings, and what
    its belt slips."""
    v, turns_s = machine.v, moves.motor_rpm / MINUTE_S
    made = _tone(np.full(len(turns_s), 2 * v.hertz), _level(HUM_DB_A) * moves.motor_a**2)
    if machine.kind in ("FB", "WD"):
        bars = _level(COMMUTATOR_DB) * moves.motor_rpm / RATED_RPM / v.belt_ratio
        made += _tone(turns_s * SEGMENTS, bars / max(v.commutator_share, 0.2))
    if machine.kind not in DIRECT_KINDS:
        spall_mm = max(0.0, v.motor_rough_share - 0.2)
        own = (MOTOR_BALLS, MOTOR_BALL_MM, MOTOR_PITCH_MM)
        made += _bearing(turns_s, spall_mm / v.belt_ratio, v.quiet_db, rng, inside=own)
    squeals = np.sqrt(np.maximum(0.0, moves.slip_w)) * _level(SQUEAL_DB)
    glides = SQUEAL_HZ * (1 + 0.1 * np.sin(2 * np.pi * 5 * np.arange(len(turns_s)) / RATE_HZ))
    return np.asarray(made + _tone(glides, squeals))


def _knocks(machine: Machine, moves: Motion) -> Floats:
    """Return what is loose and falls at each turn, the tub at the end of its travel, teeth at each
    stroke, and what lies in a lifter."""
    v, turns_s = machine.v, moves.drum_rpm / MINUTE_S
    slowly = np.where(moves.drum_rpm < 2 * MINUTE_S, 1.0, 0.0)
    made = np.zeros(len(turns_s))
    loose, bobs = loosest_mm(v), bob_mm(v)
    if loose > 0:
        made += struck(turns_s, slowly * _level(struck_db(loose)), _what_is_loose(machine))
    if bobs > 0:
        made += struck(STROKES_A_TURN * turns_s, slowly * _level(struck_db(bobs)), "thud")
    strikes = np.where(moves.strikes_mm > 0, moves.strikes_mm, 1e-9)
    hits = np.where(moves.strikes_mm > 0, _level(struck_db(1.0) + 10 * np.log10(strikes)), 0.0)
    made += struck(turns_s, hits, "thud")
    if v.lifter_object_g > 0:
        made += struck(2 * turns_s, slowly * _level(40 + v.lifter_object_g), "object")
    if machine.kind in GEARED:
        made += struck(turns_s, slowly * _level(gear_db(v)), "gear")
    return made


def _what_is_loose(machine: Machine) -> str:
    v = machine.v
    return "thud" if v.weight_slack_mm >= loosest_mm(v) else "joint"


def _pump(machine: Machine, moves: Motion, rng: np.random.Generator) -> Floats:
    """Return a pump's hum by its current, what its rotor strikes at each turn, and the noise of a
    pump that draws air."""
    v = machine.v
    hum = _level(PUMP_DB_A) * moves.pump_a
    made = _tone(np.full(len(hum), 2 * v.hertz), hum)
    turns_s = moves.pump_rpm / MINUTE_S
    if rattle_db(v) > 40:
        made += struck(turns_s, _level(rattle_db(v)) * (turns_s > 0), "pump")
    draws_air = (turns_s > 0) & (moves.tub_l < LEAST_WATER_L)
    gulps = 0.5 + 0.5 * np.sin(2 * np.pi * 4 * np.arange(len(hum)) / RATE_HZ)
    flows = _level(FLOW_DB) * np.sqrt(moves.pump_l_min)
    noise = flows + _level(CAVITATES_DB) * draws_air * gulps
    return np.asarray(made + noise * rng.normal(0, 1, len(hum)))


def _water(machine: Machine, moves: Motion, rng: np.random.Generator) -> Floats:
    """Return what runs in, and what the ribs of a turning drum throw."""
    turns_s = moves.drum_rpm / MINUTE_S
    falls = 0.6 + 0.4 * np.sin(2 * np.pi * LIFTERS * np.cumsum(turns_s) / RATE_HZ)
    splash = _level(SPLASH_DB) * falls * (turns_s > 0) * np.minimum(1.0, moves.tub_l / 3)
    runs_in = _level(FLOW_DB) * np.sqrt(np.maximum(0.0, moves.in_l_min))
    return np.asarray((splash + runs_in) * rng.normal(0, 1, len(turns_s)))


def _clicks(moves: Motion) -> Floats:
    """Return the clicks of a lock, each at its moment."""
    rate = np.gradient(moves.clicks) * RATE_HZ
    return struck(np.maximum(0.0, rate), np.full(len(rate), _level(60.0)), "click")


def beeps(taps: Sequence[Tap], tail_s: float = 1.0) -> Floats:
    """Return the tones of a panel that sounds, (N,): the tap's lamp is the tone, 0 low and 1
    high."""
    end = (taps[-1].at_s if taps else 0.0) + tail_s
    at_s = np.arange(round(end * RATE_HZ)) / RATE_HZ
    made = np.zeros(len(at_s))
    for tap in taps:
        on = (at_s >= tap.at_s) & (at_s < tap.at_s + max(TONE_S, tap.held_s))
        made[on] += TONE_LEVEL * np.sin(2 * np.pi * TONES_HZ[min(tap.lamp, 1)] * at_s[on])
    return made


def wav(samples: Floats) -> bytes:
    """Return samples as the bytes of a WAV file, 16 bit, one channel."""
    held = io.BytesIO()
    with wave.open(held, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE_HZ)
        file.writeframes((np.clip(samples, -1, 1) * SIXTEEN_BIT).astype("<i2").tobytes())
    return held.getvalue()
