"""A job played to its end: every move is paid."""

import pytest
from tests.benchmark.test_policy import drawn_play

from bottega.benchmark.play import Move, played
from bottega.benchmark.policies import POLICIES


def test_nothing_is_to_be_noticed_of_a_machine_but_what_its_faults_bring(shop, machine):
    """Before and after a repair: what no end could cure says nothing of a way of working."""
    for seed in range(40):
        play = drawn_play(shop, machine, "two", f"beside{seed}")
        for _ in range(3):
            touched = {e for f in play.world.faults for e in machine.faults[f].effects}
            others = [e for e in machine.noticeable if e not in touched]
            assert all(play.world.patient.states[effect] == 0 for effect in others)
            if play.world.faults:
                repairs = machine.repairs_of(play.world.faults[0])
                play.do(Move("repair", repairs[0].id))


def test_every_move_is_paid_and_a_right_repair_takes_the_fault_away(shop, machine):
    play = drawn_play(shop, machine, "one", "paid")
    check = next(iter(machine.checks.values()))
    minutes = play.minutes_of(check.needs, check.minutes + play.engine.note_minutes)
    play.do(Move("check", check.id))
    assert play.cost == pytest.approx(minutes * play.prices.rate_per_min)
    assert play.looked == play.cost
    right = machine.repairs_of(play.world.faults[0])[0]
    while play.world.faults:
        play.do(Move("repair", right.id))
    assert play.first.right
    assert play.found_within == 1
    assert play.looked < play.cost
    play.do(Move("hand over"))
    assert play.ended == "handed over"


def test_a_fault_left_behind_is_called_about_again(shop, machine):
    for seed in range(30):
        play = drawn_play(shop, machine, "one", f"left{seed}")
        play.do(Move("hand over"))
        if play.callbacks:
            assert play.looked > 0, "it was run and watched before it went back"
            assert play.cost == pytest.approx(play.engine.callback_eur + play.looked)
            assert not play.ended
            spent = play.cost
            play.do(Move("hand over"))
            assert play.cost > spent, "what was called about is run before it goes back again"
            return
    pytest.fail("nobody called again")


def test_every_policy_comes_to_an_end(shop, machine):
    for name, policy in POLICIES.items():
        play = played(drawn_play(shop, machine, "one", "end"), policy)
        assert play.ended, name
        assert play.cost > 0
