"""Trains of flashes, strokes and beeps: what is shown comes back, as it was tapped or missed."""

from random import Random

import pytest

from bottega.benchmark.panel import tapped
from bottega.core.panel.decoder import PanelError
from bottega.core.panel.encoder import shown
from bottega.core.panel.heard import heard
from bottega.core.panel.rhythm import Tap, counted, rounds_of


@pytest.mark.parametrize("rounds", [1, 2, 3])
def test_one_record_is_cut_into_its_rounds(rhythmic, rounds):
    """But for groups of one each: whether those are slow flashes or pauses, nothing tells."""
    for machine in rhythmic:
        for code in machine.codes.values():
            lone = machine.panel.kind in ("beeps", "strokes") and set(code.record.show) <= {1, 5}
            if lone:
                continue
            taps = shown(machine.panel, code, rounds).taps
            counts = counted(machine.panel, rounds_of(machine.panel, taps))
            assert counts == (code.record.show,) * rounds, (machine.sheet, code.id)


@pytest.mark.parametrize("pace", [0.4, 1.0, 2.5])
def test_no_stroke_is_long_in_itself(striker, pace):
    train = shown(striker.panel, striker.codes["6-2"]).taps
    taps = [Tap(tap.at_s * pace, 0, tap.held_s * pace) for tap in train]
    assert counted(striker.panel, [taps]) == ((6, 2),)


def test_a_stroke_held_too_early_once_more_is_none(striker):
    train = list(shown(striker.panel, striker.codes["3-2"]).taps)
    extra = Tap(train[1].at_s + train[1].held_s + 0.15, 0, 0.05)
    taps = sorted([*train, extra], key=lambda tap: tap.at_s)
    assert counted(striker.panel, [taps]) == ((3, 2),)
    with pytest.raises(PanelError, match="expected each held as long as the lamp"):
        counted(striker.panel, [[Tap(0), Tap(1)]])


def at(*seconds, lamp=0):
    return [Tap(s, lamp) for s in seconds]


@pytest.mark.parametrize("pace", [0.5, 1.0, 3.0])
def test_no_gap_is_long_in_itself(beeper, pace):
    """The same rhythm slow and fast: groups are parted by their own pauses."""
    taps = at(*(s * pace for s in (0, 0.8, 2.8, 3.6, 4.4)))
    assert counted(beeper.panel, [taps]) == ((2, 3),)


def test_a_missed_flash_leaves_a_gap_and_a_double_tap_none(beeper):
    missed = at(0, 0.8, 1.6, 3.6, 5.2, 6.0)
    assert counted(beeper.panel, [missed]) == ((3, 4),)
    doubled = at(0, 0.8, 0.95, 1.6, 3.6, 4.4)
    assert counted(beeper.panel, [doubled]) == ((3, 2),)


def test_a_melody_is_one_group_however_often_it_is_played(player):
    tones = [Tap(n * 0.8, tone) for n, tone in enumerate((1, 0, 0, 1, 1))]
    assert counted(player.panel, rounds_of(player.panel, tones)) == ((1, 0, 0, 1, 1),)
    twice = [*tones, *(Tap(8 + tap.at_s, tap.lamp) for tap in tones)]
    assert counted(player.panel, rounds_of(player.panel, twice)) == ((1, 0, 0, 1, 1),) * 2


@pytest.mark.parametrize(
    ("taps", "said"),
    [
        (at(0), "found 1 in all, expected at least one for each of: first group then second group"),
        (at(0, 2, 1), "found 1 s after 2 s, expected times that go on"),
        ([Tap(0, 3), Tap(1, 0)], "found lamp 4, expected 1 to 1"),
        (at(*range(401)), "found 401 taps, expected at most 400"),
        (at(0, float("nan")), "found nan s after 0 s"),
    ],
)
def test_what_is_no_rhythm_is_refused(beeper, taps, said):
    with pytest.raises(PanelError, match=said):
        counted(beeper.panel, [taps])


def test_a_rhythm_is_refused_by_a_panel_that_has_none(shelf):
    lamps = shelf.machine("SL", "sestra-torre")
    with pytest.raises(PanelError, match="found a rhythm, expected what this panel shows"):
        counted(lamps.panel, [at(0, 1)])


def test_people_who_tap_along_are_mostly_read_right(rhythmic, shelf):
    """Hands that stray by an eighth, one flash in twenty dropped or doubled: after three rounds."""
    slips, rng, right = shelf.tables.panel, Random(4), []
    for machine in rhythmic:
        least = 1 if machine.panel.kind == "melody" else 2
        for code in machine.codes.values():
            whole = [own for own in tapped(machine, code, rng) if len(own) >= least]
            right.append(heard(machine, counted(machine.panel, whole), slips).first.code == code)
    assert sum(right) / len(right) > 0.93
