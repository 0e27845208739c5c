"""Which check speaks for which fault: held against sums written out by hand."""

import pytest

from bottega.core.library.speaking import SOUND, answers, moved, odds, speaks_for, telling_checks


def by_hand(machine, check, states):
    return [
        sum(p * q for p, q in zip(outcome.chances, states, strict=True))
        for outcome in check.outcomes
    ]


def test_answers_odds_and_how_far_they_move(shelf):
    for name in shelf.archetypes:
        machine = shelf.machine(name)
        for check in machine.checks.values():
            sound = by_hand(machine, check, machine.effects[check.effect].background)
            assert answers(machine, check, SOUND)[0] == pytest.approx(sound)
            assert sum(sound) == pytest.approx(1)
            for fault in machine.faults.values():
                if check.effect not in fault.effects:
                    continue
                bad = by_hand(machine, check, fault.effects[check.effect])
                assert answers(machine, check, SOUND, fault.id)[1] == pytest.approx(bad)
                off = [abs(a - b) for a, b in zip(bad, sound, strict=True)]
                assert moved(machine, check, fault.id) == pytest.approx(off)
                for place, outcome in enumerate(check.outcomes):
                    ratio = bad[place] / max(sound[place], 1e-9)
                    assert odds(machine, check, outcome, fault.id) == pytest.approx(ratio)


def test_a_check_that_reads_nothing_of_a_fault_says_nothing_about_it(f7):
    check = f7.checks["measure_element"]
    assert check.effect not in f7.faults["rotor_slips"].effects
    assert moved(f7, check, "rotor_slips").max() == 0
    assert {odds(f7, check, o, "rotor_slips") for o in check.outcomes} == {1.0}
    assert not any(speaks_for(f7, check, o, "rotor_slips") for o in check.outcomes)
    assert check.id not in dict(telling_checks(f7, "rotor_slips"))


def test_a_rotor_that_turns_freely_speaks_for_a_slipping_one_and_stuck_does_not(f7):
    check = f7.checks["turn_rotor"]
    free, stuck = check.outcome("free"), check.outcome("jammed")
    assert speaks_for(f7, check, free, "rotor_slips")
    assert not speaks_for(f7, check, stuck, "rotor_slips")
    assert free.is_bad
    assert odds(f7, check, free, "rotor_slips") > 2 > odds(f7, check, stuck, "rotor_slips")


def test_the_state_a_fault_leads_to_is_its_likeliest(shelf):
    for name in shelf.archetypes:
        machine = shelf.machine(name)
        for fault in machine.faults.values():
            for effect, chances in fault.effects.items():
                assert chances[fault.leads(effect)] == max(chances)
            assert fault.leads("no_such_effect") is None
