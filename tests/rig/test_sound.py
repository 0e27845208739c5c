"""The sounds of the rig: each from what moves, at the rate its geometry says, and silence where
nothing does."""

import numpy as np
import pytest

from bottega.rig.machine import machine_of
from bottega.rig.sound import RATE_HZ, beeps, sound_of, struck, wav


@pytest.fixture
def heard(shelf):
    def of(phase, *faults, sheet="nembrio-f7", unplugged=False):
        machine = machine_of(
            shelf.machine(shelf.sheet(sheet).archetype, sheet), "loud", dict.fromkeys(faults, 1.0)
        )
        machine.let_act(frozenset(faults))
        machine.plugged = not unplugged
        return sound_of(machine, phase, 4.0)

    return of


def decibel(samples):
    return 20 * np.log10(max(float(np.sqrt((samples**2).mean())), 1e-9))


def share_at(samples, hertz, within=2.0, envelope=False):
    """Return how far the spectrum (of the envelope) at a rate stands over its middle."""
    signal = np.abs(samples) - np.abs(samples).mean() if envelope else samples
    sizes = np.abs(np.fft.rfft(signal * np.hanning(len(signal))))
    rates = np.fft.rfftfreq(len(signal), 1 / RATE_HZ)
    band = (rates > 20) & (rates < (200 if envelope else 5000))
    return sizes[abs(rates - hertz) < within].max() / np.median(sizes[band])


def test_a_spall_is_heard_at_the_rate_of_the_drum_s_own_bearing(heard):
    """8/2 · 20/s · (1 - 11.5/43.5) = 58.9 Hz at 1200 rpm (ISO 15243)."""
    assert share_at(heard("spin", "bearings_worn"), 58.85, envelope=True) > 8
    assert share_at(heard("spin"), 58.85, envelope=True) < 8


def test_a_rough_motor_is_heard_at_the_motor_s_turns_not_the_drum_s(heard):
    """250 turns a second under a drum of 20: strikes at 4 · 250 · (1 - 6.7/28.5) = 765 Hz."""
    motor = heard("spin", "motor_bearing_rough")
    assert decibel(motor) > decibel(heard("spin")) + 6
    assert share_at(motor, 58.85, envelope=True) < 8


@pytest.mark.parametrize(
    ("phase", "fault"),
    [
        ("wash", "board_motor_output_dead"),
        ("wash", "outlet_dead"),
        ("drain", "pump_coil_open"),
        ("drain", "board_pump_output_dead"),
        ("spin", "cord_open"),
    ],
)
def test_what_does_not_move_is_silent(heard, phase, fault):
    assert not heard(phase, fault).any()


def test_an_unplugged_machine_is_silent(heard):
    assert not heard("spin", unplugged=True).any()


def test_a_pump_that_is_jammed_hums_louder_and_moves_nothing(heard):
    sound, jammed = heard("drain"), heard("drain", "pump_object_in")
    assert share_at(jammed, 100) > share_at(sound, 100)
    assert decibel(jammed) > decibel(sound)


def test_a_motor_that_stands_under_current_hums_at_twice_the_mains(heard):
    hums = heard("wash", "capacitor_bad", sheet="torvane-alta-10")
    assert share_at(hums, 100) > 1000
    assert decibel(hums) > decibel(heard("wash", sheet="torvane-alta-10")) + 10


def test_a_belt_that_slips_squeals_and_one_that_is_off_lets_the_drum_rest(heard):
    assert share_at(heard("wash", "belt_slipping"), 900, within=100) > 100
    assert share_at(heard("wash"), 900, within=100) < 100
    assert share_at(heard("spin", "belt_off"), 0.8, envelope=True) < 50


def test_a_counterweight_is_a_thud_and_a_coin_a_tick(heard):
    sound = heard("wash")
    thud, tick = heard("wash", "counterweight_loose"), heard("wash", "object_in_lifter")
    assert share_at(thud, 110, within=5) > 3 * share_at(sound, 110, within=5)
    assert share_at(tick, 3600, within=20) > 3 * share_at(sound, 3600, within=20)


def test_a_worn_gear_clatters_in_the_wash(heard):
    worn = heard("wash", "transmission_worn", sheet="pellandra-400")
    whole = heard("wash", sheet="pellandra-400")
    assert share_at(worn, 1300, within=20) > 5 * share_at(whole, 1300, within=20)


def test_strikes_come_as_often_as_they_are_asked_for():
    rings = struck(np.full(RATE_HZ, 5.0), np.full(RATE_HZ, 1.0), "joint")
    quiet = np.abs(rings) < 1e-3
    begun = np.flatnonzero(np.diff(quiet.astype(int)) == -1)
    assert 4 <= len([n for n in begun if quiet[max(0, n - 500) : n].all()]) <= 5


def test_the_same_machine_sounds_the_same(heard):
    assert np.array_equal(heard("spin"), heard("spin"))


def test_a_wav_is_a_wav():
    raw = wav(beeps(()))
    assert raw[:4] == b"RIFF"
    assert raw[8:12] == b"WAVE"
