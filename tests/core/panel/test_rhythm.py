"""Trains of flashes and beeps: what is shown comes back, as it was tapped or as it was missed."""

from random import Random

import pytest

from bottega.benchmark.panel import tapped
from bottega.core.panel.decoder import PanelError, decode, decode_text
from bottega.core.panel.encoder import lamps_for, shown
from bottega.core.panel.heard import heard
from bottega.core.panel.rhythm import Tap, counted, rounds_of


def machines(shelf, *kinds):
    return [m for m in shelf.machines() if m.panel and m.panel.kind in kinds]


def test_every_code_that_flashes_or_beeps_comes_back_from_what_is_shown(shelf):
    engine, read = shelf.tables.engine, 0
    for machine in machines(shelf, "flash_trains", "beeps"):
        for code in machine.codes.values():
            one = shown(machine.panel, code).taps
            counts = counted(machine.panel, [one] * 3)
            assert counts == (code.record.show,) * 3, (machine.sheet, code.id)
            found = heard(machine, counts, engine)
            assert found.first.code == code
            assert found.odd == ()
            read += 1
    assert read > 50


@pytest.mark.parametrize("rounds", [1, 2, 3])
def test_one_record_is_cut_into_its_rounds(shelf, rounds):
    """But for groups of one each: whether those are slow flashes or pauses, nothing tells."""
    for machine in machines(shelf, "flash_trains", "beeps"):
        for code in machine.codes.values():
            if machine.panel.kind == "beeps" and max(code.record.show) == 1:
                continue
            taps = shown(machine.panel, code, rounds).taps
            counts = counted(machine.panel, rounds_of(machine.panel, taps))
            assert counts == (code.record.show,) * rounds, (machine.sheet, code.id)


def test_every_code_of_lamps_and_characters_comes_back(shelf):
    for machine in machines(shelf, "lamp_pattern", "lamp_weights", "display"):
        panel = machine.panel
        for code in machine.codes.values():
            seen = shown(panel, code)
            if panel.kind == "display":
                assert decode_text(machine, seen.text).code == code
                continue
            pages = seen.lit[0]
            if panel.kind == "lamp_weights":
                pages = tuple(
                    sum(weight * on for weight, on in zip(panel.weights, lit, strict=True))
                    for lit in seen.lit
                )
            assert decode(machine, pages).code == code


def test_a_sum_that_no_lamps_make_cannot_be_shown(shelf):
    machine = machines(shelf, "lamp_weights")[0]
    assert lamps_for(machine.panel, 4) == (1, 1, 0, 0, 0)
    with pytest.raises(PanelError, match="found the sum 2, expected one that lamps of"):
        lamps_for(machine.panel, 2)


def at(*seconds, lamp=0):
    return [Tap(s, lamp) for s in seconds]


@pytest.mark.parametrize("pace", [0.5, 1.0, 3.0])
def test_no_gap_is_long_in_itself(shelf, pace):
    """The same rhythm slow and fast: groups are parted by their own pauses."""
    (machine,) = machines(shelf, "beeps")
    taps = at(*(s * pace for s in (0, 0.8, 2.8, 3.6, 4.4)))
    assert counted(machine.panel, [taps]) == ((2, 3),)


def test_a_missed_flash_leaves_a_gap_and_a_double_tap_none(shelf):
    (machine,) = machines(shelf, "beeps")
    missed = at(0, 0.8, 1.6, 3.6, 5.2, 6.0)
    assert counted(machine.panel, [missed]) == ((3, 4),)
    doubled = at(0, 0.8, 0.95, 1.6, 3.6, 4.4)
    assert counted(machine.panel, [doubled]) == ((3, 2),)


def test_the_chances_are_those_of_bayes_by_hand(shelf):
    """One and one was counted: it is that, or the second of two was missed, one or the other."""
    (machine,) = machines(shelf, "beeps")
    engine = shelf.tables.engine
    miss, double = engine.flash_missed, engine.flash_doubled
    plain = 1 - miss - double
    found = heard(machine, [(1, 1)], engine)
    first = {r.code.id: r.chance for r in found.readings if r.code}
    assert found.first.code.record.show == (1, 1)
    ratio = first["1+2"] / first["1+1"]
    assert ratio == pytest.approx(2 * miss * plain / plain)


def test_the_odd_round_is_named_and_more_rounds_make_it_surer(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    engine = shelf.tables.engine
    one = heard(machine, [(2, 1)], engine)
    three = heard(machine, [(2, 1), (2, 2), (2, 1)], engine)
    assert three.first.code.id == one.first.code.id == "2-1"
    assert three.odd == (1,)
    sure = heard(machine, [(2, 1)] * 3, engine)
    assert sure.first.chance > one.first.chance
    assert sure.first.chance > three.first.chance


def test_what_is_in_no_table_is_said_to_be_none(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    listed = {code.record.show for code in machine.codes.values()}
    free = next(
        (a, b)
        for a in range(1, 10)
        for b in range(1, 10)
        if all(abs(a - c) + abs(b - d) > 2 for c, d in listed)
    )
    found = heard(machine, [free] * 3, shelf.tables.engine)
    assert found.first.code is None
    assert found.first.chance > 0.9


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
def test_what_is_no_rhythm_is_refused(shelf, taps, said):
    (machine,) = machines(shelf, "beeps")
    with pytest.raises(PanelError, match=said):
        counted(machine.panel, [taps])


def test_counts_no_panel_shows_are_refused(shelf):
    machine = shelf.machine("FB", "nembrio-f7")
    for rounds, said in (
        ([], "found no round"),
        ([(1,)], "found 1 counts, expected 2: amber then white"),
        ([(99, 1)], "found 99 amber, expected 1 to 9"),
    ):
        with pytest.raises(PanelError, match=said):
            heard(machine, rounds, shelf.tables.engine)
    timer = next(m for m in shelf.machines() if m.panel is None)
    with pytest.raises(PanelError, match="found counts, expected what"):
        heard(timer, [(1, 1)], shelf.tables.engine)


def test_people_who_tap_along_are_mostly_read_right(shelf):
    """Hands that stray by an eighth, one flash in twenty dropped or doubled: after three rounds."""
    engine, rng, right = shelf.tables.engine, Random(4), []
    for machine in machines(shelf, "flash_trains", "beeps"):
        for code in machine.codes.values():
            taps = tapped(machine, code, rng)
            whole = [own for own in taps if len(own) >= len(machine.panel.lamps)]
            right.append(heard(machine, counted(machine.panel, whole), engine).first.code == code)
    assert sum(right) / len(right) > 0.93
