"""A machine on the rig as whoever has it in hand left it."""

import pytest
from tests.app.steps import note

from bottega.app.errors import Refused, Stale
from bottega.app.rig.in_hand import one_act, refuse_in_hand, stand_at
from bottega.store.rigs import RigTicket


def bound(workshop, number):
    workshop.rigs.keep(RigTicket("one", "FB", "nembrio-f7", "seed", {"tap_shut": 1.0}, job=number))
    return stand_at(workshop, "one")


def test_plug_and_taps_follow_the_job_that_has_it_in_hand(workshop, houseboat):
    assert not bound(workshop, houseboat).machine.plugged
    note(workshop, houseboat, kind="state_changed", what="power", to="on")
    note(workshop, houseboat, kind="state_changed", what="taps", to="shut")
    at = stand_at(workshop, "one")
    assert at.machine.plugged
    assert not at.machine.tap_open


def test_what_a_job_has_in_hand_is_not_handled_on_its_own_page(workshop, houseboat):
    at = bound(workshop, houseboat)
    with pytest.raises(Refused, match=f"Job {houseboat} has it in hand"):
        refuse_in_hand(at, "pull")
    workshop.rigs.keep(RigTicket("two", "FB", None, "seed", {}))
    refuse_in_hand(stand_at(workshop, "two"), "pull")


def test_nobody_comes_between_an_act_and_what_was_seen_before_it(workshop):
    workshop.rigs.keep(RigTicket("two", "FB", None, "seed", {}))
    seen = stand_at(workshop, "two").acts
    with one_act(workshop, "two", seen) as at:
        at.machine.wait(10.0)
    assert stand_at(workshop, "two").acts == seen + 1
    with pytest.raises(Stale), one_act(workshop, "two", seen):
        pytest.fail("an act on what was not seen was let in")


def test_an_act_that_fails_leaves_nothing_behind(workshop):
    workshop.rigs.keep(RigTicket("two", "FB", None, "seed", {}))
    before = stand_at(workshop, "two").acts
    with pytest.raises(ZeroDivisionError), one_act(workshop, "two", before):
        raise ZeroDivisionError
    assert workshop.rigs.left("two")[0] == before
