"""The sound of a machine, made from its own motion: bearing impacts at the geometry's rates,
motor and belt, pump, knocks, and the tones of its panel. As WAV."""

import io
import wave
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from bottega.core.bearings.rates import ball_rates_hz
from bottega.core.panel.rhythm import Tap
from bottega.rig.machine import Machine
from bottega.rig.turning import rough_mm
from bottega.rig.wet import rattle_db

RATE_HZ = 22_050
HEARD = ("spin", "wash", "drain")
"""What can be listened to."""
Floats = npt.NDArray[np.float64]
FULL_DB = 92.0
"""As loud as the file goes; chosen."""
IMPACT_HZ, IMPACT_S = 2_400.0, 0.004
"""A spall's ring in the tub and how fast it dies; chosen."""
TONES_HZ = (620.0, 1240.0)
"""Low and high tone of a panel; chosen, an octave apart."""


def sound_of(machine: Machine, of: str, seconds: float = 4.0) -> Floats:
    """Return the sound of a phase as samples between -1 and 1 at 22,050 a second, (N,). Raises
    KeyError for a phase that is not one of spin, wash and drain."""
    made = {"spin": _spin, "wash": _wash, "drain": _drain}[of]
    count = round(seconds * RATE_HZ)
    at_s = np.arange(count) / RATE_HZ
    rng = np.random.default_rng(_seed(machine))
    return np.asarray(np.clip(made(machine, at_s, rng), -1.0, 1.0))


def _seed(machine: Machine) -> int:
    return int.from_bytes(machine.specimen.seed.encode()[:6].ljust(6, b"0"), "big") % 2**32


def impacts(at_s: Floats, rate_hz: float, level: float) -> Floats:
    """Return a ring that is struck so often a second, (N,): each strike a tone that dies away."""
    if rate_hz <= 0 or level <= 0:
        return np.zeros(len(at_s))
    since = at_s % (1 / rate_hz)
    return np.asarray(level * np.sin(2 * np.pi * IMPACT_HZ * since) * np.exp(-since / IMPACT_S))


def beeps(taps: Sequence[Tap], tail_s: float = 1.0) -> Floats:
    """Return the tones of a panel that sounds, (N,): the tap's lamp is the tone, 0 low and 1
    high."""
    end = (taps[-1].at_s if taps else 0.0) + tail_s
    at_s = np.arange(round(end * RATE_HZ)) / RATE_HZ
    made = np.zeros(len(at_s))
    for tap in taps:
        on = (at_s >= tap.at_s) & (at_s < tap.at_s + max(0.18, tap.held_s))
        made[on] += 0.4 * np.sin(2 * np.pi * TONES_HZ[min(tap.lamp, 1)] * at_s[on])
    return made


def wav(samples: Floats) -> bytes:
    """Return samples as the bytes of a WAV file, 16 bit, one channel."""
    held = io.BytesIO()
    with wave.open(held, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE_HZ)
        file.writeframes((np.clip(samples, -1, 1) * 32_000).astype("<i2").tobytes())
    return held.getvalue()


def _level(decibel: float) -> float:
    return float(10 ** ((decibel - FULL_DB) / 20))


def _spin(machine: Machine, at_s: Floats, rng: np.random.Generator) -> Floats:
    v, rpm = machine.v, max(machine.now.drum_rpm, 900.0)
    turns = rpm / 60
    air = rng.normal(0, _level(v.quiet_db), len(at_s))
    whine = _level(v.quiet_db - 4) * np.sin(2 * np.pi * turns * v.belt_ratio * at_s)
    rates = ball_rates_hz(turns, int(v.bearing_balls), v.bearing_ball_mm, v.bearing_pitch_mm)
    spall = _level(v.quiet_db + 20 * np.log10(max(rough_mm(machine), 1e-3) / 0.12))
    return np.asarray(
        air
        + whine
        + impacts(at_s, rates["outer"], spall)
        + impacts(at_s, rates["inner"], 0.5 * spall)
    )


def _wash(machine: Machine, at_s: Floats, rng: np.random.Generator) -> Floats:
    v = machine.v
    splash = rng.normal(0, _level(v.wash_db - 6), len(at_s)) * (
        0.6 + 0.4 * np.sin(2 * np.pi * 0.8 * at_s)
    )
    hum = _level(v.wash_db - 4) * np.sin(2 * np.pi * 100 * at_s)
    knock = impacts(at_s, 0.8, 3 * _level(machine.turning.knock_db))
    return np.asarray(splash + hum + knock + impacts(at_s, 1.6, _level(40 + v.lifter_object_g)))


def _drain(machine: Machine, at_s: Floats, rng: np.random.Generator) -> Floats:
    v = machine.v
    if v.pump_coil_ohm > 1e5 or v.pump_out_ohm > 1e5 or v.pump_wire_ohm > 1e5:
        return np.zeros(len(at_s))
    hum = _level(62) * np.sin(2 * np.pi * 2 * v.hertz * at_s)
    turns = v.pump_rotor_share > 0.4 and v.pump_jam_share < 0.5
    water = rng.normal(0, _level(58), len(at_s)) if turns else np.zeros(len(at_s))
    rattle = impacts(at_s, v.hertz / 4, _level(rattle_db(v) + 6)) if turns else 0.0
    return np.asarray(hum + water + rattle)
