"""Rounds of counts and tones: the chances are those of Bayes, worked out by hand and by drawing."""

from itertools import product
from random import Random

import pytest

from bottega.core.panel.decoder import PanelError
from bottega.core.panel.encoder import strokes_of
from bottega.core.panel.heard import heard


def test_the_chances_are_those_of_bayes_by_hand(beeper, shelf):
    """One and one was counted: it is that, or the second of two was missed, one or the other."""
    slips = shelf.tables.panel
    miss, double = slips.flash_missed, slips.flash_doubled
    found = heard(beeper, [(1, 1)], slips)
    first = {r.code.record.show: r.chance for r in found.readings if r.code}
    assert found.first.code.record.show == (1, 1)
    near = next(show for show in first if show == (1, 2) or show == (2, 1))
    plain = 1 - miss - double
    assert first[near] / first[1, 1] == pytest.approx(2 * miss * plain**2 / plain**2)


def test_a_stroke_seen_as_the_other_is_found_by_drawing(striker, shelf):
    """The chance of counting 2 where 6 is shown, by drawing what each stroke is taken for."""
    slips, rng = shelf.tables.panel, Random(7)
    draws, seen = 60_000, 0
    for _ in range(draws):
        count = 0
        for long in strokes_of(striker.panel, 6):
            worth, other = (5, 1) if long else (1, 5)
            slip = rng.random()
            if slip < slips.flash_missed:
                continue
            if slip < slips.flash_missed + slips.flash_doubled:
                count += 2 * worth
            elif slip < slips.flash_missed + slips.flash_doubled + slips.stroke_misjudged:
                count += other
            else:
                count += worth
        seen += count == 2
    found = heard(striker, [(2, 1)], slips)
    by_code = {r.code.id: r.chance for r in found.readings if r.code}
    ratio = by_code["6-1"] / by_code["2-1"]
    right = ((1 - slips.flash_missed - slips.flash_doubled - slips.stroke_misjudged) ** 2) + (
        2 * slips.flash_missed * slips.flash_doubled
    )
    assert ratio == pytest.approx(seen / draws / right, rel=0.15)


def test_a_melodys_chances_are_those_of_going_through_all_slips(player, shelf):
    """Brute force over what may have happened to each of five tones."""
    slips = shelf.tables.panel
    miss, double, other = slips.flash_missed, slips.flash_doubled, slips.tone_misheard
    once = 1 - miss - double
    heard_tones = (1, 1, 1, 0)

    def by_hand(show):
        total = 0.0
        for fates in product([((), miss), ((0,), once), ((0, 0), double)], repeat=len(show)):
            weight, tones = 1.0, []
            for tone, (times, chance) in zip(show, fates, strict=True):
                weight *= chance
                tones += [tone] * len(times)
            if len(tones) != len(heard_tones):
                continue
            for a, b in zip(tones, heard_tones, strict=True):
                weight *= 1 - other if a == b else other
            total += weight
        return total

    found = heard(player, [heard_tones], slips)
    (one, a), (two, b) = [(r.code.record.show, r.chance) for r in found.readings if r.code][:2]
    assert a / b == pytest.approx(by_hand(one) / by_hand(two))


def test_the_odd_round_is_named_and_more_rounds_make_it_surer(striker, shelf):
    slips = shelf.tables.panel
    one = heard(striker, [(2, 1)], slips)
    three = heard(striker, [(2, 1), (2, 2), (2, 1)], slips)
    assert three.first.code.id == one.first.code.id == "2-1"
    assert three.odd == (1,)
    sure = heard(striker, [(2, 1)] * 3, slips)
    assert sure.first.chance > one.first.chance
    assert sure.first.chance > three.first.chance


def test_what_is_in_no_table_is_said_to_be_none(colours, shelf):
    listed = {code.record.show for code in colours.codes.values()}
    free = next(
        show
        for show in product(range(1, 7), repeat=2)
        if all(abs(show[0] - c) + abs(show[1] - d) > 1 for c, d in listed)
    )
    found = heard(colours, [free] * 3, shelf.tables.panel)
    assert found.first.code is None
    assert found.first.chance > 0.9


def test_counts_no_panel_shows_are_refused(striker, player, shelf):
    slips = shelf.tables.panel
    for machine, rounds, said in (
        (striker, [], "found no round"),
        (striker, [(1,)], "found 1 counts, expected 2: first figure then second figure"),
        (striker, [(99, 1)], "found 99 first figure, expected 1 to 9"),
        (player, [(2, 0)], "expected 0 for low and 1 for the other"),
        (player, [(1,) * 9], "found 9 tones, expected at most 5"),
    ):
        with pytest.raises(PanelError, match=said):
            heard(machine, rounds, slips)
    timer = next(m for m in shelf.machines() if m.panel is None)
    with pytest.raises(PanelError, match="found counts, expected what"):
        heard(timer, [(1, 1)], slips)
