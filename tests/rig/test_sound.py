"""The sounds of the rig."""

import numpy as np

from bottega.rig.asking import Bench
from bottega.rig.sound import RATE_HZ, beeps, sound_of, wav
from bottega.rig.specimen import Specimen


def test_a_spall_is_heard_at_its_own_rate(f7):
    machine = Bench(Specimen(f7, "loud", {"bearings_worn": 1.0}), "x").machine(
        frozenset({"bearings_worn"})
    )
    v = machine.v
    rate = v.bearing_balls / 2 * 15 * (1 - v.bearing_ball_mm / v.bearing_pitch_mm)
    samples = sound_of(machine, "spin", 4.0)
    envelope = np.abs(np.fft.rfft(np.abs(samples) - np.abs(samples).mean()))
    hertz = np.fft.rfftfreq(len(samples), 1 / RATE_HZ)
    near = envelope[abs(hertz - rate) < 0.6].max()
    assert near > 8 * np.median(envelope[(hertz > 20) & (hertz < 200)])


def test_a_wav_is_a_wav():
    raw = wav(beeps(()))
    assert raw[:4] == b"RIFF"
    assert raw[8:12] == b"WAVE"
